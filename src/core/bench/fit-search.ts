import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { Matrix, solve } from 'ml-matrix';
import { rootBetween } from '../numeric/root';
import type { Model } from './fit-models';
import type { UnknownId, Unknowns } from './fit-model';

/** Rise of the sum of squares at the ends of an interval that holds the true value in 90 of 100 cases, one unknown (chi-square table). */
const RISE = 2.706;
/** Steps of a profile, in usual spreads: the first, and the least that is tried again by a smaller one. */
const FIRST_STEP = 0.25;
const LEAST_STEP = 0.05;
/** How near to that counts, and what a rise without a figure is taken for. */
const CLOSE = 0.02;
const MOST_RISE = 1e3;
/** Iterations of one stretch of the search, stretches at most, and usual spreads that count as no move. */
const STRETCH = 4;
const MOST_STRETCHES = 8;
const STILL = 1e-4;
/** Steps at most in which the others follow one that is moved. */
const FOLLOWING = 15;
/** Of them, after how many the slopes are found anew. */
const ANEW = 3;
/** Usual spreads that one may go by at most, and at the end. */
const MOST_BY = 1;
const FOLLOWED = 1e-3;
/** What keeps the step defined where everything is told. */
const LEAST_HOLD = 1e-9;
/** A reading where there is no figure, in standard deviations: nothing leads there. */
const FAR = 1e6;
/** Usual spreads that weigh as much as one standard deviation of a reading while an unknown is held to what is stated: where nothing tells of it, it stays there. */
const HELD = 3;
/** Of its usual spread, the step by which the search looks around. */
const STEP = 0.02;

/** What a search is made in: what readings would be, where it begins, in which steps it counts and within which limits, and what was read how surely. */
type Searched = {
  model: Model;
  stated: Unknowns;
  spread: Unknowns;
  limits: Record<UnknownId, readonly [number, number]>;
  /** V, and standard deviations of them. */
  read: readonly number[];
  sigmas: readonly number[];
};

export type Search = {
  /** The best values of some unknowns, the others kept; of these each held to what is stated so far as nothing tells of it, or free. */
  best: (of: readonly UnknownId[], from: Unknowns, isHeld: boolean) => Unknowns;
  /** Sum of squares of what is left, in standard deviations; Infinity where there is no figure. */
  squares: (values: Unknowns) => number;
  /** Where one unknown lies with 90 % about its best value, the others following it. */
  profile: (
    id: UnknownId,
    others: readonly UnknownId[],
    values: Unknowns,
    isHeld: boolean,
  ) => { low: number; high: number; isCut: boolean };
};

/** Bounded nonlinear least squares (Levenberg and Marquardt) with intervals by profile. */
export function searchIn({ model, stated, spread, limits, read, sigmas }: Searched): Search {
  const valuesOf = (scaled: readonly number[], of: readonly UnknownId[], from: Unknowns): Unknowns => ({
    ...from,
    ...Object.fromEntries(of.map((id, at) => [id, stated[id] + scaled[at] * spread[id]])),
  });
  const count = read.length;
  const scaledLimit = (id: UnknownId, end: 0 | 1) => (limits[id][end] - stated[id]) / spread[id];

  /** A stretch of the search for the best values of some unknowns, the others kept; of these each held to what is stated so far as nothing tells of it, or free. */
  const searched = (of: readonly UnknownId[], from: Unknowns, isHeld: boolean): Unknowns => {
    const { parameterValues } = levenbergMarquardt(
      {
        x: [...read, ...of].map((_, at) => at),
        y: [...read.map((volts, at) => volts / sigmas[at]), ...of.map(() => 0)],
      },
      (parameters: number[]) => {
        const volts = model.at(valuesOf(parameters, of, from));
        return (at: number) =>
          at >= count ? (isHeld ? parameters[at - count] / HELD : 0) : volts ? volts[at] / sigmas[at] : FAR;
      },
      {
        initialValues: of.map((id) => (from[id] - stated[id]) / spread[id]),
        minValues: of.map((id) => scaledLimit(id, 0)),
        maxValues: of.map((id) => scaledLimit(id, 1)),
        gradientDifference: STEP,
        centralDifference: true,
        maxIterations: STRETCH,
        damping: 1e-3,
        errorTolerance: 1e-9,
      },
    );
    return valuesOf(parameterValues, of, from);
  };
  /** The best values, stretch after stretch until none moves. */
  const best = (of: readonly UnknownId[], from: Unknowns, isHeld: boolean): Unknowns => {
    let now = from;
    for (let stretch = 0; of.length > 0 && stretch < MOST_STRETCHES; stretch += 1) {
      const next = searched(of, now, isHeld);
      const furthest = Math.max(...of.map((id) => Math.abs(next[id] - now[id]) / spread[id]));
      now = next;
      if (furthest < STILL) break;
    }
    return now;
  };
  const squares = (values: Unknowns): number => {
    const volts = model.at(values);
    return volts ? volts.reduce((sum, one, at) => sum + ((one - read[at]) / sigmas[at]) ** 2, 0) : Infinity;
  };

  const columnsAt = (at: Unknowns, of: readonly UnknownId[]): number[][] | null => {
    const rows = model.slopes(at, of);
    return rows && of.map((_, column) => rows.map((row, one) => row[column] / sigmas[one]));
  };
  /** Some unknowns where they fit best beside others that are moved, by slopes that are given at first (Gauss and Newton's step). */
  const followed = (
    of: readonly UnknownId[],
    from: Unknowns,
    first: readonly (readonly number[])[] | null,
    isHeld: boolean,
  ): Unknowns => {
    const hold = isHeld ? 1 / HELD ** 2 : LEAST_HOLD;
    let now = from;
    let columns = first;
    for (let step = 0; of.length > 0 && step < FOLLOWING; step += 1) {
      // Far from the best fit they are no longer what they were.
      if (step > 0 && step % ANEW === 0) columns = columnsAt(now, of);
      const volts = model.at(now);
      if (!volts || !columns) return now;
      const away = volts.map((one, at) => (one - read[at]) / sigmas[at]);
      const product = (one: readonly number[], other: readonly number[]) =>
        one.reduce((sum, value, at) => sum + value * other[at], 0);
      const scaled = of.map((id) => (now[id] - stated[id]) / spread[id]);
      const known = columns;
      const curvature = known.map((one, a) => known.map((other, b) => product(one, other) + (a === b ? hold : 0)));
      const gradient = known.map((one, a) => product(one, away) + (isHeld ? hold * scaled[a] : 0));
      const by = solve(new Matrix(curvature), Matrix.columnVector(gradient)).getColumn(0);
      const clamped = (value: number, id: UnknownId) =>
        Math.min(scaledLimit(id, 1), Math.max(scaledLimit(id, 0), value));
      now = valuesOf(
        scaled.map((value, a) => clamped(value - Math.max(-MOST_BY, Math.min(MOST_BY, by[a])), of[a])),
        of,
        now,
      );
      if (by.every((one) => Math.abs(one) < FOLLOWED)) break;
    }
    return now;
  };
  const profile: Search['profile'] = (id, others, values, isHeld) => {
    const slopes = columnsAt(values, others);
    const least = squares(values);
    // Each begins where the others stood last: they follow the one that is moved.
    let nearest = values;
    const rise = (scaled: number) => {
      const there = followed(others, { ...nearest, [id]: stated[id] + scaled * spread[id] }, slopes, isHeld);
      const found = squares(there);
      if (found < Infinity) nearest = there;
      return found - least - RISE;
    };
    const middle = (values[id] - stated[id]) / spread[id];
    const [low, high] = ([0, 1] as const).map((end) => {
      nearest = values;
      return crossing(rise, middle, scaledLimit(id, end));
    });
    return {
      low: stated[id] + low.at * spread[id],
      high: stated[id] + high.at * spread[id],
      isCut: low.isCut || high.isCut,
    };
  };
  return { best, squares, profile };
}

/** Where a profile rises through its limit, from the middle towards an end; the end where it does not. */
function crossing(rise: (at: number) => number, middle: number, end: number): { at: number; isCut: boolean } {
  let inner = { at: middle, rise: -RISE };
  let step = Math.sign(end - middle) * FIRST_STEP;
  for (;;) {
    const at = Math.abs(inner.at + step - middle) < Math.abs(end - middle) ? inner.at + step : end;
    const found = rise(at);
    // The others did not follow so far: nearer.
    if (found === Infinity && Math.abs(at - inner.at) > LEAST_STEP) {
      step = (at - inner.at) / 4;
      continue;
    }
    if (found > 0) {
      const ends: [number, number][] = [
        [inner.at, inner.rise],
        [at, Math.min(found, MOST_RISE)],
      ];
      const [low, high] = step < 0 ? ends.toReversed() : ends;
      return { at: rootBetween(rise, low, high, CLOSE, CLOSE * Math.abs(at - middle)), isCut: false };
    }
    if (at === end) return { at: end, isCut: true };
    inner = { at, rise: found };
    step *= 2;
  }
}
