import { meterSchema, type Meter } from '../drive/meter-sense';
import { saying } from '../schema/fields';
import * as z from '../zod';
import { agreementOf, type Agreement } from './agreement';
import { entrySchema, isReading, type Entry, type Reading, type ReadingKind } from './entries';
import { lowSourceSchema } from './low-source';

/**
 * Readings taken at the bench: on what, through which meter, of which revision,
 * and each as the meter showed it. Said between browser and server, and kept in
 * both; a reading is never changed, another may take its place.
 */

const moment = z.iso.datetime({ error: saying('a moment as 2026-01-31T12:00:00Z') });
const id = z.uuid({ error: saying('an id of its own') });

export const MOST_READINGS = 500;

export const sessionSchema = z.strictObject({
  id,
  /** Of the design, that it was taken from. */
  revision: z.number().int().gte(1).lte(2_147_483_647),
  startedAt: moment,
  source: lowSourceSchema,
  meter: meterSchema,
  /** Air, and what else it was taken in. */
  note: z.string().max(500, { error: () => 'is longer than 500 letters; must be shorter' }),
});
export type Session = z.output<typeof sessionSchema>;

/** A session and readings of it: all that are kept, or those that are to be. */
export const sessionReadingsSchema = z.strictObject({
  session: sessionSchema,
  readings: z.array(entrySchema).max(MOST_READINGS),
});
export type SessionReadings = z.output<typeof sessionReadingsSchema>;

/** Since when the source of a session is on; null while it is off. */
export const switchedOnSchema = z.strictObject({
  sessionId: z.string().default(''),
  at: moment.nullable().default(null),
});

/** What the server answers to readings that it keeps: their ids. */
export const keptReadingsSchema = z.strictObject({ kept: z.array(z.string()) });

/** The entries that stand: those that no other has taken the place of, in the order in which they were taken. */
export function standing<T extends Entry>(readings: readonly T[]): T[] {
  const replaced = new Set(readings.map(({ replaces }) => replaces));
  return readings
    .filter((one) => !replaced.has(one.id))
    .toSorted((one, other) => one.takenAt.localeCompare(other.takenAt) || one.id.localeCompare(other.id));
}

/** The last that stands of a kind at a place, by both; null where nothing was read there. */
export function readingsByPlace(entries: readonly Entry[]): (kind: ReadingKind, at: string) => Reading | null {
  const last = new Map(
    standing(entries)
      .filter(isReading)
      .map((reading) => [`${reading.kind} ${reading.at}`, reading]),
  );
  return (kind, at) => last.get(`${kind} ${at}`) ?? null;
}

/** What stands at each tap, the last of several, and its meter where that is not the session's: what a fit is made from. */
export function tapsRead(entries: readonly Entry[]): { node: string; volts: number; meter: Meter | null }[] {
  const last = new Map<string, Reading>();
  for (const one of standing(entries).filter(isReading)) if (one.kind === 'tap') last.set(one.at, one);
  return [...last].map(([node, { value, meter }]) => ({ node, volts: value, meter }));
}

/** How the readings of a session stood to what was expected as they were taken; those with no expectation are not counted. */
export function stoodAs(entries: readonly Entry[]): Record<Agreement, number> {
  const count = { agrees: 0, doubtful: 0, off: 0 };
  for (const { value, expected } of standing(entries).filter(isReading))
    if (expected) count[agreementOf(value, expected)] += 1;
  return count;
}

/** What an entry took the place of, newest first. */
export function before<T extends Entry>(entries: readonly T[], entry: T): T[] {
  const earlier: T[] = [];
  for (let one: T | undefined = entry; one?.replaces;) {
    const wanted: string = one.replaces;
    one = entries.find((other) => other.id === wanted);
    if (!one || earlier.includes(one)) break;
    earlier.push(one);
  }
  return earlier;
}

/** The last that stands of a kind at a place, of two sets of sessions; null where one has none. */
export function readingsBeside(
  one: readonly SessionReadings[],
  other: readonly SessionReadings[],
): { kind: ReadingKind; at: string; one: number | null; other: number | null }[] {
  const [a, b] = [one, other].map((sessions) => {
    const last = new Map<string, Reading>();
    // Oldest session first, so that the newest has the last word.
    for (const { readings } of sessions.toReversed())
      for (const reading of standing(readings).filter(isReading)) last.set(`${reading.kind} ${reading.at}`, reading);
    return last;
  });
  return [...new Set([...a.keys(), ...b.keys()])].map((key) => {
    const { kind, at } = (a.get(key) ?? b.get(key))!;
    return { kind, at, one: a.get(key)?.value ?? null, other: b.get(key)?.value ?? null };
  });
}

/** Sessions of two places as one, each reading once; newest session first. */
export function joined(...lists: readonly (readonly SessionReadings[])[]): SessionReadings[] {
  const sessions = new Map<string, SessionReadings>();
  for (const { session, readings } of lists.flat()) {
    const there = sessions.get(session.id);
    const known = new Set(there?.readings.map((one) => one.id));
    sessions.set(session.id, {
      session: there?.session ?? session,
      readings: [...(there?.readings ?? []), ...readings.filter((one) => !known.has(one.id))],
    });
  }
  return [...sessions.values()].toSorted((one, other) => other.session.startedAt.localeCompare(one.session.startedAt));
}
