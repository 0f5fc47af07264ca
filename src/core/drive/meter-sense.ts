import { driveAt, type Drive } from './drive';

const POINTS = 1000;
/** RMS over mean of a rectified sine: what an average-responding meter is scaled by (handbook). */
const FORM_FACTOR = Math.PI / (2 * Math.SQRT2);

/** Readings of one waveform, V; the two alternating ones on ranges that block direct voltage. */
export type MeterReadings = { meanVolts: number; trueRmsVolts: number; averageRespondingVolts: number };

/**
 * What meters show of a drive if they are fast enough for it and its voltage is
 * within their range: a dc range its mean, a true-RMS ac range the root mean
 * square of what alternates, an average-responding one the mean of that
 * rectified, scaled so that a sine reads right (handbook).
 */
export function meterReadings(drive: Drive): MeterReadings {
  let sum = 0;
  const values = Array.from({ length: POINTS }, (_, point) => driveAt(drive, (point + 0.5) / POINTS));
  for (const value of values) sum += value;
  const meanVolts = sum / POINTS;
  let squares = 0;
  let rectified = 0;
  for (const value of values) {
    squares += (value - meanVolts) ** 2;
    rectified += Math.abs(value - meanVolts);
  }
  return {
    meanVolts,
    trueRmsVolts: Math.sqrt(squares / POINTS),
    averageRespondingVolts: (FORM_FACTOR * rectified) / POINTS,
  };
}
