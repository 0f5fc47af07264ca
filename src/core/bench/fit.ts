import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import type { Design } from '../design/design-schema';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import { formatQuantity } from '../quantity/format-quantity';
import { signedVolts } from '../quantity/polarity';
import { closedModel, timedModel, type Model } from './fit-models';
import { hasClosedTaps, limitsOf, statedOf, usualSpread, type Point, type UnknownId, type Unknowns } from './fit-model';
import { searchIn } from './fit-search';
import { finished, tapsOf } from './proving';
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

/** How often the closed form is brought to the time domain at most, and by how much of a usual spread values may move without another. */
const MOST_ROUNDS = 3;
const MOVED = 0.2;
/** What a usual spread must move the readings by at least, in standard deviations, to be told. */
const TELLS = 1;
/** Fraction of the greatest move from which an unknown counts as one of those that cannot be told apart. */
const BELONGS = 0.3;
/** A meter's last digit and what one reads off, as a fraction (common practice, no source). */
const DIGIT = 5e-4;
/** The least that a reading is taken to be off, of what the most uncertain one is. */
const LEAST_SIGMA = 0.05;

/**
 * Which values of a few unknowns explain readings at taps and at the steps up
 * best: bounded nonlinear least squares (Levenberg and Marquardt; D. Marquardt,
 * 1963, from memory), each reading weighed by what its meter may be off, taken as
 * even within its accuracy (a / √3, JCGM 100:2008 4.3.7, from memory). By the
 * closed form, brought to the time domain by what the two differ by at each tap;
 * by the time domain alone where the closed form has no taps. Intervals are those
 * of the profile: the other unknowns fitted anew.
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
  const read = readings.map(({ volts }) => Math.abs(volts));
  const sigmas = floored(readings.map((one, at) => sigmaOf(read[at], one)));
  const isClosed = hasClosedTaps(design) || readings.every(({ kind }) => kind === 'step');
  const model = isClosed ? closedModel(design, readings) : timedModel(design, readings, ids);
  const limits = limitsOf(design, readings);
  const spread = usualSpread(design, readings);
  const search = searchIn({
    model,
    stated,
    spread,
    limits,
    read,
    sigmas,
  });
  if (!isClosed && !(yield* within(0, 0.2, model.refine(stated)))) return { why: 'no figure' };
  if (!model.at(stated)) return { why: 'no figure' };
  let values = search.best(ids, stated, true);
  let isTimed = !isClosed;
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    const [from, to] = [round, round + 1].map((part) => 0.2 + (0.5 * part) / MOST_ROUNDS);
    if (!(yield* within(from, to, model.refine(values)))) break;
    isTimed = true;
    const moved = search.best(ids, values, true);
    const furthest = Math.max(...ids.map((id) => Math.abs(moved[id] - values[id]) / spread[id]));
    values = moved;
    // What the time domain differs by depends on the values: once more where these have moved.
    if (furthest < MOVED) break;
  }
  const alike = yield* within(0.7, 0.8, alikeIn(design, readings, ids, values, model, isClosed));
  // What is told is told by the readings alone.
  const free = search.best(
    ids.filter((id) => !alike?.ids.includes(id)),
    values,
    false,
  );
  if (search.squares(free) <= search.squares(values)) values = free;
  const least = search.squares(values);
  if (!(least < Infinity)) return { why: 'no figure' };
  yield 0.8;

  const fitted: Fitted[] = [];
  for (const id of ids) {
    if (alike?.ids.includes(id)) {
      const [low, high] = limits[id];
      fitted.push({ id, stated: stated[id], value: values[id], low, high, isCut: true });
      continue;
    }
    const others = ids.filter((one) => one !== id);
    fitted.push({ id, stated: stated[id], value: values[id], ...search.profile(id, others, values, alike !== null) });
    yield 0.8 + (0.2 * fitted.length) / ids.length;
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

/** What readings owe to a usual spread of each unknown, in standard deviations. */
const inSigmas = (slopes: number[][], volts: readonly number[], points: readonly Point[]): number[][] =>
  slopes.map((row, at) => row.map((slope) => slope / sigmaOf(volts[at], points[at])));

/** The same of a reading that might be taken, by the closed form or by the time domain alone; null where that has no figure. */
function* candidateRow(
  design: Design,
  point: Point,
  ids: readonly UnknownId[],
  values: Unknowns,
  isClosed: boolean,
): Generator<unknown, number[][] | null> {
  const model = isClosed ? closedModel(design, [point]) : timedModel(design, [point], ids);
  if (!isClosed && !(yield* model.refine(values))) return null;
  const [slopes, volts] = [model.slopes(values, ids), model.at(values)];
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

/** Unknowns that cannot be told apart, and the one reading that would tell most of them. */
function* alikeIn(
  design: Design,
  points: readonly Point[],
  ids: readonly UnknownId[],
  values: Unknowns,
  model: Model,
  isClosed: boolean,
): Generator<number, Fit['alike']> {
  const [slopes, volts] = [model.slopes(values, ids), model.at(values)];
  if (!slopes || !volts) return null;
  const rows = inSigmas(slopes, volts, points);
  const { tells, direction } = weakest(rows);
  if (tells >= TELLS) return null;
  let wouldTell: Candidate | null = null;
  let most = Math.max(TELLS, tells);
  const candidates = candidatesOf(design, points.at(-1)!, isClosed);
  for (const [done, { candidate, point }] of candidates.entries()) {
    const more = yield* finished(candidateRow(design, point, ids, values, isClosed));
    yield (done + 1) / candidates.length;
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

/**
 * Readings that might be taken besides, beside the last: another tap, voltage or frequency, a probe of more or less
 * resistance.
 *
 * @param isEach whether the latter at each tap, or at that of the last alone
 */
function candidatesOf(design: Design, last: Point, isEach: boolean): { candidate: Candidate; point: Point }[] {
  const { meter } = last;
  if (last.kind === 'step')
    return USUAL_FRACTIONS.map((fraction) => ({
      candidate: { kind: 'step' as const, fraction },
      point: { kind: 'step' as const, fraction, meter },
    }));
  const { source } = last;
  return tapsOf(predict(design, WITHOUT_OPTIMUM)).flatMap((node) => {
    const at = { kind: 'tap' as const, node, source, meter };
    const there = { candidate: { kind: 'tap' as const, node }, point: at };
    if (!isEach && node !== last.node) return [there];
    return [
      there,
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
