import { readFileSync } from 'node:fs';
import type { Design } from '../../src/core/design/design-schema';
import { readDesign } from '../../src/core/design/read-design';

/** A design of the demo data by the name of its file. */
export function demoDesign(file: string): Design {
  const read = readDesign(JSON.parse(readFileSync(`demo/${file}.ladder.json`, 'utf8')));
  if (!read.ok) throw new Error(`demo/${file}.ladder.json cannot be read`);
  return read.design;
}
