import { rootBetween } from '../../numeric/root';
import { formatQuantity } from '../../quantity/format-quantity';
import { choice, quantity } from '../../schema/fields';
import * as z from '../../zod';
import { relativeDensity, waterGrams, type Air } from './air';

/** Peak under which air breaks down at no distance at all, V: Paschen's minimum, at 0.567 torr·cm (handbook). */
export const LEAST_AIR_VOLTS = 327;
/** The workshop's kilovolt for each millimetre, V/m (common practice, no source). */
const WORKSHOP_FIELD = 1e6;

export const ELECTRODES = ['spheres', 'plates', 'points'] as const;
export type Electrodes = (typeof ELECTRODES)[number];

/** A gap in air between two like electrodes. */
export const airGapSchema = z.strictObject({
  electrodes: choice(ELECTRODES).default('spheres'),
  /** Diameter of each sphere. */
  sphereMetres: quantity('m', '0.025', 'above zero').default(0.025),
  gapMetres: quantity('m', '0.005', 'above zero').default(0.005),
});
export type AirGap = z.output<typeof airGapSchema>;

/** A figure with what it may come to; an end of the band that lies outside the law's range is null. */
export type Band = { least: number | null; likely: number; most: number | null };
/** What a law does not reach: at which entry, and what would be right. */
export type OutOfRange = { at: 'sphereMetres' | 'gapMetres' | 'volts'; reason: string };

/** What a kind of electrodes breaks down by. */
type Law = {
  name: string;
  /** Peak V at a distance. */
  volts: (metres: number, sphereMetres: number, air: Air) => number;
  /** Shortest and longest distance that it holds for, m. */
  reach: (sphereMetres: number) => readonly [number, number];
  /** How far off a gap may be, as a part. */
  within: number;
  source: string;
};

/**
 * Peak volts of a uniform field: 24.36 p d + 6.72 sqrt(p d) kV, with p d in
 * bar·cm at 20 °C (E. Kuffel and W. Zaengl, High Voltage Engineering, 1984, for
 * Ritz' measurements; from memory).
 */
function uniformVolts(metres: number, air: Air): number {
  const barCentimetres = 1.013 * relativeDensity(air) * metres * 100;
  return 1e3 * (24.36 * barCentimetres + 6.72 * Math.sqrt(barCentimetres));
}

/**
 * Peak volts between two spheres: those of the field that breaks down at their
 * surface, 27.2 δ (1 + 0.54 / sqrt(δ r)) kV/cm over the gap and the field's
 * factor (F. W. Peek, Dielectric Phenomena in High-Voltage Engineering, 1929;
 * from memory). It holds from a gap of 0.54 sqrt(r) cm; shorter ones, and what
 * would be over it, break down as a uniform field. More water in the air makes
 * it stand more: 0.2 % for each g/m³ over 8.5 (IEC 60052, from memory).
 */
function sphereVolts(metres: number, sphereMetres: number, air: Air): number {
  const density = relativeDensity(air);
  const radius = 50 * sphereMetres;
  const gap = 100 * metres;
  const ratio = gap / radius + 1;
  const factor = (ratio + Math.sqrt(ratio ** 2 + 8)) / 4;
  const bySurface = (27.2e3 * density * (1 + 0.54 / Math.sqrt(density * radius)) * gap) / factor;
  const uniform = uniformVolts(metres, air);
  const dry = gap < 0.54 * Math.sqrt(radius) ? uniform : Math.min(uniform, bySurface);
  return dry * (1 + 0.002 * (waterGrams(air) / density - 8.5));
}

/** RMS kV of a sine at which needle points spark over, and the gap in mm, at 25 °C and 101.3 kPa (AIEE needle gaps, from memory). */
const NEEDLE_GAPS: readonly (readonly [number, number])[] = [
  [10, 11.9],
  [15, 18.4],
  [20, 25.4],
  [25, 33],
  [30, 41],
  [35, 51],
  [40, 62],
  [45, 75],
  [50, 90],
];

/** Peak volts between two points, along the table of needle gaps, in proportion to the air's density. */
function pointVolts(metres: number, air: Air): number {
  const millimetres = metres * 1e3;
  const next = Math.max(
    1,
    NEEDLE_GAPS.findIndex(([, gap]) => gap >= millimetres),
  );
  const [[lowerVolts, lower], [upperVolts, upper]] = [NEEDLE_GAPS[next - 1], NEEDLE_GAPS[next]];
  const rms = lowerVolts + ((upperVolts - lowerVolts) * (millimetres - lower)) / (upper - lower);
  return 1e3 * rms * Math.SQRT2 * (relativeDensity(air) / (293 / 298));
}

/** Tables of sphere gaps begin and, of what a workshop has, end there, m (IEC 60052, from memory). */
const SPHERES = [0.02, 0.5] as const;
const SHORTEST = 0.2e-3;

export const AIR_GAP_LAWS: Readonly<Record<Electrodes, Law>> = {
  spheres: {
    name: 'Two spheres',
    volts: sphereVolts,
    reach: (sphereMetres) => [SHORTEST, sphereMetres / 2],
    within: 0.06,
    source: 'Peek, within 3 % of the tables of IEC 60052',
  },
  plates: {
    name: 'Two plates with round edges',
    volts: (metres, _sphereMetres, air) => uniformVolts(metres, air),
    reach: () => [SHORTEST, 0.1],
    within: 0.06,
    source: 'uniform field, after Ritz',
  },
  points: {
    name: 'Two points',
    volts: (metres, _sphereMetres, air) => pointVolts(metres, air),
    reach: () => [NEEDLE_GAPS[0][1] * 1e-3, NEEDLE_GAPS.at(-1)![1] * 1e-3],
    within: 0.2,
    source: 'needle gaps of the AIEE',
  },
};

const millimetres = (metres: number) => formatQuantity(metres, 'm', 3);

/** What of the electrodes lies outside the law, whatever the distance. */
function sphereFault({ electrodes, sphereMetres }: Pick<AirGap, 'electrodes' | 'sphereMetres'>): OutOfRange | null {
  const [least, most] = SPHERES;
  return electrodes !== 'spheres' || (sphereMetres >= least && sphereMetres <= most)
    ? null
    : { at: 'sphereMetres', reason: `Must be from ${millimetres(least)} to ${millimetres(most)} (IEC 60052).` };
}

/**
 * Peak voltage at which a gap in air breaks down, V: the first time, in still
 * and clean air, with clean electrodes and nothing else near.
 *
 * @returns a band, never a measurement; or what lies outside the law's range
 * @remarks Laws, sources and checks: docs/physics.md.
 */
export function breakdownVolts(gap: AirGap, air: Air): Band | OutOfRange {
  const fault = sphereFault(gap);
  if (fault) return fault;
  const { volts, reach, within, source } = AIR_GAP_LAWS[gap.electrodes];
  const [least, most] = reach(gap.sphereMetres);
  if (gap.gapMetres < least || gap.gapMetres > most)
    return {
      at: 'gapMetres',
      reason:
        gap.electrodes === 'spheres' && gap.gapMetres > most
          ? `Must be at most half the sphere, ${millimetres(most)}: beyond it the field is not the spheres’ own (IEC 60052).`
          : `Must be from ${millimetres(least)} to ${millimetres(most)}, where the law was measured (${source}).`,
    };
  const likely = volts(gap.gapMetres, gap.sphereMetres, air);
  return { least: likely * (1 - within), likely, most: likely * (1 + within) };
}

/**
 * How far a peak voltage jumps between such electrodes, m; the way back of
 * {@link breakdownVolts}.
 *
 * @param volts peak, V, zero or more
 */
export function strikeMetres(gap: Omit<AirGap, 'gapMetres'>, volts: number, air: Air): Band | OutOfRange {
  const fault = sphereFault(gap);
  if (fault) return fault;
  if (volts < LEAST_AIR_VOLTS)
    return {
      at: 'volts',
      reason: `Must be at least ${formatQuantity(LEAST_AIR_VOLTS, 'V')} peak: air breaks down under that at no distance (Paschen).`,
    };
  const law = AIR_GAP_LAWS[gap.electrodes];
  const [least, most] = law.reach(gap.sphereMetres);
  const over = (asked: number) => (metres: number) => law.volts(metres, gap.sphereMetres, air) - asked;
  const at = (asked: number): number | null => {
    const [low, high] = [over(asked)(least), over(asked)(most)];
    return low > 0 || high < 0
      ? null
      : rootBetween(over(asked), [least, low], [most, high], 1e-9 * asked, 1e-12 * most);
  };
  const likely = at(volts);
  if (likely === null)
    return {
      at: 'volts',
      reason: `Must be from ${formatQuantity(law.volts(least, gap.sphereMetres, air), 'V', 3)} to ${formatQuantity(law.volts(most, gap.sphereMetres, air), 'V', 3)} peak for these electrodes (${law.source}).`,
    };
  return { least: at(volts / (1 + law.within)), likely, most: at(volts / (1 - law.within)) };
}

/** What the workshop's rule says, and by which part it is off. */
export type Workshop = { figure: number; off: number };

/** Peak volts that the workshop's millimetre for each kilovolt tells of a distance, beside what is likely. */
export const workshopVolts = (metres: number, likelyVolts: number): Workshop =>
  against(WORKSHOP_FIELD * metres, likelyVolts);

/** Metres that the same rule tells of a peak voltage. */
export const workshopMetres = (volts: number, likelyMetres: number): Workshop =>
  against(volts / WORKSHOP_FIELD, likelyMetres);

const against = (figure: number, likely: number): Workshop => ({ figure, off: figure / likely - 1 });
