import { tipOnsetField, wireOnsetField } from '../load/air/corona-geometry';
import type { Air } from '../load/air/air';
import { rootBetween } from '../numeric/root';

/** By how much a surface lowers the field of onset: a drawn wire, a joint filed round, one as it was soldered (Peek; common practice for the last). */
const SURFACE = { wire: 0.8, rounded: 0.8, soldered: 0.6 };

/**
 * Peak at which a lead has corona that runs along a grounded surface, V: the field of Peek at its own surface, E r ln(2 h / r)
 * (handbook: wire over a plane).
 *
 * @param radiusMetres of the wire
 * @param heightMetres of its axis over the surface, more than its radius
 */
export const leadOnsetVolts = (radiusMetres: number, heightMetres: number, air: Air): number =>
  wireOnsetField(radiusMetres, SURFACE.wire, air, false) * radiusMetres * Math.log((2 * heightMetres) / radiusMetres);

/**
 * Peak at which a joint or a ball has corona, V: the field of Peek at a sphere, E r / (1 + r / 2 h) with the first image in the
 * grounded surface (handbook).
 *
 * @param radiusMetres of it
 * @param heightMetres of its middle over the surface
 */
export const ballOnsetVolts = (
  radiusMetres: number,
  heightMetres: number,
  air: Air,
  surface: 'rounded' | 'soldered',
): number =>
  (tipOnsetField(radiusMetres, SURFACE[surface], air) * radiusMetres) / (1 + radiusMetres / (2 * heightMetres));

/** Radii that a rounded joint, and a ring or ball, may have, m (chosen here). */
const MOST_JOINT = 3e-3;
const MOST_RING = 30e-3;

/** What keeps a node free of corona: nothing needed, a joint rounded so far, a ring or ball of that radius, or no such thing. */
export type Rounding = { kind: 'none' } | { kind: 'joint' | 'ring'; radiusMetres: number } | { kind: 'immersed' };

/**
 * @param peakVolts of the node against ground
 * @param heightMetres from it to what is grounded
 * @param leads radius of the leads that end there, and of the joint as it is soldered, m
 */
export function roundingFor(
  peakVolts: number,
  heightMetres: number,
  leads: { leadRadiusMetres: number; jointRadiusMetres: number },
  air: Air,
): Rounding {
  const isLeadQuiet = leadOnsetVolts(leads.leadRadiusMetres, heightMetres, air) >= peakVolts;
  if (isLeadQuiet && ballOnsetVolts(leads.jointRadiusMetres, heightMetres, air, 'soldered') >= peakVolts)
    return { kind: 'none' };
  const over = (radius: number) => ballOnsetVolts(radius, heightMetres, air, 'rounded') - peakVolts;
  const least = 0.1e-3;
  const most = Math.min(MOST_RING, heightMetres);
  if (most <= least || over(most) < 0) return { kind: 'immersed' };
  const radiusMetres =
    over(least) >= 0 ? least : rootBetween(over, [least, over(least)], [most, over(most)], 1e-6 * peakVolts, 1e-9);
  // A lead that has corona by itself is helped by nothing smaller than what shields it.
  return { kind: radiusMetres <= MOST_JOINT && isLeadQuiet ? 'joint' : 'ring', radiusMetres };
}
