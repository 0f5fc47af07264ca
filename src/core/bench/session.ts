import { meterSchema } from '../drive/meter-sense';
import { saying } from '../schema/fields';
import * as z from '../zod';
import { agreementOf, expectedSchema, type Agreement } from './agreement';
import { lowSourceSchema } from './low-source';

/**
 * Readings taken at the bench: on what, through which meter, of which revision,
 * and each as the meter showed it. Said between browser and server, and kept in
 * both; a reading is never changed, another may take its place.
 */

const moment = z.iso.datetime({ error: saying('a moment as 2026-01-31T12:00:00Z') });
const id = z.uuid({ error: saying('an id of its own') });

const READING_KINDS = ['tap', 'source', 'output', 'supply-current'] as const;
export type ReadingKind = (typeof READING_KINDS)[number];

/** What each is read in. */
export const READING_UNITS = { tap: 'V', source: 'V', output: 'V', 'supply-current': 'A' } as const;

export const readingSchema = z.strictObject({
  id,
  takenAt: moment,
  kind: z.enum(READING_KINDS, { error: saying(READING_KINDS.join(', ')) }),
  /** The node a tap is at, or the fraction of full drive of a step up; empty for the source. */
  at: z.string().max(40),
  /** As the display shows it, V or A, with its sign. */
  value: z
    .number({ error: saying('a number') })
    .gte(-1e9)
    .lte(1e9),
  /** What was expected when it was taken; null where nothing was. */
  expected: expectedSchema.nullable(),
  remark: z.string().max(500),
  /** The reading that this one puts right. */
  replaces: id.nullable(),
});
export type Reading = z.output<typeof readingSchema>;

export const MOST_READINGS = 500;

export const sessionSchema = z.strictObject({
  id,
  /** Of the design, that it was taken from. */
  revision: z.number().int().gte(1).lte(2_147_483_647),
  startedAt: moment,
  source: lowSourceSchema,
  meter: meterSchema,
  note: z.string().max(500),
});
export type Session = z.output<typeof sessionSchema>;

/** A session and readings of it: all that are kept, or those that are to be. */
export const sessionReadingsSchema = z.strictObject({
  session: sessionSchema,
  readings: z.array(readingSchema).max(MOST_READINGS),
});
export type SessionReadings = z.output<typeof sessionReadingsSchema>;

/** What the server answers to readings that it keeps: their ids. */
export const keptReadingsSchema = z.strictObject({ kept: z.array(z.string()) });

/** The readings that stand: those that no other has taken the place of, in the order in which they were taken. */
export function standing(readings: readonly Reading[]): Reading[] {
  const replaced = new Set(readings.map(({ replaces }) => replaces));
  return readings
    .filter((one) => !replaced.has(one.id))
    .toSorted((one, other) => one.takenAt.localeCompare(other.takenAt) || one.id.localeCompare(other.id));
}

/** The last that stands at a place; null where nothing was read there. */
export const readingAt = (readings: readonly Reading[], kind: ReadingKind, at: string): Reading | null =>
  standing(readings).findLast((one) => one.kind === kind && one.at === at) ?? null;

/** What stands at each tap, the last of several: what a fit is made from. */
export function tapsRead(readings: readonly Reading[]): { node: string; volts: number }[] {
  const last = new Map<string, number>();
  for (const { kind, at, value } of standing(readings)) if (kind === 'tap') last.set(at, value);
  return [...last].map(([node, volts]) => ({ node, volts }));
}

/** How the readings of a session stood to what was expected as they were taken; those with no expectation are not counted. */
export function stoodAs(readings: readonly Reading[]): Record<Agreement, number> {
  const count = { agrees: 0, doubtful: 0, off: 0 };
  for (const { value, expected } of standing(readings)) if (expected) count[agreementOf(value, expected)] += 1;
  return count;
}

/** What a reading took the place of, newest first. */
export function before(readings: readonly Reading[], reading: Reading): Reading[] {
  const earlier: Reading[] = [];
  for (let one: Reading | undefined = reading; one?.replaces;) {
    const wanted: string = one.replaces;
    one = readings.find((other) => other.id === wanted);
    if (!one || earlier.includes(one)) break;
    earlier.push(one);
  }
  return earlier;
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
