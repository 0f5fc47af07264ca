import type { Driver, Supply, Transformer } from '../../design/driver-schema';
import { sayQuantity } from '../../quantity/format-quantity';
import { judgeCore, judgeRectifier, judgeTransistor } from '../judge';
import { leakageHenries, plainDrive, Report, sagged, type Made, type Surroundings } from '../drive-result';
import { directFeed, reportFeed } from '../supply';

/** Part of the primary's voltage that a blocking capacitor may take before it shows. */
const MOST_BLOCKING_PART = 0.1;

/**
 * A square wave from switches: half of the supply across the primary for a half
 * bridge, all of it for a full bridge, all of it across either half for
 * push-pull. Peak flux density V / (4 f N A) of a square (handbook); a blocking
 * capacitor ripples by I / (2 f C).
 */
export function inverter(
  supply: Supply,
  driver: Extract<Driver, { kind: 'inverter' }>,
  transformer: Transformer,
  { ladderWatts }: Surroundings,
): Made {
  const report = new Report();
  const { bridge, frequencyHertz, deadSeconds, efficiency, transistorOhms, blockingFarads } = driver;
  const feed = directFeed(supply);
  const watts = ladderWatts === null ? null : ladderWatts / efficiency;
  const { volts } = feed;
  const primaryVolts = bridge === 'half' ? volts / 2 : volts;
  const turns = bridge === 'push-pull' ? transformer.primaryTurns / 2 : transformer.primaryTurns;
  const ratio = transformer.secondaryTurns / turns;
  const peakVolts = primaryVolts * ratio * transformer.coupling;
  const onFraction = Math.max(0, 1 - 2 * deadSeconds * frequencyHertz);
  const blocks = bridge === 'push-pull' ? 2 * volts : volts;

  report.figure('driver', 'primary', 'Across the driven primary, peak', primaryVolts, 'V');
  report.figure('driver', 'on-part', 'On, of each half period', onFraction, '%');
  report.figure('driver', 'switch-peak', 'Switches block, peak', blocks, 'V');
  report.figure('transformer', 'ratio', 'Turns ratio, driven part', ratio, '');
  report.figure('transformer', 'secondary-peak', 'Secondary, peak', peakVolts, 'V');
  judgeRectifier(report, transformer);
  judgeCore(report, transformer, (primaryVolts * onFraction) / (4 * frequencyHertz * turns));
  judgeTransistor(report, driver.ratedVolts, blocks);
  if (onFraction === 0)
    report.finding(
      'stop',
      'dead-time-too-long',
      '$.driver.deadSeconds',
      `A dead time of ${sayQuantity(deadSeconds, 's')} leaves nothing of a half period at ${sayQuantity(frequencyHertz, 'Hz')}.`,
      'Shorten the dead time or lower the frequency.',
    );
  if (watts !== null && watts > 0 && volts > 0) {
    const primaryAmps = watts / (sagged(feed, watts) * (primaryVolts / volts));
    report.figure('driver', 'primary-amps', 'Primary current at this load', primaryAmps, 'A');
    // Each carries it in one half of the period.
    report.figure('driver', 'transistor-amps', 'Each switch, RMS', primaryAmps / Math.SQRT2, 'A');
    report.figure(
      'driver',
      'conduction',
      'Switches’ conduction loss',
      primaryAmps ** 2 * transistorOhms * (bridge === 'full' ? 2 : 1),
      'W',
    );
    if (blockingFarads !== null) {
      const rippleVolts = primaryAmps / (2 * frequencyHertz * blockingFarads);
      report.figure('driver', 'blocking-ripple', 'Blocking capacitor ripples, p-p', rippleVolts, 'V');
      if (rippleVolts > MOST_BLOCKING_PART * primaryVolts)
        report.finding(
          'warn',
          'blocking-capacitor-small',
          '$.driver.blockingFarads',
          `The blocking capacitor takes ${sayQuantity(rippleVolts, 'V')} peak-to-peak of ${sayQuantity(primaryVolts, 'V')}.`,
          'Use a larger blocking capacitor.',
        );
    }
  }
  reportFeed(supply, watts, report);
  const switches = transistorOhms * (bridge === 'full' ? 2 : 1);
  return {
    ...report,
    drive: plainDrive({
      waveform: 'square',
      positivePeakVolts: peakVolts,
      negativePeakVolts: peakVolts,
      frequencyHertz,
      seriesOhms: transformer.secondaryOhms + switches * ratio ** 2,
      seriesHenries: leakageHenries(transformer),
      supply: { ...feed, efficiency },
    }),
  };
}
