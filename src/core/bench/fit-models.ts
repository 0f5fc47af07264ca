import type { Design } from '../design/design-schema';
import {
  closedReadings,
  limitsOf,
  timedReadings,
  usualSpread,
  type Point,
  type UnknownId,
  type Unknowns,
} from './fit-model';

/** What readings would be with values of the unknowns: quick, and brought to the time domain around some values. */
export type Model = {
  /** V, magnitudes; null where there is no figure. */
  at: (values: Unknowns) => number[] | null;
  /** Brings it to the time domain there; gives whether that has a steady state. */
  refine: (values: Unknowns) => Generator<number, boolean>;
  /** What each reading owes to a usual spread of each unknown, V; null where there is no figure. */
  slopes: (values: Unknowns, ids: readonly UnknownId[]) => number[][] | null;
};

/** Of a usual spread, the step by which slopes of the closed form, and of the time domain, are found. */
const STEP = 0.02;
const TIMED_STEP = 0.25;

/** The closed form, times what the time domain has over it at each reading. */
export function closedModel(design: Design, points: readonly Point[]): Model {
  let ratios = points.map(() => 1);
  const at = (values: Unknowns) =>
    closedReadings(design, points, values)?.map((volts, one) => volts * ratios[one]) ?? null;
  return {
    at,
    *refine(values) {
      const timed = yield* timedReadings(design, points, values);
      const closed = closedReadings(design, points, values);
      if (!timed || !closed) return false;
      ratios = timed.map((volts, one) => volts / closed[one]);
      return true;
    },
    slopes: (values, ids) => closedSlopes(design, points, values, ids),
  };
}

/** Slopes of the closed form; see `Model`. */
function closedSlopes(
  design: Design,
  points: readonly Point[],
  values: Unknowns,
  ids: readonly UnknownId[],
): number[][] | null {
  const spread = usualSpread(design, points);
  const limits = limitsOf(design, points);
  const columns = ids.map((id) => {
    // At a limit the step is to one side alone.
    const [low, high] = [-STEP, STEP].map((by) => Math.max(limits[id][0], values[id] + by * spread[id]));
    const [less, more] = [low, high].map((value) => closedReadings(design, points, { ...values, [id]: value }));
    return less && more && more.map((volts, one) => ((volts - less[one]) * spread[id]) / (high - low));
  });
  return columns.some((column) => !column) ? null : points.map((_, one) => columns.map((column) => column![one]));
}

/** The time domain alone, straight around where it was last computed: for ladders of which the closed form has no taps. */
export function timedModel(design: Design, points: readonly Point[], ids: readonly UnknownId[]): Model {
  const spread = usualSpread(design, points);
  const limits = limitsOf(design, points);
  let known: { values: Unknowns; volts: number[]; slopes: number[][] } | null = null;
  return {
    at: (values) =>
      known &&
      known.volts.map((volts, one) =>
        ids.reduce(
          (sum, id, column) => sum + (known!.slopes[one][column] * (values[id] - known!.values[id])) / spread[id],
          volts,
        ),
      ),
    *refine(values) {
      const jobs = known ? 1 : ids.length + 1;
      const volts = yield* part(0, jobs, timedReadings(design, points, values));
      if (!volts) return false;
      // Slopes change little from where they were first found: the levels take up what they miss.
      if (known) {
        known = { ...known, values, volts };
        return true;
      }
      const columns: number[][] = [];
      for (const id of ids) {
        // Away from a limit, so that there is a step.
        const by = values[id] + TIMED_STEP * spread[id] <= limits[id][1] ? TIMED_STEP : -TIMED_STEP;
        const moved = { ...values, [id]: values[id] + by * spread[id] };
        const there = yield* part(columns.length + 1, jobs, timedReadings(design, points, moved));
        if (!there) return false;
        columns.push(there.map((one, at) => (one - volts[at]) / by));
      }
      known = { values, volts, slopes: points.map((_, one) => columns.map((column) => column[one])) };
      return true;
    },
    slopes: (_, wanted) => known && points.map((__, one) => wanted.map((id) => known!.slopes[one][ids.indexOf(id)])),
  };
}

/** One of several equal parts of a job. */
function* part<R>(at: number, of: number, job: Generator<number, R>): Generator<number, R> {
  let step = job.next();
  while (!step.done) {
    yield (at + step.value) / of;
    step = job.next();
  }
  return step.value;
}
