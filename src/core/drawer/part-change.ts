import deepEqual from 'fast-deep-equal';
import { partSchema, type Part } from '../parts/part-schema';
import type { DrawerChange } from './drawer-messages';

/** Parts as they were when a change was made, and as it makes them; one that is in only one of both is put in or taken out. */
export type PartChange = {
  from: Part[];
  to: Part[];
  /** Ids of rows that cannot be read and are taken out, for good. */
  unread: string[];
};

/** What takes a change back; null where nothing can. */
export const backFrom = ({ from, to }: PartChange): PartChange | null =>
  from.length + to.length === 0 ? null : { from: to, to: from, unread: [] };

const byId = (parts: readonly Part[]) => new Map(parts.map((part) => [part.id, part]));

/** The change that puts these parts in, or in place of those of the same id, and takes out others. */
export function partChange(put: readonly Part[], remove: readonly string[], standing: readonly Part[]): PartChange {
  const present = byId(standing);
  const to = [...byId(put.filter(({ id }) => !remove.includes(id))).values()];
  return {
    from: [...to.map(({ id }) => id), ...remove].flatMap((id) => present.get(id) ?? []),
    to,
    unread: remove.filter((id) => !present.has(id)),
  };
}

const rankOf = ({ kind, name, id }: Part): string[] => [kind, name, id];

/** By kind, then name, as they come out of the database. */
function byRank(one: Part, other: Part): number {
  const [mine, theirs] = [rankOf(one), rankOf(other)];
  const at = mine.findIndex((word, place) => word !== theirs[place]);
  return at < 0 ? 0 : mine[at] < theirs[at] ? -1 : 1;
}

/** Parts as a change leaves them, in the drawer's order. */
export function withChange(parts: readonly Part[], { put, remove }: DrawerChange): Part[] {
  const after = byId(parts);
  remove.forEach((id) => after.delete(id));
  put.forEach((part) => after.set(part.id, part));
  return [...after.values()].sort(byRank);
}

/** What is to be done to what stands, or the names of parts that were changed elsewhere to something else. */
export type Joined = { kind: 'joined'; change: DrawerChange } | { kind: 'overlap'; names: string[] };

/**
 * Makes a change anew from what stands meanwhile: other fields that were changed
 * elsewhere stay, and counts add up (two tabs that each take three of ten leave
 * four, never fewer than none).
 *
 * @param standing all parts as they stand
 */
export function joinedTo(standing: readonly Part[], { from, to, unread }: PartChange): Joined {
  const [present, before, after] = [byId(standing), byId(from), byId(to)];
  const change: DrawerChange = { put: [], remove: [...unread] };
  const names: string[] = [];
  for (const id of new Set([...before.keys(), ...after.keys()])) {
    const [was, wanted, stands] = [before.get(id), after.get(id), present.get(id)];
    const joined = joinedPart(was, wanted, stands);
    if (joined === 'overlap') names.push((stands ?? wanted ?? was)!.name);
    else if (joined) {
      if (!deepEqual(joined, stands)) change.put.push(joined);
    } else if (stands) change.remove.push(id);
  }
  return names.length > 0 ? { kind: 'overlap', names } : { kind: 'joined', change };
}

/** One part with both changes in it; undefined where it is to be gone. */
function joinedPart(
  was: Part | undefined,
  wanted: Part | undefined,
  stands: Part | undefined,
): Part | undefined | 'overlap' {
  if (deepEqual(was, stands)) return wanted;
  if (!was || !wanted || !stands) return deepEqual(wanted, stands) ? wanted : 'overlap';
  if (was.kind !== stands.kind || was.kind !== wanted.kind) return 'overlap';
  const field = (part: Part, name: string) => (part as Record<string, unknown>)[name];
  const changed = Object.keys(wanted).filter((name) => !deepEqual(field(wanted, name), field(was, name)));
  const apart = (name: string) =>
    !deepEqual(field(stands, name), field(was, name)) && !deepEqual(field(stands, name), field(wanted, name));
  if (changed.some((name) => name !== 'count' && apart(name))) return 'overlap';
  const read = partSchema.safeParse({
    ...stands,
    ...Object.fromEntries(changed.map((name) => [name, field(wanted, name)])),
    count: Math.max(0, stands.count + wanted.count - was.count),
  });
  return read.success ? read.data : 'overlap';
}
