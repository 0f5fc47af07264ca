import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { henriesOfResonance } from '../magnetics/inductance';
import { ratioOf } from '../magnetics/transformer';
import { rootBetween } from '../numeric/root';
import { bankFarads } from '../parts/bank';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import { IDLE, isReading, type Entry } from './entries';
import { standing } from './session';

/** A resonance that was read: what stood across the inductance, and its frequency. */
export type Ring = { farads: number; hertz: number };

export type RingFit = {
  henries: number;
  /** Where it lies with 90 %. */
  low: number;
  high: number;
  /** By how much one reading's inductance is off that of all, as a standard deviation and a fraction; null of one reading. */
  scatter: number | null;
  /** What each reading comes to by itself. */
  each: (Ring & { henries: number })[];
  /** The same with a capacitance of the winding's own beside each capacitor, where three readings or more tell of one. */
  withOwn: { henries: number; farads: number } | null;
};

/** Student's t for 90 of 100, two-sided, by degrees of freedom from one on (handbook table). */
const STUDENT = [6.314, 2.92, 2.353, 2.132, 2.015, 1.943, 1.895, 1.86, 1.833, 1.812];
const STUDENT_MANY = 1.645;
/** Frequency by a counter, capacitor within a few per cent: how far that leaves an inductance off, as a standard deviation (common practice, no source). */
const USUALLY_OFF = 0.03;
/** Of how many standard deviations that is in a normal distribution. */
const NORMAL = 1.645;
/** Fraction of the misfit that a capacitance of its own must take away to be named. */
const EXPLAINS = 0.5;

/**
 * One inductance from resonances with known capacitors, f = 1 / (2 pi sqrt(L C))
 * (handbook): least squares of the logarithms, which weighs each reading alike.
 * Its interval is Student's, from how the readings scatter; never less than what
 * the meter and the capacitors leave open. With a capacitance of its own
 * 1 / (2 pi f)² = L (C + C0) is a straight line.
 *
 * @param rings readings above zero
 * @param off how far frequency and capacitance are off together, as a fraction of the inductance and a standard deviation
 * @returns null without any
 */
export function ringFit(rings: readonly Ring[], off = USUALLY_OFF): RingFit | null {
  if (rings.length === 0) return null;
  const each = rings.map((ring) => ({ ...ring, henries: henriesOfResonance(ring.hertz, ring.farads) }));
  const logs = each.map(({ henries }) => Math.log(henries));
  const count = logs.length;
  const mean = logs.reduce((sum, log) => sum + log, 0) / count;
  const squares = logs.reduce((sum, log) => sum + (log - mean) ** 2, 0);
  const scatter = count > 1 ? Math.sqrt(squares / (count - 1)) : null;
  const byScatter = scatter === null ? 0 : ((STUDENT[count - 2] ?? STUDENT_MANY) * scatter) / Math.sqrt(count);
  const away = Math.max(byScatter, (NORMAL * off) / Math.sqrt(count));
  return {
    henries: Math.exp(mean),
    low: Math.exp(mean - away),
    high: Math.exp(mean + away),
    scatter,
    each,
    withOwn: ownFarads(rings, squares),
  };
}

/** A capacitance beside all capacitors that takes most of the misfit away; null where none does. */
function ownFarads(rings: readonly Ring[], squares: number): RingFit['withOwn'] {
  if (rings.length < 3) return null;
  const line = rings.map(({ farads, hertz }) => ({ farads, square: 1 / (2 * Math.PI * hertz) ** 2 }));
  // In proportion: each reading is off by a fraction of itself.
  const sum = (of: (one: (typeof line)[number]) => number) =>
    line.reduce((total, one) => total + of(one) / one.square ** 2, 0);
  const [w, wx, wy, wxx, wxy] = [
    sum(() => 1),
    sum(({ farads }) => farads),
    sum(({ square }) => square),
    sum(({ farads }) => farads ** 2),
    sum(({ farads, square }) => farads * square),
  ];
  const determinant = w * wxx - wx * wx;
  if (!(determinant > 1e-9 * w * wxx)) return null;
  const henries = (w * wxy - wx * wy) / determinant;
  const farads = (wy * wxx - wx * wxy) / determinant / henries;
  if (!(henries > 0 && farads > 0)) return null;
  const left = rings.reduce(
    (total, one) => total + Math.log(henriesOfResonance(one.hertz, one.farads + farads) / henries) ** 2,
    0,
  );
  return left < EXPLAINS * squares ? { henries, farads } : null;
}

/** What resonances read at the bench tell of the primary: of a tank with its capacitors, or with others in their place, and what the ladder reflects beside them. */
export function tankRings(design: Design, entries: readonly Entry[]): Ring[] {
  const { driver } = design;
  if (driver.kind !== 'resonant-push-pull') return [];
  const own = bankFarads(driver.tankFarads, driver.tankSeries, driver.tankParallel);
  const reflected = predict(design, WITHOUT_OPTIMUM).source.figures.reflectedFarads ?? 0;
  return standing(entries)
    .filter(isReading)
    .flatMap(({ kind, at, value }) =>
      kind === 'frequency' && value > 0 ? [{ farads: (at === '' ? own : Number(at)) + reflected, hertz: value }] : [],
    );
}

/** What a capacitance across the whole primary is at the secondary, by the square of the turns (handbook), F; null without a transformer. */
export const faradsAtSecondary = ({ transformer }: Pick<Design, 'transformer'>, farads: number): number | null =>
  transformer && farads / ratioOf(transformer) ** 2;

export type LossFit = { quality: number; watts: number };

/** Quality factors between which one is looked for. */
const QUALITIES = [1, 1e4] as const;

/**
 * The tank's quality factor, and the power it loses without load, from the
 * supply's idle current: the value at which the driver's own prediction draws it.
 *
 * @param amps mean, above zero
 * @returns null where no quality factor within 1 to 10,000 draws so much, or the driver has no tank
 */
export function lossOfIdle(design: Design, amps: number): LossFit | null {
  if (design.driver.kind !== 'resonant-push-pull') return null;
  const figuresWith = (quality: number) =>
    predict(
      changeDesign({ ...design, load: { kind: 'open' } }, { path: '$.driver.unloadedQuality', value: quality }),
      WITHOUT_OPTIMUM,
    ).source.figures;
  const over = (log: number) => (figuresWith(Math.exp(log)).idleAmps ?? 0) - amps;
  const ends = QUALITIES.map((quality) => [Math.log(quality), over(Math.log(quality))] as const);
  if (!(ends[0][1] > 0 && ends[1][1] < 0)) return null;
  const quality = Math.exp(rootBetween(over, ends[0], ends[1], 1e-6 * amps, 1e-9));
  const { idleWatts } = figuresWith(quality);
  return idleWatts === undefined ? null : { quality, watts: idleWatts };
}

/** The last idle current that stands, A; null where none was read. */
export const idleRead = (entries: readonly Entry[]): number | null =>
  standing(entries)
    .filter(isReading)
    .findLast(({ kind, at, value }) => kind === 'supply-current' && at === IDLE && value > 0)?.value ?? null;
