import type { ScopePeriod } from '../drive/scope-record';
import type { MeasuredDesign } from './design-schema';

type Measured = MeasuredDesign['driver'];

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
