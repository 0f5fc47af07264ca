import { formatQuantity } from '../quantity/format-quantity';
import { saying } from '../schema/fields';
import * as z from '../zod';
import type { DeadPlan } from './plan';

/**
 * A plan gone through at the bench: its steps as they stood when it was begun,
 * what was done when, and what was read. Said between browser and server, and
 * kept in both.
 */

const moment = z.iso.datetime({ error: saying('a moment as 2026-01-31T12:00:00Z') });
const volts = z
  .number({ error: saying('volts') })
  .gte(0)
  .lte(1e9);
const line = z.string().max(1000);
const MOST_STEPS = 500;

const stepSchema = z.strictObject({
  id: line,
  title: line,
  text: line,
  seconds: z.number().gte(0).nullable(),
  maySkip: z.boolean(),
  reading: z.strictObject({ where: line, underVolts: volts, failedVolts: volts, meter: line }).nullable(),
  /** When its time was begun, and when it was done; null until then. */
  begunAt: moment.nullable(),
  doneAt: moment.nullable(),
  skipped: z.boolean(),
  readVolts: volts.nullable(),
});

export const runSchema = z.strictObject({
  id: z.uuid({ error: saying('an id of its own') }),
  /** Of the design, from which its plan was made. */
  revision: z.number().int().gte(1).lte(2_147_483_647),
  startedAt: moment,
  finishedAt: moment.nullable(),
  limitVolts: volts,
  steps: z.array(stepSchema).min(1).max(MOST_STEPS),
});
export type DeadRun = z.output<typeof runSchema>;
export type RunStep = DeadRun['steps'][number];

export const runsSchema = z.array(runSchema);
/** What the server answers to a run that it keeps. */
export const keptRunSchema = z.strictObject({ id: z.string() });

/** A run of a plan that begins now. */
export function beginRun(plan: DeadPlan, id: string, revision: number, now: string): DeadRun {
  return {
    id,
    revision,
    startedAt: now,
    finishedAt: null,
    limitVolts: plan.limitVolts,
    steps: plan.steps.map(({ id: step, title, text, seconds, reading }) => ({
      id: step,
      title,
      text,
      seconds,
      maySkip: step === 'bleeder',
      reading,
      begunAt: null,
      doneAt: null,
      skipped: false,
      readVolts: null,
    })),
  };
}

/** Which step is next; the number of all of them once each is done. */
export const nextStep = ({ steps }: DeadRun): number => {
  const at = steps.findIndex(({ doneAt }) => doneAt === null);
  return at < 0 ? steps.length : at;
};

export const doneSteps = ({ steps }: DeadRun): number => steps.filter(({ doneAt }) => doneAt !== null).length;

/** The highest that was read, V; null where nothing was. */
export function highestRead({ steps }: DeadRun): number | null {
  const read = steps.flatMap(({ readVolts }) => readVolts ?? []);
  return read.length ? Math.max(...read) : null;
}

const withStep = (run: DeadRun, at: number, change: Partial<RunStep>): DeadRun => ({
  ...run,
  steps: run.steps.map((step, index) => (index === at ? { ...step, ...change } : step)),
});

/** With the time of a step begun, anew where it had been. */
export const withBegun = (run: DeadRun, at: number, now: string): DeadRun => withStep(run, at, { begunAt: now });

/** How long a step still takes, s: all of it where it has not begun; 0 where it takes as long as it takes. */
export function secondsLeft({ seconds, begunAt }: RunStep, now: number): number {
  if (seconds === null) return 0;
  return begunAt === null ? seconds : Math.max(0, seconds - (now - Date.parse(begunAt)) / 1000);
}

/** Why a step cannot be ended with this reading, V; null where it can. */
export function faultOfReading({ reading }: RunStep, readVolts: number | null): string | null {
  if (!reading) return null;
  if (readVolts === null) return `Measure ${reading.where} and write down what it reads.`;
  if (Math.abs(readVolts) >= reading.underVolts)
    return `${formatQuantity(Math.abs(readVolts), 'V')} is not under ${formatQuantity(reading.underVolts, 'V')}: the stick again, for as long, then measure again.`;
  return null;
}

/**
 * With a step done, and the run finished with the last of them.
 *
 * @throws RangeError where its reading does not let it be
 */
export function withDone(run: DeadRun, at: number, now: string, readVolts: number | null, skipped = false): DeadRun {
  const fault = skipped ? null : faultOfReading(run.steps[at], readVolts);
  if (fault) throw new RangeError(fault);
  const done = withStep(run, at, {
    doneAt: now,
    skipped,
    readVolts: readVolts === null ? null : Math.abs(readVolts),
  });
  return nextStep(done) === done.steps.length ? { ...done, finishedAt: now } : done;
}

/** With the last step that was done open again. */
export function withoutLast(run: DeadRun): DeadRun {
  const at = nextStep(run) - 1;
  return at < 0
    ? run
    : { ...withStep(run, at, { doneAt: null, begunAt: null, skipped: false, readVolts: null }), finishedAt: null };
}
