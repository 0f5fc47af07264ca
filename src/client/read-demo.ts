import { readDesign } from '@/core/design/read-design';
import type { Design } from '@/core/design/design-schema';

/**
 * A demo design that comes with the application.
 *
 * @throws where it does not read, which a test would have found
 */
export function readDemo(file: unknown): Design {
  const reading = readDesign(file);
  if (!reading.ok) throw new Error('A demo design does not read.');
  return reading.design;
}
