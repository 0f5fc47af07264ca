import type { Design } from './design-schema';

/**
 * The design with one field set, everything else shared.
 *
 * @param change whose path is `$.` and field names joined by points
 * @throws RangeError when the path leads through something that is not an object
 */
export function changeDesign(design: Design, change: { path: string; value: unknown }): Design {
  const keys = change.path.split('.').slice(1);
  const set = (node: unknown, depth: number): unknown => {
    if (depth === keys.length) return change.value;
    if (typeof node !== 'object' || node === null) throw new RangeError(`changeDesign: no object at ${change.path}`);
    return { ...node, [keys[depth]]: set((node as Record<string, unknown>)[keys[depth]], depth + 1) };
  };
  return set(design, 0) as Design;
}
