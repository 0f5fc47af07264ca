import { amplitudeVolts, edgeFraction, hasFastEdges, type Drive } from '../drive/drive';
import type { Droop, DroopInputs } from '../ladder/loaded';
import { pulseShape } from '../ladder/pulse-shape';

/**
 * RMS current in a winding and the loss on the way into the ladder, that in the
 * diodes' on-resistance included.
 *
 * On a sine two pulses a cycle carry the charges of the bookkeeping. Their
 * width is set by the source resistance (tip of a cosine of half-angle t) or by
 * the capacitors (current as sin from the charging angle to the peak),
 * whichever spreads them more; the true pulse is wider than either, so both
 * figures are upper estimates: 0 to 26 % high in loss against integration.
 * A square or pulse gives its charge at one voltage, so that all of the droop
 * is lost, in the resistance where there is one. Strays take a current of their
 * own beside the pulses: on a sine w C V, out of step with them, so that the
 * squares add; at every step of a square C Vpp^2 / 2 is lost, at a slope no
 * more than its current C Vpp / t loses in the resistance. Source: derived.
 *
 * @param amps mean current out of the ladder, A
 * @param chargingAngle from the ripple, rad
 * @returns A and W, both windings of a full-wave ladder together in the loss;
 *   null RMS where an ideal square charges in no time
 */
export function sourceDemand(
  ladder: DroopInputs,
  amps: number,
  droop: Droop,
  chargingAngle: number,
): { rmsAmps: number | null; sourceWatts: number } {
  const { windingPulses } = ladder.lightLoad;
  const { frequencyHertz } = ladder.drive;
  const ohms = ladder.drive.seriesOhms + ladder.diodeOhms;
  const peakVolts = amplitudeVolts(ladder.drive);
  if (hasFastEdges(ladder.drive)) {
    const sourceWatts =
      droop.totalVolts * amps + ladder.inputFarads.reduce((sum, farads) => sum + edgeWatts(ladder.drive, farads), 0);
    if (sourceWatts === 0) return { rmsAmps: 0, sourceWatts };
    return { rmsAmps: ohms > 0 ? Math.sqrt(sourceWatts / windingPulses.length / ohms) : null, sourceWatts };
  }
  // Nothing drawn, no pulses; the strays' own current flows all the same.
  const shape = pulseShape(droop, chargingAngle).square;
  const squares = windingPulses.map(
    ({ positive, negative }, index) =>
      ((positive ** 2 + negative ** 2) / 2) * amps ** 2 * 2 * Math.PI * shape +
      (2 * Math.PI * frequencyHertz * ladder.inputFarads[index] * peakVolts) ** 2 / 2,
  );
  return {
    rmsAmps: Math.sqrt(Math.max(...squares)),
    sourceWatts: squares.reduce((sum, square) => sum + square * ohms, 0),
  };
}

/**
 * Power into a loaded ladder, W, by conservation: what leaves the terminal, the
 * diodes' drops and the source's own loss.
 *
 * @param amps out of the ladder, A
 * @param chargeInAll through all diodes, for each charge of the load
 */
export function wattsInto(
  terminalVolts: number,
  amps: number,
  { chargeInAll, forwardVolts }: { chargeInAll: number; forwardVolts: number },
  sourceWatts: number,
): number {
  return terminalVolts * amps + amps * chargeInAll * forwardVolts + sourceWatts;
}

/** Lost in charging and discharging a capacitance at both edges of a square or pulse, W; where leakage rings with it at a step the driver loses that. */
function edgeWatts(drive: Drive, farads: number): number {
  const { frequencyHertz, seriesOhms } = drive;
  const coulombs = farads * 2 * amplitudeVolts(drive);
  const stepped = frequencyHertz * coulombs * 2 * amplitudeVolts(drive);
  const seconds = edgeFraction(drive) / frequencyHertz;
  if (seconds === 0 && drive.lift) return 0;
  return seconds > 0 ? Math.min(stepped, (2 * frequencyHertz * seriesOhms * coulombs ** 2) / seconds) : stepped;
}
