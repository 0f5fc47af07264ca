import { saying } from '../schema/fields';
import * as z from '../zod';

/** Steps of a build sheet that were done. Said between browser and server, and kept in both. */

/** The most that are sent at once, and that one design keeps. */
export const MOST_TICKS = 2000;

const revision = z.number().int().gte(1).lte(2_147_483_647);
const step = z
  .string({ error: saying('a step of the sheet') })
  .min(1)
  .max(200);
const moment = z.iso.datetime({ error: saying('a moment as 2026-01-31T12:00:00Z') });

/** A step done when, of which revision. */
const tickSchema = z.strictObject({ revision, step, doneAt: moment });
export type Tick = z.output<typeof tickSchema>;
export const ticksSchema = z.array(tickSchema).max(MOST_TICKS);

/** The same as a change: null where the tick is taken away. */
const tickChangeSchema = tickSchema.extend({ doneAt: moment.nullable() });
export type TickChange = z.output<typeof tickChangeSchema>;
export const tickChangesSchema = z.array(tickChangeSchema).max(MOST_TICKS);

/** What the server answers to changes that it keeps. */
export const keptTicksSchema = z.strictObject({ kept: z.number() });

/** Ticks with changes made one after another. */
export function changedTicks(ticks: readonly Tick[], changes: readonly TickChange[]): Tick[] {
  const standing = new Map(ticks.map((tick) => [`${tick.revision} ${tick.step}`, tick]));
  for (const { doneAt, ...place } of changes) {
    const key = `${place.revision} ${place.step}`;
    if (doneAt === null) standing.delete(key);
    else standing.set(key, { ...place, doneAt });
  }
  return [...standing.values()];
}

/** The last earlier revision with ticks that this one has not, and how many; null where there is none. */
export function earlierTicks(ticks: readonly Tick[], revision: number): { revision: number; steps: string[] } | null {
  const earlier = Math.max(0, ...ticks.flatMap((tick) => (tick.revision < revision ? tick.revision : [])));
  const own = new Set(ticks.flatMap((tick) => (tick.revision === revision ? tick.step : [])));
  const steps = ticks.flatMap((tick) => (tick.revision === earlier && !own.has(tick.step) ? tick.step : []));
  return steps.length > 0 ? { revision: earlier, steps } : null;
}
