import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import type { Design } from '../design/design-schema';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import { rootBetween } from '../numeric/root';
import { polarityOf } from '../operating/ladder-inputs';
import { formatQuantity } from '../quantity/format-quantity';
import { signedVolts } from '../quantity/polarity';
import {
  closedReadings,
  limitsOf,
  statedOf,
  timedReadings,
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
  /** Where it lies with 90 %, and whether a limit of what it may be cuts that short. */
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
/** How near to that counts, and what a rise without a figure is taken for. */
const CLOSE = 0.02;
const MOST_RISE = 1e3;
const MOST_ITERATIONS = 30;
/** How often the closed form is brought to the time domain at most, and by how much of a usual spread values may move without another. */
const MOST_ROUNDS = 3;
const MOVED = 0.2;
const AGAIN_ITERATIONS = 2;
/** A reading where there is no figure, in standard deviations: nothing leads there. */
const FAR = 1e6;
/** Of its usual spread, the step by which what a reading owes to an unknown is found. */
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
  if (readings.some(({ volts }) => signedVolts(volts, polarityOf(design)) < 0)) return { why: 'other sign' };
  const stated = statedOf(design);
  const spread = usualSpread(design, readings);
  const read = readings.map(({ volts }) => Math.abs(volts));
  const sigmas = floored(readings.map((one, at) => sigmaOf(read[at], one)));
  let ratios = readings.map(() => 1);
  const valuesOf = (scaled: readonly number[], of: readonly UnknownId[], from: Unknowns): Unknowns => ({
    ...from,
    ...Object.fromEntries(of.map((id, at) => [id, stated[id] + scaled[at] * spread[id]])),
  });
  const modelOf = (values: Unknowns) =>
    closedReadings(design, readings, values)?.map((volts, at) => volts * ratios[at]);
  const limits = limitsOf(design, readings);
  // The search takes two points at least: one alone stands twice, which moves no minimum.
  const places = readings.length > 1 ? readings.map((_, at) => at) : [0, 0];
  const scaledLimit = (id: UnknownId, end: 0 | 1) => (limits[id][end] - stated[id]) / spread[id];

  /** The best values of some unknowns, the others held. */
  const best = (of: readonly UnknownId[], from: Unknowns, iterations: number): Unknowns => {
    if (of.length === 0) return from;
    const { parameterValues } = levenbergMarquardt(
      { x: places, y: places.map((at) => read[at] / sigmas[at]) },
      (parameters: number[]) => {
        const volts = modelOf(valuesOf(parameters, of, from));
        return (at: number) => (volts ? volts[at] / sigmas[at] : FAR);
      },
      {
        initialValues: of.map((id) => (from[id] - stated[id]) / spread[id]),
        minValues: of.map((id) => scaledLimit(id, 0)),
        maxValues: of.map((id) => scaledLimit(id, 1)),
        gradientDifference: STEP,
        centralDifference: iterations > AGAIN_ITERATIONS,
        maxIterations: iterations,
        damping: 1e-3,
        errorTolerance: 1e-9,
      },
    );
    return valuesOf(parameterValues, of, from);
  };
  const squares = (values: Unknowns): number => {
    const volts = modelOf(values);
    return volts ? volts.reduce((sum, one, at) => sum + ((one - read[at]) / sigmas[at]) ** 2, 0) : Infinity;
  };

  if (!modelOf(stated)) return { why: 'no figure' };
  let values = best(ids, stated, MOST_ITERATIONS);
  yield 0.3;
  let isTimed = false;
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    const timed = yield* within(0.3 + 0.1 * round, 0.4 + 0.1 * round, timedReadings(design, readings, values));
    const closed = closedReadings(design, readings, values);
    if (!timed || !closed) break;
    isTimed = true;
    ratios = timed.map((volts, at) => volts / closed[at]);
    const moved = best(ids, values, MOST_ITERATIONS);
    const furthest = Math.max(...ids.map((id) => Math.abs(moved[id] - values[id]) / spread[id]));
    values = moved;
    // What the two differ by depends on the values: once more where these have moved.
    if (furthest < MOVED) break;
  }
  const least = squares(values);
  if (!(least < Infinity)) return { why: 'no figure' };
  yield 0.7;

  const fitted: Fitted[] = [];
  for (const id of ids) {
    const others = ids.filter((one) => one !== id);
    // Each begins where the others stood last: they follow the one that is moved.
    let nearest = values;
    const rise = (scaled: number) => {
      nearest = best(others, { ...nearest, [id]: stated[id] + scaled * spread[id] }, AGAIN_ITERATIONS);
      return squares(nearest) - least - RISE;
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
  const volts = modelOf(values)!;
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
    alike: alikeIn(design, readings, ids, values),
    isTimed: isTimed && readings.every(({ kind }) => kind === 'tap'),
  };
}

/** Where a reading was taken, in a word or two. */
const placeOf = (point: Point): string =>
  point.kind === 'tap' ? point.node : `the output at ${formatQuantity(point.fraction, '%')}`;

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
  let step = Math.sign(end - middle) * 0.25;
  for (;;) {
    const at = Math.abs(inner.at + step - middle) < Math.abs(end - middle) ? inner.at + step : end;
    const found = rise(at);
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

/** What each reading owes to a usual spread of each unknown, in standard deviations; null where there is no figure. */
function sensitivities(
  design: Design,
  points: readonly Point[],
  ids: readonly UnknownId[],
  values: Unknowns,
): number[][] | null {
  const spread = usualSpread(design, points);
  const limits = limitsOf(design, points);
  const columns = ids.map((id) => {
    const [less, more] = [-STEP, STEP].map((by) =>
      closedReadings(design, points, { ...values, [id]: Math.max(limits[id][0], values[id] + by * spread[id]) }),
    );
    return less && more && more.map((volts, at) => (volts - less[at]) / (2 * STEP) / sigmaOf(volts, points[at]));
  });
  if (columns.some((column) => !column)) return null;
  return points.map((_, at) => columns.map((column) => column![at]));
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

/** Unknowns that cannot be told apart, and the one reading that would tell most of them. */
function alikeIn(design: Design, points: readonly Point[], ids: readonly UnknownId[], values: Unknowns): Fit['alike'] {
  const rows = sensitivities(design, points, ids, values);
  if (!rows) return null;
  const { tells, direction } = weakest(rows);
  if (tells >= TELLS) return null;
  let wouldTell: Candidate | null = null;
  let most = Math.max(TELLS, tells);
  for (const { candidate, point } of candidatesOf(design, points.at(-1)!)) {
    const more = sensitivities(design, [point], ids, values);
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
