import type { Build, Medium, Surroundings } from '../design/build-schema';
import { relativeDensity, type Air } from '../load/air/air';

/** Points of a table: volts, metres. */
type Table = readonly (readonly [number, number])[];

const table = (...points: (readonly [number, number])[]): Table =>
  points.map(([kilovolts, millimetres]) => [kilovolts * 1e3, millimetres * 1e-3]);

/**
 * Clearance in air for a peak voltage that stands or comes again and again, inhomogeneous field, up to 2,000 m above the sea
 * (IEC 60664-1:2007, table F.7a case A, from memory).
 */
const CLEARANCES = table(
  [0.33, 0.01],
  [0.5, 0.04],
  [0.8, 0.13],
  [1, 0.26],
  [1.2, 0.42],
  [1.5, 0.76],
  [2, 1.27],
  [2.5, 1.8],
  [3, 2.4],
  [4, 3.8],
  [5, 5.7],
  [6, 7.9],
  [8, 11],
  [10, 15.2],
  [12, 19],
  [15, 25],
  [20, 34],
  [25, 44],
  [30, 55],
  [40, 77],
  [50, 100],
);

/** What is kept between any two bare points soldered by hand, m (common practice, no source). */
const LEAST_CLEARANCE = 1e-3;

/** Up to where the table of clearances holds as it stands, and from where the air is thinner: metres above the sea at 20 °C. */
const TABLE_AIR: Air = { celsius: 20, altitudeMetres: 2000, relativeHumidity: 0.5 };

/** From this frequency on a quarter more is kept in air (IEC 60664-4, from memory). */
const FAST = { hertz: 30e3, more: 1.25 };

/**
 * Creepage in air on materials that track most (group IIIa, boards and wood among them), by the RMS or direct voltage, m/V:
 * of IEC 60664-1:2007, table F.4, pollution degrees 1, 2 and 3, where it goes in proportion (1 to 10 kV; from memory).
 */
const CREEPAGE_PER_VOLT: Record<Surroundings, number> = { clean: 4e-6, indoor: 10e-6, damp: 16e-6 };
/** What that table has up to, V. */
const MOST_CREEPAGE_VOLTS = 63e3;

/**
 * Through and along what fills the room between parts, V/m of the peak: a fraction of what samples stand, for what is poured
 * at home has bubbles, fibres and seams (common practice, no source).
 */
const FILLED: Record<Exclude<Medium, 'air' | 'other'>, { through: number; along: number }> = {
  oil: { through: 2e6, along: 0.8e6 },
  wax: { through: 1.5e6, along: 0.8e6 },
  resin: { through: 2.5e6, along: 1e6 },
};
/** Beyond this no figure is given for them, V. */
const MOST_FILLED_VOLTS = 150e3;

/** What lies around a ladder. */
export type Surrounded = Pick<Build, 'medium' | 'surroundings'> & { air: Air };

/** A value between two points of a table; null past its end. */
function along(points: Table, volts: number): number | null {
  const next = points.findIndex(([at]) => at >= volts);
  if (next < 0) return null;
  if (next === 0) return points[0][1];
  const [[low, from], [high, to]] = [points[next - 1], points[next]];
  return from + ((to - from) * (volts - low)) / (high - low);
}

/**
 * The least distance between bare conductors, through what is between them, m.
 *
 * @param peakVolts between them, the highest that stands or comes again, V
 * @param hertz of what alternates there; 0 for none
 * @returns null where there is no figure: a medium that is not known here, or more volts than its figures go to
 */
export function clearanceFor(peakVolts: number, { medium, air }: Surrounded, hertz: number): number | null {
  if (medium === 'other') return null;
  if (medium !== 'air')
    return peakVolts > MOST_FILLED_VOLTS ? null : Math.max(LEAST_CLEARANCE, peakVolts / FILLED[medium].through);
  const found = along(CLEARANCES, peakVolts);
  if (found === null) return null;
  const thinner = Math.max(1, relativeDensity(TABLE_AIR) / relativeDensity(air));
  return Math.max(LEAST_CLEARANCE, found * thinner * (hertz > FAST.hertz ? FAST.more : 1));
}

/**
 * The least distance along a surface between them, m.
 *
 * @param rmsVolts between them, direct or RMS, by which surfaces track in air, V
 * @param peakVolts between them, by which they flash over in what fills the room, V
 * @returns null where there is no figure
 */
export function creepageFor(rmsVolts: number, peakVolts: number, { medium, surroundings }: Surrounded): number | null {
  if (medium === 'other') return null;
  if (medium !== 'air')
    return peakVolts > MOST_FILLED_VOLTS ? null : Math.max(LEAST_CLEARANCE, peakVolts / FILLED[medium].along);
  return rmsVolts > MOST_CREEPAGE_VOLTS ? null : Math.max(LEAST_CLEARANCE, rmsVolts * CREEPAGE_PER_VOLT[surroundings]);
}

/** Where the figures of a medium come from, in words. */
export const SOURCES: Record<Exclude<Medium, 'other'>, string> = {
  air: 'IEC 60664-1, tables F.7a and F.4 (from memory), a quarter more over 30 kHz (IEC 60664-4, from memory)',
  oil: '2 kV for each millimetre through it, 0.8 kV along surfaces in it (common practice, no source)',
  wax: '1.5 kV for each millimetre through it, 0.8 kV along surfaces in it (common practice, no source)',
  resin: '2.5 kV for each millimetre through it, 1 kV along surfaces in it (common practice, no source)',
};
