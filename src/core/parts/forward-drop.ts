/** Emission coefficient times thermal voltage of a silicon rectifier near 25 °C, V: 2 times 25.9 mV (common practice, no source). */
const DECAY_VOLTS = 2 * 0.02585;
/** What one junction drops at its rated current: a stick has as many as its drop holds of these (common practice, no source). */
const JUNCTION_VOLTS = 1;
/** No meter, bleeder or leakage takes less: what flows where nothing is drawn, A (common practice, no source). */
const LEAST_AMPS = 1e-6;

/** How many junctions a diode of this rated drop has in series, at least one. */
export const junctionsOf = (ratedVolts: number) => Math.max(1, Math.round(ratedVolts / JUNCTION_VOLTS));

/**
 * Forward drop of a diode at a current other than that it is rated at, V:
 * junctions times eta kT/q ln(I / I_rated) on top of the rated drop (diode
 * equation, handbook; eta = 2), resistance apart. From a microamp up; never below
 * zero.
 *
 * @param ratedVolts at the rated current, zero or more
 * @param ratedAmps null where the drop is to stand whatever the current
 * @param amps mean, zero or more
 */
export function forwardDrop(ratedVolts: number, ratedAmps: number | null, amps: number): number {
  if (ratedAmps === null || ratedVolts === 0) return ratedVolts;
  const change = junctionsOf(ratedVolts) * DECAY_VOLTS * Math.log(Math.max(amps, LEAST_AMPS) / ratedAmps);
  return Math.max(0, ratedVolts + change);
}
