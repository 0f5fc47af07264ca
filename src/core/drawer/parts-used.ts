import type { Design } from '../design/design-schema';
import type { Part } from '../parts/part-schema';
import { readingOf } from '../parts/place';
import type { PartUse } from './drawer-messages';
import { partIdAt, placesOf } from './places/places-of';

/** Parts of the drawer that a design names, and how many of each it takes. */
export function partsUsed(design: Design): ReadonlyMap<string, number> {
  const read = readingOf(design);
  const used = new Map<string, number>();
  for (const place of placesOf(design)) {
    const id = partIdAt(design, place);
    const count = id === null ? 0 : place.count(read);
    if (id !== null && count > 0) used.set(id, (used.get(id) ?? 0) + count);
  }
  return used;
}

/** What is left of a part: how many designs take, and how many are free; below zero, how many are short. */
export type Stock = { reserved: number; free: number };

export function stockOf({ id, count }: Part, uses: readonly PartUse[]): Stock {
  const reserved = uses.reduce((sum, use) => sum + (use.partId === id ? use.count : 0), 0);
  return { reserved, free: count - reserved };
}

/** The same of many parts, by their ids, with what takes each. */
export function stocksOf(
  parts: readonly Part[],
  uses: readonly PartUse[],
): ReadonlyMap<string, Stock & { usedBy: PartUse[] }> {
  const byPart = new Map<string, PartUse[]>(parts.map(({ id }) => [id, []]));
  for (const use of uses) byPart.get(use.partId)?.push(use);
  return new Map(
    parts.map((part) => {
      const usedBy = byPart.get(part.id)!;
      return [part.id, { ...stockOf(part, usedBy), usedBy }];
    }),
  );
}
