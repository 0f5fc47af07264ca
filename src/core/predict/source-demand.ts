import type { Droop, LoadedLadder } from '../ladder/loaded';

/**
 * RMS current and the loss it causes in the source's resistance.
 *
 * Two pulses a cycle each carry nu = N/2 load charges. Their width is set by
 * the source resistance (tip of a cosine of half-angle t) or by the
 * capacitors (current as sin from the charging angle to the peak), whichever
 * spreads them more; the true pulse is wider than either, so both figures are
 * upper estimates: 0 to 26 % high in loss against integration. Source: derived.
 *
 * @param amps mean current out of the ladder, A
 * @param chargingAngle from the ripple, rad
 * @returns A and W
 */
export function sourceDemand(
  ladder: LoadedLadder,
  amps: number,
  droop: Droop,
  chargingAngle: number,
): { rmsAmps: number; sourceWatts: number } {
  if (amps === 0) return { rmsAmps: 0, sourceWatts: 0 };
  const pulseAmps = (ladder.network.diodes.length / 2) * amps;
  const t = droop.sourceAngle;
  const bySource = t > 0 ? pulseAmps * Math.sqrt(2 * Math.PI * tipSquare(t)) : Infinity;
  const byCapacitors = chargingAngle > 0 ? pulseAmps * Math.sqrt(2 * Math.PI * rampSquare(chargingAngle)) : Infinity;
  const rmsAmps = Math.min(bySource, byCapacitors);
  return { rmsAmps, sourceWatts: rmsAmps ** 2 * ladder.drive.seriesOhms };
}

/** Angle under which the closed expressions lose their digits by cancellation; their leading terms are right within 1e-4 there. */
const SMALL_ANGLE = 0.01;

/** Mean square over charge squared of a pulse shaped as cos x - cos t on [-t, t], two a period, in units of 1/(2 pi) periods. */
function tipSquare(t: number): number {
  if (t < SMALL_ANGLE) return 6 / (5 * t);
  const area = 2 * (Math.sin(t) - t * Math.cos(t));
  const square = t + Math.sin(t) * Math.cos(t) - 4 * Math.sin(t) * Math.cos(t) + 2 * t * Math.cos(t) ** 2;
  return (2 * square) / area ** 2;
}

/** The same for a pulse shaped as sin x on [0, c]. */
function rampSquare(c: number): number {
  if (c < SMALL_ANGLE) return 8 / (3 * c);
  return (c - Math.sin(c) * Math.cos(c)) / (1 - Math.cos(c)) ** 2;
}
