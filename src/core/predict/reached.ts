import type { OutputPrediction } from './prediction';
import type { Reached } from './target';

/** What of an output counts: the mean of a direct one, the RMS of one that alternates; it is held against a target. */
export const reachedBy = ({
  alternating,
  meanVolts,
  minVolts,
  maxVolts,
  amps,
  ripplePeakToPeakFraction,
}: OutputPrediction): Reached =>
  alternating
    ? { volts: alternating.rmsVolts, amps: alternating.rmsAmps, rippleFraction: null, peakVolts: alternating.peakVolts }
    : { volts: meanVolts, amps, rippleFraction: ripplePeakToPeakFraction, peakVolts: maxVolts, valleyVolts: minVolts };

/** The highest that an output climbs to with its load, which a gap waits for, V; what alternates peaks there. */
export const highestOf = ({ alternating, noLoadPeakVolts, maxVolts }: OutputPrediction): number =>
  alternating ? noLoadPeakVolts : (maxVolts ?? 0);

/** What a resistance on the way through the smoothing takes of an output, mean V and W; null where its current is not known. */
export function takenBySection(
  ohms: number,
  { amps, dividerAmps }: OutputPrediction,
): { volts: number; watts: number } | null {
  if (amps === null) return null;
  const through = amps + (dividerAmps ?? 0);
  return { volts: through * ohms, watts: through ** 2 * ohms };
}
