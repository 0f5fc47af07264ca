import type { Driver } from '../../design/driver-schema';
import { plainDrive, Report, type Made } from '../drive-result';

/** A bought board, known by what it gives without load and what it is limited to. */
export function boughtModule(driver: Extract<Driver, { kind: 'module' }>): Made {
  const report = new Report();
  const { openVolts, frequencyHertz, seriesOhms, maxAmps, maxWatts, waveform } = driver;
  report.figure('driver', 'open-peak', 'Without load, peak', openVolts, 'V');
  report.figure('driver', 'open-rms', 'The same, RMS', waveform === 'sine' ? openVolts / Math.SQRT2 : openVolts, 'V');
  if (maxAmps === null && maxWatts === null)
    report.finding(
      'note',
      'module-limit-unknown',
      '$.driver.maxAmps',
      'Neither a current nor a power limit of the module is known, so none is counted.',
      'Enter what its data say, or measure where its output falls.',
    );
  if (driver.heatSinkLive)
    report.finding(
      'warn',
      'module-heat-sink-live',
      '$.driver.heatSinkLive',
      'Its heat sink is live.',
      'Keep it off the case and covered, and measure it to ground before touching.',
    );
  return {
    ...report,
    drive: plainDrive({
      waveform,
      positivePeakVolts: openVolts,
      negativePeakVolts: openVolts,
      frequencyHertz,
      seriesOhms,
      maxAmps,
      maxWatts,
    }),
  };
}
