import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { Matrix, SingularValueDecomposition, solve } from 'ml-matrix';
import type { Design } from '../design/design-schema';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import { rootBetween } from '../numeric/root';
import { formatQuantity } from '../quantity/format-quantity';
import { signedVolts } from '../quantity/polarity';
import { closedModel, closedSlopes, timedModel, type Model } from './fit-models';
import {
  closedReadings,
  hasClosedTaps,
  limitsOf,
  statedOf,
  usualSpread,
  type Point,
  type UnknownId,
  type Unknowns,
} from './fit-model';
import { tapsOf } from './proving';
import { USUAL_FRACTIONS } from './steps-up';

/** A reading as the meter showed it, V. */
export type FitReading = Point & { volts: number };

/** What readings tell of one unknown. */
export type Fitted = {
  id: UnknownId;
  /** By the design and the test. */
  stated: number;
  value: number;
  /** Where it lies with 90 %, and whether a limit of what it may be cuts that short; of one that is not determined, those limits. */
  low: number;
  high: number;
  isCut: boolean;
};

export type Fit = {
  fitted: Fitted[];
  /** Each reading, what the fitted ladder has there, and how far off the meter may be as a standard deviation, V. */
  residuals: { at: string; isStep: boolean; read: number; volts: number; sigma: number }[];
  /** Sum of squares of what is left, each in standard deviations, and how many readings there are beyond the unknowns. */
  chiSquared: number;
  freedom: number;
  /** Unknowns that these readings cannot tell apart, and what would: null where none of the candidates does. */
  alike: { ids: UnknownId[]; wouldTell: Candidate | null } | null;
  /** Whether the time domain has the last word; else the closed form alone. */
  isTimed: boolean;
};

/** A reading not taken yet. */
export type Candidate =
  | { kind: 'step'; fraction: number }
  | { kind: 'tap'; node: string }
  | { kind: 'hertz'; node: string; hertz: number }
  | { kind: 'volts'; node: string; rmsVolts: number }
  | { kind: 'probe'; node: string; ohms: number };

export type NoFit = { why: 'too few' | 'no figure' | 'other sign' };

/** Residual over what the meter may be off, as a mean square, from which something else is wrong than the unknowns (common practice, no source). */
const FITS = 4;

/** Whether what is left may be the meter's own: where there are more readings than unknowns. */
export const isExplained = ({ chiSquared, freedom }: Pick<Fit, 'chiSquared' | 'freedom'>): boolean =>
  freedom === 0 || chiSquared / freedom <= FITS;

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
/** How often the closed form is brought to the time domain at most, and by how much of a usual spread values may move without another. */
const MOST_ROUNDS = 3;
const MOVED = 0.2;
/** A reading where there is no figure, in standard deviations: nothing leads there. */
const FAR = 1e6;
/** Usual spreads that weigh as much as one standard deviation of a reading while an unknown is held to what is stated: where nothing tells of it, it stays there. */
const HELD = 3;
/** Of its usual spread, the step by which the search looks around. */
const STEP = 0.02;
/** What a usual spread must move the readings by at least, in standard deviations, to be told. */
const TELLS = 1;
/** Fraction of the greatest move from which an unknown counts as one of those that cannot be told apart. */
const BELONGS = 0.3;
/** A meter's last digit and what one reads off, as a fraction (common practice, no source). */
const DIGIT = 5e-4;
/** The least that a reading is taken to be off, of what the most uncertain one is. */
const LEAST_SIGMA = 0.05;

/**
 * Which values of a few unknowns explain readings at taps best: bounded
 * nonlinear least squares (Levenberg and Marquardt; D. Marquardt, 1963, from
 * memory), each reading weighed by what the meter may be off, taken as even
 * within its accuracy (a / √3, JCGM 100:2008 4.3.7, from memory). By the closed
 * form, brought to the time domain by what the two differ by at each tap.
 * Intervals are those of the profile: the other unknowns fitted anew.
 *
 * @param readings as many as unknowns at least
 * @yields how much of it is done, 0 to 1
 */
export function* fitOf(
  design: Design,
  readings: readonly FitReading[],
  ids: readonly UnknownId[],
): Generator<number, Fit | NoFit> {
  if (readings.length < ids.length || ids.length === 0) return { why: 'too few' };
  // No value of anything turns a ladder around.
  if (readings.some((one) => one.volts * signOf(design, one) < 0)) return { why: 'other sign' };
  const stated = statedOf(design);
  const spread = usualSpread(design, readings);
  const read = readings.map(({ volts }) => Math.abs(volts));
  const sigmas = floored(readings.map((one, at) => sigmaOf(read[at], one)));
  const isClosed = hasClosedTaps(design) || readings.every(({ kind }) => kind === 'step');
  const model = isClosed ? closedModel(design, readings) : timedModel(design, readings, ids);
  const valuesOf = (scaled: readonly number[], of: readonly UnknownId[], from: Unknowns): Unknowns => ({
    ...from,
    ...Object.fromEntries(of.map((id, at) => [id, stated[id] + scaled[at] * spread[id]])),
  });
  const limits = limitsOf(design, readings);
  const count = readings.length;
  const scaledLimit = (id: UnknownId, end: 0 | 1) => (limits[id][end] - stated[id]) / spread[id];

  /** A stretch of the search for the best values of some unknowns, the others kept; of these each held to what is stated so far as nothing tells of it, or free. */
  const searched = (of: readonly UnknownId[], from: Unknowns, isHeld: boolean): Unknowns => {
    const { parameterValues } = levenbergMarquardt(
      {
        x: [...readings, ...of].map((_, at) => at),
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
  const best = (of: readonly UnknownId[], from: Unknowns, isHeld = true): Unknowns => {
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

  if (!isClosed && !(yield* within(0, 0.2, model.refine(stated)))) return { why: 'no figure' };
  if (!model.at(stated)) return { why: 'no figure' };
  let values = best(ids, stated);
  let isTimed = !isClosed;
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    const [from, to] = [round, round + 1].map((part) => 0.2 + (0.5 * part) / MOST_ROUNDS);
    if (!(yield* within(from, to, model.refine(values)))) break;
    isTimed = true;
    const moved = best(ids, values);
    const furthest = Math.max(...ids.map((id) => Math.abs(moved[id] - values[id]) / spread[id]));
    values = moved;
    // What the time domain differs by depends on the values: once more where these have moved.
    if (furthest < MOVED) break;
  }
  const alike = alikeIn(design, readings, ids, values, model, isClosed);
  // What is told is told by the readings alone.
  const free = best(
    ids.filter((id) => !alike?.ids.includes(id)),
    values,
    false,
  );
  if (squares(free) <= squares(values)) values = free;
  const least = squares(values);
  if (!(least < Infinity)) return { why: 'no figure' };
  yield 0.7;

  const columnsAt = (at: Unknowns, of: readonly UnknownId[]): number[][] | null => {
    const rows = model.slopes(at, of);
    return rows && of.map((_, column) => rows.map((row, one) => row[column] / sigmas[one]));
  };
  const slopes = columnsAt(values, ids);
  const hold = alike ? 1 / HELD ** 2 : LEAST_HOLD;
  /** Some unknowns where they fit best beside others that are moved, by the slopes of the best fit (Gauss and Newton's step). */
  const followed = (of: readonly UnknownId[], from: Unknowns): Unknowns => {
    let now = from;
    let columns = slopes && of.map((id) => slopes[ids.indexOf(id)]);
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
      const gradient = known.map((one, a) => product(one, away) + (alike ? hold * scaled[a] : 0));
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
  const fitted: Fitted[] = [];
  for (const id of ids) {
    if (alike?.ids.includes(id)) {
      const [low, high] = limits[id];
      fitted.push({ id, stated: stated[id], value: values[id], low, high, isCut: true });
      continue;
    }
    const others = ids.filter((one) => one !== id);
    // Each begins where the others stood last: they follow the one that is moved.
    let nearest = values;
    const rise = (scaled: number) => {
      const there = followed(others, { ...nearest, [id]: stated[id] + scaled * spread[id] });
      const found = squares(there);
      if (found < Infinity) nearest = there;
      return found - least - RISE;
    };
    const middle = (values[id] - stated[id]) / spread[id];
    const [low, high] = ([0, 1] as const).map((end) => {
      nearest = values;
      return crossing(rise, middle, scaledLimit(id, end));
    });
    fitted.push({
      id,
      stated: stated[id],
      value: values[id],
      low: stated[id] + low.at * spread[id],
      high: stated[id] + high.at * spread[id],
      isCut: low.isCut || high.isCut,
    });
    yield 0.7 + (0.25 * fitted.length) / ids.length;
  }
  const volts = model.at(values)!;
  return {
    fitted,
    residuals: readings.map((one, at) => ({
      at: placeOf(one),
      isStep: one.kind === 'step',
      read: read[at],
      volts: volts[at],
      sigma: sigmas[at],
    })),
    chiSquared: least,
    freedom: readings.length - ids.length,
    alike,
    isTimed: isTimed && readings.every(({ kind }) => kind === 'tap'),
  };
}

/** Where a reading was taken, in a word or two. */
const placeOf = (point: Point): string =>
  point.kind === 'tap' ? point.node : `the output at ${formatQuantity(point.fraction, '%')}`;

/** The sign that a reading has where nothing is wrong: of a ladder that climbs to both sides, by the side of its tap. */
function signOf(design: Design, point: Point): 1 | -1 {
  const { nodes, output } = predict(design, WITHOUT_OPTIMUM);
  const volts = point.kind === 'tap' ? (nodes.find(({ id }) => id === point.node)?.noLoadVolts ?? 0) : 1;
  return signedVolts(volts, output.polarity) < 0 ? -1 : 1;
}

const sigmaOf = (volts: number, { meter }: Point): number => volts * Math.hypot(meter.accuracy / Math.sqrt(3), DIGIT);

/** A reading next to nothing is no more certain than a small one: none outweighs all others. */
function floored(sigmas: readonly number[]): number[] {
  const least = LEAST_SIGMA * Math.max(...sigmas) || 1e-6;
  return sigmas.map((sigma) => Math.max(sigma, least));
}

/** A job as a stretch of a longer one. */
function* within<R>(from: number, to: number, job: Generator<number, R>): Generator<number, R> {
  let step = job.next();
  while (!step.done) {
    yield from + (to - from) * step.value;
    step = job.next();
  }
  return step.value;
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

/** What readings owe to a usual spread of each unknown, in standard deviations. */
const inSigmas = (slopes: number[][], volts: readonly number[], points: readonly Point[]): number[][] =>
  slopes.map((row, at) => row.map((slope) => slope / sigmaOf(volts[at], points[at])));

/** The same of a reading that might be taken, by the closed form; null where it has no figure. */
function candidateRow(design: Design, point: Point, ids: readonly UnknownId[], values: Unknowns): number[][] | null {
  const slopes = closedSlopes(design, [point], values, ids);
  const volts = closedReadings(design, [point], values);
  return slopes && volts && inSigmas(slopes, volts, [point]);
}

/** The direction in which readings tell least, and how much, in standard deviations for a usual spread. */
function weakest(rows: readonly number[][]): { tells: number; direction: number[] } {
  const columns = rows[0].length;
  // With fewer readings than unknowns there is a direction that none sees: empty rows bring it out.
  const filled = [
    ...rows,
    ...Array.from({ length: Math.max(0, columns - rows.length) }, () => Array<number>(columns).fill(0)),
  ];
  const { diagonal, rightSingularVectors } = new SingularValueDecomposition(new Matrix(filled));
  const at = diagonal.indexOf(Math.min(...diagonal));
  return { tells: diagonal[at], direction: rightSingularVectors.getColumn(at) };
}

/** Unknowns that cannot be told apart, and the one reading that would tell most of them, where the closed form has readings. */
function alikeIn(
  design: Design,
  points: readonly Point[],
  ids: readonly UnknownId[],
  values: Unknowns,
  model: Model,
  isClosed: boolean,
): Fit['alike'] {
  const [slopes, volts] = [model.slopes(values, ids), model.at(values)];
  if (!slopes || !volts) return null;
  const rows = inSigmas(slopes, volts, points);
  const { tells, direction } = weakest(rows);
  if (tells >= TELLS) return null;
  let wouldTell: Candidate | null = null;
  let most = Math.max(TELLS, tells);
  for (const { candidate, point } of isClosed ? candidatesOf(design, points.at(-1)!) : []) {
    const more = candidateRow(design, point, ids, values);
    if (!more) continue;
    const found = weakest([...rows, ...more]).tells;
    if (found <= most) continue;
    most = found;
    wouldTell = candidate;
  }
  const columns = ids.map((_, at) => Math.hypot(...rows.map((row) => row[at])));
  const sizes = direction.map(Math.abs);
  const lead = sizes.indexOf(Math.max(...sizes));
  // Of one that hardly moves the readings nothing is told, whatever the others are.
  if (columns[lead] < TELLS) return { ids: [ids[lead]], wouldTell };
  // What the rest move them by cancels out: those that move them much belong together.
  const moves = columns.map((size, at) => size * sizes[at]);
  return { ids: ids.filter((_, at) => moves[at] > BELONGS * Math.max(...moves)), wouldTell };
}

/** Readings that might be taken besides, beside the last: another tap, voltage or frequency, a probe of more or less resistance. */
function candidatesOf(design: Design, last: Point): { candidate: Candidate; point: Point }[] {
  const { meter } = last;
  if (last.kind === 'step')
    return USUAL_FRACTIONS.map((fraction) => ({
      candidate: { kind: 'step' as const, fraction },
      point: { kind: 'step' as const, fraction, meter },
    }));
  const { source } = last;
  return tapsOf(predict(design, WITHOUT_OPTIMUM)).flatMap((node) => {
    const at = { kind: 'tap' as const, node, source, meter };
    return [
      { candidate: { kind: 'tap' as const, node }, point: at },
      ...(source.kind === 'winding'
        ? [
            ...[0.1, 10, 100]
              .map((times) => source.hertz * times)
              .map((hertz) => ({
                candidate: { kind: 'hertz' as const, node, hertz },
                point: { ...at, source: { ...source, hertz } },
              })),
            ...[0.25, 0.5, 2]
              .map((times) => source.rmsVolts * times)
              .map((rmsVolts) => ({
                candidate: { kind: 'volts' as const, node, rmsVolts },
                point: { ...at, source: { ...source, rmsVolts } },
              })),
          ]
        : []),
      ...[0.1, 10]
        .map((times) => meter.inputOhms * times)
        .map((ohms) => ({
          candidate: { kind: 'probe' as const, node, ohms },
          point: { ...at, meter: { ...meter, inputOhms: ohms } },
        })),
    ];
  });
}
