import { jsonPath, type Fault } from './faults';

/** How large a document may be before any schema looks at it. */
export type Bounds = {
  /** Values in it, all told. */
  values: number;
  depth: number;
  /** Keys of one object. */
  keys: number;
};

/** A design: a few hundred capacitances and a drawn waveform of some thousand samples at most. */
export const DESIGN_BOUNDS: Bounds = { values: 50_000, depth: 20, keys: 1000 };

/** Surrogates that have no other half, and the character zero, which no database text holds. */
export const UNSTORABLE = /\0|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/;

/**
 * What of a parsed document is more than any schema need look at, or holds text
 * that cannot be stored: the first such thing, with its path; null where there
 * is none. Never throws, and looks at no more values than the bounds allow.
 */
export function boundsFault(document: unknown, { values, depth, keys }: Bounds): Fault | null {
  const waiting: { node: unknown; path: readonly PropertyKey[] }[] = [{ node: document, path: [] }];
  let seen = 0;
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { node, path } = next;
    seen += 1;
    if (seen > values) return { path: '$', message: `holds more than ${values} values; must hold fewer` };
    if (typeof node === 'string' && UNSTORABLE.test(node))
      return { path: jsonPath(path), message: 'holds a character that is no text; must be plain text' };
    if (typeof node !== 'object' || node === null) continue;
    if (path.length >= depth)
      return { path: jsonPath(path), message: `is nested deeper than ${depth}; must be flatter` };
    if (Array.isArray(node)) {
      if (node.length > values)
        return { path: jsonPath(path), message: `has more than ${values} items; must have fewer` };
      node.forEach((item, index) => waiting.push({ node: item, path: [...path, index] }));
      continue;
    }
    const entries = Object.entries(node);
    if (entries.length > keys)
      return { path: jsonPath(path), message: `has more than ${keys} fields; must have fewer` };
    for (const [key, value] of entries) {
      if (UNSTORABLE.test(key))
        return { path: jsonPath(path), message: 'has a field whose name is no text; must be plain text' };
      waiting.push({ node: value, path: [...path, key] });
    }
  }
  return null;
}
