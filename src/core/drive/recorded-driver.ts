import type { ScopePeriod } from './scope-record';
import type { MeasuredDriver as Measured } from './kinds/measured';

/** More than a meter shows, so that a reading typed comes back as it was. */
const METER_DIGITS = 7;

const peaksOf = (samples: readonly number[]) => ({
  positivePeakVolts: Math.max(...samples),
  negativePeakVolts: -Math.min(...samples),
});

/** The driver with a recorded period for its waveform. */
export function withRecord(driver: Measured, { samples, frequencyHertz }: ScopePeriod): Measured {
  const hertz = Number(frequencyHertz.toPrecision(6));
  return { ...driver, ...peaksOf(samples), waveform: 'sampled', samples, frequencyHertz: hertz };
}

/** The driver with a plain waveform of the recorded one's peaks. */
export function withoutRecord(driver: Measured, waveform: Exclude<Measured['waveform'], 'sampled'>): Measured {
  return { ...driver, ...(driver.samples ? peaksOf(driver.samples) : {}), waveform, samples: null };
}

/** The driver with all its voltages so many times what they are, rounded to what a meter can tell. */
export const withHeight = (driver: Measured, times: number): Measured =>
  scaledBy(driver, (volts) => Number((volts * times).toPrecision(METER_DIGITS)));

/** The same unrounded: what a computation turns, and nobody reads. */
export const timesAsHigh = (driver: Measured, times: number): Measured => scaledBy(driver, (volts) => volts * times);

function scaledBy(driver: Measured, scaled: (volts: number) => number): Measured {
  return {
    ...driver,
    positivePeakVolts: scaled(driver.positivePeakVolts),
    ...(driver.negativePeakVolts === undefined ? {} : { negativePeakVolts: scaled(driver.negativePeakVolts) }),
    samples: driver.samples && driver.samples.map(scaled),
  };
}
