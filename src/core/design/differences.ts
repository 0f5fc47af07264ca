import { jsonPath } from '../schema/faults';
import type { Design } from './design-schema';

/** One field in which two designs differ. */
export type Difference = { path: string; one: unknown; other: unknown };

/** The fields in which two designs differ, in the document's order; a part absent on one side counts as one difference. */
export function differences(one: Design, other: Design): Difference[] {
  const found: Difference[] = [];
  const compare = (a: unknown, b: unknown, path: readonly string[]) => {
    if (Object.is(a, b)) return;
    const bothObjects = typeof a === 'object' && typeof b === 'object' && a !== null && b !== null;
    // A recorded waveform is one thing, however many samples it has.
    const record = path.at(-1) === 'samples' && JSON.stringify(a) !== JSON.stringify(b);
    if (!bothObjects || record) {
      found.push({ path: jsonPath(path), one: a, other: b });
      return;
    }
    for (const key of new Set([...Object.keys(a), ...Object.keys(b)]))
      compare((a as Record<string, unknown>)[key], (b as Record<string, unknown>)[key], [...path, key]);
  };
  compare(one, other, []);
  return found;
}
