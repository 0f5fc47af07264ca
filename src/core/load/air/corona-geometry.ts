import { VACUUM_PERMITTIVITY } from '../../quantity/permittivity';
import { formatQuantity } from '../../quantity/format-quantity';
import type { Polarity } from '../../quantity/polarity';
import { choice, count, quantity, saying } from '../../schema/fields';
import * as z from '../../zod';
import { relativeDensity, type Air } from './air';

export const CORONA_SHAPES = ['tube', 'plates', 'point'] as const;
export type CoronaShape = (typeof CORONA_SHAPES)[number];

const SURFACE = 'a factor from 0.4 to 1, such as 0.8';

/** What glows, and what it glows towards. */
export const coronaGeometrySchema = z.strictObject({
  shape: choice(CORONA_SHAPES).default('tube'),
  /** Diameter of the wire. */
  wireMetres: quantity('m', '0.0005', 'above zero').default(0.5e-3),
  /** Of all the wire that glows. */
  lengthMetres: quantity('m', '0.3', 'above zero').default(0.3),
  /** Inner diameter of the tube around it. */
  tubeMetres: quantity('m', '0.05', 'above zero').default(0.05),
  /** From wire or point to plate. */
  distanceMetres: quantity('m', '0.03', 'above zero').default(0.03),
  /** From one wire to the next. */
  pitchMetres: quantity('m', '0.1', 'above zero').default(0.1),
  /** Radius of the point's tip. */
  tipMetres: quantity('m', '0.0002', 'above zero').default(0.2e-3),
  /** How many like points, as in a brush, and how far from one to the next. */
  points: count(1000).default(1),
  betweenMetres: quantity('m', '0.05', 'above zero').default(0.05),
  /** By how much roughness lowers the field at which it glows: 1 for polished wire. */
  surface: z
    .number({ error: saying(SURFACE) })
    .gte(0.4, { error: saying(SURFACE) })
    .lte(1, { error: saying(SURFACE) })
    .default(0.8),
});
export type CoronaGeometry = z.output<typeof coronaGeometrySchema>;

/** An entry outside what a law holds for, and what would be right. */
export type CoronaFault = { at: keyof CoronaGeometry; reason: string };

/** A corona's law i = k u (u - u0), with how far off its two numbers may be, as a part. */
export type CoronaLaw = {
  onsetVolts: number;
  onsetWithin: number;
  ampsPerSquareVolt: number;
  currentWithin: number;
};

/** How fast small ions drift in a field, m²/(V·s): of one sign and the other at 20 °C (handbook, from memory). */
const MOBILITY: Record<Polarity, number> = { positive: 1.5e-4, negative: 1.9e-4 };

/** Radii of wires and tips that were measured, m (from memory). */
const RADII = [0.02e-3, 5e-3] as const;
/** Of the outer radius to the wire's, under which it sparks before it glows (Peek). */
const LEAST_RATIO = Math.E;

/**
 * Field at which a wire begins to glow, V/m: 31 m δ (1 + 0.308 / sqrt(δ r)) kV/cm
 * in a tube, 30 m δ (1 + 0.301 / sqrt(δ r)) kV/cm elsewhere, r in cm (F. W. Peek,
 * Dielectric Phenomena in High-Voltage Engineering, 1929; from memory).
 */
export function wireOnsetField(radiusMetres: number, surface: number, air: Air, inTube: boolean): number {
  const density = relativeDensity(air);
  const root = Math.sqrt(density * radiusMetres * 100);
  const kilovoltsPerCentimetre = inTube ? 31 * (1 + 0.308 / root) : 30 * (1 + 0.301 / root);
  return 1e5 * surface * density * kilovoltsPerCentimetre;
}

/** The same at a tip, as at a sphere: 27.2 m δ (1 + 0.54 / sqrt(δ r)) kV/cm (Peek, as above). */
export function tipOnsetField(radiusMetres: number, surface: number, air: Air): number {
  const density = relativeDensity(air);
  return 27.2e5 * surface * density * (1 + 0.54 / Math.sqrt(density * radiusMetres * 100));
}

const between = (value: number, [least, most]: readonly [number, number]) => value >= least && value <= most;
const millimetres = (metres: number) => formatQuantity(metres, 'm', 3);

/**
 * Corona from geometry: where it begins, and Townsend's law for its current,
 * with one sign of ions between wire and wall.
 *
 * - A wire in a tube: onset r E ln(R / r); 8 π ε0 μ / (R² ln(R / r)) for each
 *   metre (J. S. Townsend, Philosophical Magazine 28, 1914; from memory), for
 *   currents that bend the field little.
 * - Wires between two plates, as in a precipitator: the same with the tube
 *   that stands for the plates, 4 s / π while the wires stand at least 1.7 times
 *   as far from each other's middle as from the plates, (c / π) e^(π s / 2 c) while
 *   they stand at most half as far; 4 π ε0 μ / (s² ln(d / r)) for each metre (H. J. White,
 *   Industrial Electrostatic Precipitation, 1963; from memory).
 * - A point over a plate: onset r E ln(4 d / r) / 2, as of a paraboloid; 2 ε0 μ / d,
 *   the most that ions of one sign carry (R. S. Sigmond, Journal of Applied
 *   Physics 53, 1982; from memory). Several of them, no nearer to each other
 *   than to the plate, each as one by itself.
 *
 * @param polarity of what glows
 */
export function coronaOf(geometry: CoronaGeometry, air: Air, polarity: Polarity): CoronaLaw | CoronaFault {
  const { shape, lengthMetres, distanceMetres, tipMetres, surface, points, betweenMetres } = geometry;
  const mobility = MOBILITY[polarity] / relativeDensity(air);
  if (shape === 'point') {
    if (!between(tipMetres, RADII))
      return { at: 'tipMetres', reason: `Must be from ${millimetres(RADII[0])} to ${millimetres(RADII[1])}.` };
    if (distanceMetres < 10 * tipMetres)
      return {
        at: 'distanceMetres',
        reason: `Must be at least ten times the tip’s radius, ${millimetres(10 * tipMetres)}: nearer it sparks without corona.`,
      };
    if (points > 1 && betweenMetres < distanceMetres)
      return {
        at: 'betweenMetres',
        reason: `Must be at least as far as to the plate, ${millimetres(distanceMetres)}: nearer ones take each other’s field, for which there is no simple law.`,
      };
    return {
      onsetVolts: (tipOnsetField(tipMetres, surface, air) * tipMetres * Math.log((4 * distanceMetres) / tipMetres)) / 2,
      onsetWithin: 0.25,
      ampsPerSquareVolt: (points * 2 * VACUUM_PERMITTIVITY * mobility) / distanceMetres,
      currentWithin: 0.5,
    };
  }
  const radius = geometry.wireMetres / 2;
  if (!between(radius, RADII))
    return {
      at: 'wireMetres',
      reason: `Must be from ${millimetres(2 * RADII[0])} to ${millimetres(2 * RADII[1])}.`,
    };
  /** A wire in a tube of this radius, or in what stands for one; bands as docs/physics.md has them, no source. */
  const wireLaw = (outer: number, drift: number, overMetres: number, currentWithin: number): CoronaLaw => {
    const spread = Math.log(outer / radius);
    return {
      onsetVolts: radius * wireOnsetField(radius, surface, air, shape === 'tube') * spread,
      onsetWithin: 0.1,
      ampsPerSquareVolt: (drift * lengthMetres) / (overMetres ** 2 * spread),
      currentWithin,
    };
  };
  const drifting = 4 * Math.PI * VACUUM_PERMITTIVITY * mobility;
  if (shape === 'tube') {
    const outer = geometry.tubeMetres / 2;
    return outer < LEAST_RATIO * radius
      ? {
          at: 'tubeMetres',
          reason: `Must be at least 2.72 times the wire, ${millimetres(2 * LEAST_RATIO * radius)}: closer it sparks without corona (Peek).`,
        }
      : wireLaw(outer, 2 * drifting, outer, 0.3);
  }
  const equivalent = tubeForPlates(distanceMetres, geometry.pitchMetres / 2);
  if (equivalent === null)
    return {
      at: 'pitchMetres',
      reason: `Must be at most ${millimetres((distanceMetres / NEAR_WIRES) * 2)} or at least ${millimetres((2 * distanceMetres) / FAR_WIRES)}: between them there is no simple law (White).`,
    };
  return equivalent < LEAST_RATIO * radius
    ? { at: 'distanceMetres', reason: 'Must be larger for a wire of this size: closer it sparks without corona.' }
    : wireLaw(equivalent, drifting, distanceMetres, 0.4);
}

/** Distance to the plates over half the pitch, up to which wires are far apart, and from which they are near. */
const FAR_WIRES = 0.6;
const NEAR_WIRES = 2;

/** Radius of the tube that stands for two plates, m; null where neither end of the law holds. */
function tubeForPlates(distanceMetres: number, halfPitch: number): number | null {
  const ratio = distanceMetres / halfPitch;
  if (ratio <= FAR_WIRES) return (4 * distanceMetres) / Math.PI;
  return ratio >= NEAR_WIRES ? (halfPitch / Math.PI) * Math.exp((Math.PI * ratio) / 2) : null;
}
