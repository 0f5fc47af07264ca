import { rootBetween } from '../../numeric/root';
import { formatQuantity } from '../../quantity/format-quantity';
import { choice, quantity } from '../../schema/fields';
import * as z from '../../zod';
import { relativeDensity, waterGrams, type Air } from './air';
import { wireOnsetField } from './corona-geometry';

/** Peak under which air breaks down at no distance at all, V: Paschen's minimum, at 0.567 torr·cm (handbook). */
export const LEAST_AIR_VOLTS = 327;
/** The workshop's kilovolt for each millimetre, V/m (common practice, no source). */
const WORKSHOP_FIELD = 1e6;

export const ELECTRODES = ['spheres', 'rods', 'plates', 'points'] as const;
export type Electrodes = (typeof ELECTRODES)[number];

/** A gap in air between two like electrodes. */
export const airGapSchema = z.strictObject({
  electrodes: choice(ELECTRODES).default('spheres'),
  /** Diameter of each sphere. */
  sphereMetres: quantity('m', '0.025', 'above zero').default(0.025),
  /** Diameter of each of two parallel rods. */
  rodMetres: quantity('m', '0.004', 'above zero').default(0.004),
  gapMetres: quantity('m', '0.005', 'above zero').default(0.005),
});
export type AirGap = z.output<typeof airGapSchema>;

/** A figure with what it may come to; an end of the band that lies outside the law's range is null. */
export type Band = { least: number | null; likely: number; most: number | null };
/** What a law does not reach: at which entry, and what would be right. */
export type OutOfRange = { at: 'sphereMetres' | 'rodMetres' | 'gapMetres' | 'volts'; reason: string };

/** What electrodes are as large as: where that is entered, what it is called, least and most that were measured, m. */
type Size = {
  at: 'sphereMetres' | 'rodMetres';
  label: string;
  range: readonly [number, number];
  source: string;
};

/** What a kind of electrodes breaks down by. */
type Law = {
  name: string;
  /** Null for electrodes whose size does not matter. */
  size: Size | null;
  /** Peak V at a distance. */
  volts: (metres: number, diameterMetres: number, air: Air) => number;
  /** Shortest and longest distance that it holds for, m, and what comes past the longest. */
  reach: (diameterMetres: number) => readonly [number, number];
  beyond: ((longest: string) => string) | null;
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

/**
 * Peak volts between two parallel rods: what their surface stands as wires
 * glow at (Peek, as above), 30 δ (1 + 0.301 / sqrt(δ r)) kV/cm, over the field there
 * of each volt between two cylinders (handbook). Up to 3.85 times the radius
 * they spark without glowing first (Peek). Gaps under 0.301 sqrt(r) cm, and what
 * would be over it, break down as a uniform field; a longer one stands no less.
 */
function rodVolts(metres: number, rodMetres: number, air: Air): number {
  const uniform = uniformVolts(metres, air);
  const shortMetres = 0.301e-2 * Math.sqrt(50 * rodMetres);
  if (metres < shortMetres) return uniform;
  const apart = 1 + metres / rodMetres;
  const voltsForEachField = rodMetres * Math.acosh(apart) * Math.sqrt((apart - 1) / (apart + 1));
  const bySurface = wireOnsetField(rodMetres / 2, 1, air, false) * voltsForEachField;
  return Math.min(uniform, Math.max(uniformVolts(shortMetres, air), bySurface));
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

const SHORTEST = 0.2e-3;
/** Of two rods' radius, up to where they spark before they glow (Peek). */
const ROD_REACH = 3.85;

export const AIR_GAP_LAWS: Readonly<Record<Electrodes, Law>> = {
  spheres: {
    name: 'Two spheres',
    // Tables begin and, of what a workshop has, end there (IEC 60052, from memory).
    size: { at: 'sphereMetres', label: 'Diameter of each', range: [0.02, 0.5], source: 'IEC 60052' },
    volts: sphereVolts,
    reach: (sphereMetres) => [SHORTEST, sphereMetres / 2],
    beyond: (longest) =>
      `Must be at most half the sphere, ${longest}: beyond it the field is not the spheres’ own (IEC 60052).`,
    within: 0.06,
    source: 'Peek, within 3 % of the tables of IEC 60052',
  },
  rods: {
    name: 'Two parallel rods',
    size: { at: 'rodMetres', label: 'Diameter of each', range: [0.001, 0.02], source: 'Peek' },
    volts: rodVolts,
    reach: (rodMetres) => [SHORTEST, (ROD_REACH * rodMetres) / 2],
    beyond: (longest) => `Must be at most ${longest} for rods of this size: further apart they glow first (Peek).`,
    within: 0.1,
    source: 'Peek',
  },
  plates: {
    name: 'Two plates with round edges',
    size: null,
    volts: (metres, _diameterMetres, air) => uniformVolts(metres, air),
    reach: () => [SHORTEST, 0.1],
    beyond: null,
    within: 0.06,
    source: 'uniform field, after Ritz',
  },
  points: {
    name: 'Two points',
    size: null,
    volts: (metres, _diameterMetres, air) => pointVolts(metres, air),
    reach: () => [NEEDLE_GAPS[0][1] * 1e-3, NEEDLE_GAPS.at(-1)![1] * 1e-3],
    beyond: null,
    within: 0.2,
    source: 'needle gaps of the AIEE',
  },
};

const millimetres = (metres: number) => formatQuantity(metres, 'm', 3);
/** What the electrodes are as large as; nothing where that does not matter. */
const sizeOf = (gap: Omit<AirGap, 'gapMetres'>): number => {
  const { size } = AIR_GAP_LAWS[gap.electrodes];
  return size ? gap[size.at] : 0;
};

/** Electrodes with their size: "spheres 25.0 mm". */
export const electrodesInWords = (gap: Omit<AirGap, 'gapMetres'>): string => {
  const { size } = AIR_GAP_LAWS[gap.electrodes];
  return size ? `${gap.electrodes} ${millimetres(gap[size.at])}` : gap.electrodes;
};

/** What of the electrodes lies outside the law, whatever the distance. */
function sizeFault(gap: Omit<AirGap, 'gapMetres'>): OutOfRange | null {
  const { size } = AIR_GAP_LAWS[gap.electrodes];
  if (!size) return null;
  const [least, most] = size.range;
  return gap[size.at] >= least && gap[size.at] <= most
    ? null
    : { at: size.at, reason: `Must be from ${millimetres(least)} to ${millimetres(most)} (${size.source}).` };
}

/**
 * Peak voltage at which a gap in air breaks down, V: the first time, in still
 * and clean air, with clean electrodes and nothing else near.
 *
 * @returns a band, never a measurement; or what lies outside the law's range
 * @remarks Laws, sources and checks: docs/physics.md.
 */
export function breakdownVolts(gap: AirGap, air: Air): Band | OutOfRange {
  const fault = sizeFault(gap);
  if (fault) return fault;
  const { volts, reach, beyond, within, source } = AIR_GAP_LAWS[gap.electrodes];
  const [least, most] = reach(sizeOf(gap));
  if (gap.gapMetres > most && beyond) return { at: 'gapMetres', reason: beyond(millimetres(most)) };
  if (gap.gapMetres < least || gap.gapMetres > most)
    return {
      at: 'gapMetres',
      reason: `Must be from ${millimetres(least)} to ${millimetres(most)}, where the law was measured (${source}).`,
    };
  const likely = volts(gap.gapMetres, sizeOf(gap), air);
  return { least: likely * (1 - within), likely, most: likely * (1 + within) };
}

/**
 * How far a peak voltage jumps between such electrodes, m; the way back of
 * {@link breakdownVolts}.
 *
 * @param volts peak, V, zero or more
 */
export function strikeMetres(gap: Omit<AirGap, 'gapMetres'>, volts: number, air: Air): Band | OutOfRange {
  const fault = sizeFault(gap);
  if (fault) return fault;
  if (volts < LEAST_AIR_VOLTS)
    return {
      at: 'volts',
      reason: `Must be at least ${formatQuantity(LEAST_AIR_VOLTS, 'V')} peak: air breaks down under that at no distance (Paschen).`,
    };
  const law = AIR_GAP_LAWS[gap.electrodes];
  const size = sizeOf(gap);
  const [least, most] = law.reach(size);
  const over = (asked: number) => (metres: number) => law.volts(metres, size, air) - asked;
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
      reason: `Must be from ${formatQuantity(law.volts(least, size, air), 'V', 3)} to ${formatQuantity(law.volts(most, size, air), 'V', 3)} peak for these electrodes (${law.source}).`,
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
