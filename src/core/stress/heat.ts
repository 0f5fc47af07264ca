import type { Design } from '../design/design-schema';
import type { DiodeCurrent } from './part-currents';
import type { LadderParts } from '../parts/bank';

type Capacitor = Design['ladder']['capacitor'];
type Diode = Design['ladder']['diode'];

/** By radiation and free air together, W / (m² K) (handbook, about 10; less in a closed box, more in oil). */
const GIVEN_OFF = 10;
/** How much warmer than its surroundings a capacitor may make itself, K (common practice of data sheets, no source). */
export const MOST_RISE = 20;

/**
 * Heat of the hardest pressed capacitor of a bank: loss tangent times its
 * reactive power, I^2 tan d / (w C) (handbook), all of its current counted at the
 * drive's frequency, where its reactance is highest; and how much warmer that
 * makes its body.
 *
 * @param farads of the place as a whole
 * @param rmsAmps of the place as a whole
 * @returns null where loss or current is not known; the rise where the size is not
 */
export function capacitorHeat(
  { lossTangent, lengthMetres, diameterMetres }: Capacitor,
  { series, parallel, currentShare }: LadderParts['capacitor'],
  farads: number,
  rmsAmps: number | null,
  hertz: number,
): { watts: number; temperatureRiseKelvin: number | null } | null {
  if (lossTangent === null || rmsAmps === null) return null;
  const each = (farads * series) / parallel;
  const watts = (lossTangent * (rmsAmps * currentShare) ** 2) / (2 * Math.PI * hertz * each);
  if (lengthMetres === null || diameterMetres === null) return { watts, temperatureRiseKelvin: null };
  const surface = Math.PI * diameterMetres * (lengthMetres + diameterMetres / 2);
  return { watts, temperatureRiseKelvin: watts / (GIVEN_OFF * surface) };
}

/**
 * Heat of each diode of a string: its drop times all the charge that passes
 * forward, its resistance times the mean square, and at most the charge that
 * flows back times the voltage that has come up against it by then (handbook).
 *
 * @returns W, and the part of it that recovery makes at most; null where the current is not known
 */
export function diodeHeat(
  { forwardVolts, onOhms, series }: Diode,
  { rmsAmps, forwardCoulombs, recoveredCoulombs, recoveredVolts }: DiodeCurrent,
  hertz: number,
): { watts: number; recoveryWatts: number } | null {
  if (rmsAmps === null && onOhms > 0) return null;
  const recoveryWatts = (hertz * recoveredCoulombs * recoveredVolts) / series;
  return {
    watts: hertz * forwardCoulombs * forwardVolts + onOhms * (rmsAmps ?? 0) ** 2 + recoveryWatts,
    recoveryWatts,
  };
}

/** RMS over mean of half a sine a period, for which average current is rated. */
const HALF_SINE = Math.PI / 2;

/**
 * The heat that a diode's rating allows: what its rated average current makes in
 * it, as half a sine of low frequency (common practice of data sheets, no source).
 *
 * @returns W; null where the rating, or both drop and resistance, are not known
 */
export function ratedDiodeWatts({ averageAmps, forwardVolts, onOhms }: Diode): number | null {
  const watts = (averageAmps ?? 0) * forwardVolts + onOhms * (HALF_SINE * (averageAmps ?? 0)) ** 2;
  return watts > 0 ? watts : null;
}
