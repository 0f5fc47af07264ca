import type { Design } from '../design/design-schema';
import { blockingOscillator } from './kinds/blocking-oscillator';
import { boughtModule } from './kinds/module';
import { capacitorDischarge } from './kinds/capacitor-discharge';
import { amplitudeVolts, mostWatts, type Drive } from './drive';
import { flyback } from './kinds/flyback';
import { inverter } from './kinds/inverter';
import { mainsTransformer } from './kinds/mains';
import { plainDrive, Report, type Made, type Surroundings } from './drive-result';
import { meterReadings } from './meter-sense';
import { resonantPushPull } from './kinds/resonant-push-pull';

/**
 * What stands at the ladder's foot, whatever makes it, with the figures and
 * findings of every link before it.
 *
 * @param design that the schema has let through, so that what its kind of
 *   driver needs is there
 * @throws RangeError when supply or transformer is missing all the same
 */
export function makeDrive(design: Pick<Design, 'supply' | 'driver' | 'transformer'>, surroundings: Surroundings): Made {
  const made = madeByKind(design, surroundings);
  if (surroundings.driveOnly) return made;
  const limits = new Report();
  const link = design.transformer ? 'transformer' : 'driver';
  limits.figure(link, 'most-watts', 'Can give the ladder, at most', mostWatts(made.drive) ?? NaN, 'W');
  limits.figure(link, 'most-amps', 'RMS current, at most', made.drive.maxAmps ?? NaN, 'A');
  return { ...made, figures: [...made.figures, ...limits.figures] };
}

function madeByKind(design: Pick<Design, 'supply' | 'driver' | 'transformer'>, surroundings: Surroundings): Made {
  const { supply, driver, transformer } = design;
  const direct = () => needed(supply);
  const wound = () => needed(transformer);
  switch (driver.kind) {
    case 'measured':
      return measured(driver, surroundings);
    case 'mains': {
      const mains = needed(supply);
      if (mains.kind !== 'mains') throw new RangeError('makeDrive: a mains driver needs a mains supply');
      return mainsTransformer(mains, driver, surroundings);
    }
    case 'resonant-push-pull':
      return resonantPushPull(direct(), driver, wound(), surroundings);
    case 'flyback':
      return flyback(direct(), driver, wound(), surroundings);
    case 'blocking-oscillator':
      return blockingOscillator(direct(), driver, wound(), surroundings);
    case 'inverter':
      return inverter(direct(), driver, wound(), surroundings);
    case 'module':
      return boughtModule(driver);
    case 'capacitor-discharge':
      return capacitorDischarge(driver, wound(), surroundings);
  }
}

/** A waveform that was measured, with what meters show of it; an absent negative peak mirrors the positive one. */
function measured(driver: Extract<Design['driver'], { kind: 'measured' }>, { driveOnly }: Surroundings): Made {
  const report = new Report();
  const { waveform, duty, frequencyHertz, samples } = driver;
  const drive: Drive = plainDrive({
    waveform,
    samples,
    positivePeakVolts: samples ? Math.max(...samples) : driver.positivePeakVolts,
    negativePeakVolts: samples ? -Math.min(...samples) : (driver.negativePeakVolts ?? driver.positivePeakVolts),
    duty: waveform === 'pulse' ? duty : 0.5,
    frequencyHertz,
    seriesOhms: driver.seriesOhms,
    seriesHenries: driver.seriesHenries,
    maxWatts: driver.maxWatts,
    maxAmps: driver.maxAmps,
  });
  if (driveOnly) return { ...report, drive };
  const readings = meterReadings(drive);
  if (samples) {
    report.figure('driver', 'positive-peak', 'Positive peak', drive.positivePeakVolts, 'V');
    report.figure('driver', 'negative-peak', 'Negative peak', drive.negativePeakVolts, 'V');
    report.figure('driver', 'peak-to-peak', 'Peak-to-peak', 2 * amplitudeVolts(drive), 'V');
    report.figure(
      'driver',
      'asymmetry',
      'Greater over lesser peak',
      Math.max(drive.positivePeakVolts, drive.negativePeakVolts) /
        Math.min(drive.positivePeakVolts, drive.negativePeakVolts),
      '',
    );
    report.sampledAsSine('$.driver');
  }
  report.figure('driver', 'true-rms', 'A true-RMS meter shows, ac', readings.trueRmsVolts, 'V');
  report.figure('driver', 'average-responding', 'An average-responding one', readings.averageRespondingVolts, 'V');
  report.figure('driver', 'mean', 'A dc range', readings.meanVolts, 'V');
  return { ...report, drive };
}

function needed<T>(part: T | null): T {
  if (part === null) throw new RangeError('makeDrive: a part that this kind of driver needs is missing');
  return part;
}
