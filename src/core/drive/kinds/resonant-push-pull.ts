import type { Driver, Supply, Transformer } from '../../design/driver-schema';
import { preferredAtLeast } from '../../quantity/preferred-values';
import { sayQuantity } from '../../quantity/format-quantity';
import { judgeCore, judgeRectifier, judgeTransistor } from '../judge';
import { leakageHenries, plainDrive, ratioOf, Report, sagged, type Made, type Surroundings } from '../drive-result';
import { directFeed, reportFeed } from '../supply';
import { resonanceHertz } from '../../magnetics/inductance';
import { AMPS_PER_SQUARE_METRE, awgOfSection, skinDepthMetres } from '../../magnetics/wire';

/** Loaded quality factor under which the tank no longer swings cleanly (common practice, no source). */
const LEAST_QUALITY = 2;
const AUDIBLE_HERTZ = 20e3;
/** Beyond this ferrite and wire of the usual kind heat (common practice, no source). */
const FAST_HERTZ = 200e3;
/** Supply over gate threshold at which both transistors no longer just conduct together (common practice, no source). */
const STARTS_OVER_THRESHOLD = 2;

/**
 * Current-fed push-pull with a tank across a centre-tapped primary, switching
 * where the tank's voltage passes zero.
 *
 * The choke holds the mean of the centre tap, a rectified half sine, at the
 * supply Vs, so the tank's peak across the whole primary is pi Vs; f = 1 / (2 pi
 * sqrt(L (C + (N2/N1)^2 Cs))); tank current RMS pi Vs / sqrt 2 times 2 pi f C.
 * The choke carries the centre tap's ripple: its volt-seconds above the mean are
 * 0.661 Vs / (2 pi f). Each gate resistor: half the time (Vs - Vz)^2 / R, half
 * (Vs - 0.7)^2 / R. Derived; checked by integrating the tank.
 */
export function resonantPushPull(
  supply: Supply,
  driver: Extract<Driver, { kind: 'resonant-push-pull' }>,
  transformer: Transformer,
  { ladderFarads, ladderWatts }: Surroundings,
): Made {
  const report = new Report();
  const { efficiency, tankSeries, tankParallel } = driver;
  const tankFarads = (driver.tankFarads * tankParallel) / tankSeries;
  const feed = directFeed(supply);
  const watts = ladderWatts === null ? null : ladderWatts / efficiency;
  const volts = feed.volts;
  const ratio = ratioOf(transformer);
  const henries = transformer.primaryHenries!;
  const reflected = ratio ** 2 * (transformer.secondaryFarads + ladderFarads);
  const frequencyHertz = resonanceHertz(henries, tankFarads + reflected);
  const omega = 2 * Math.PI * frequencyHertz;
  const tankVolts = Math.PI * volts;
  const peakVolts = tankVolts * ratio * transformer.coupling;
  const tankAmps = (tankVolts / Math.SQRT2) * omega * tankFarads;

  report.figure('driver', 'frequency', 'Frequency', frequencyHertz, 'Hz');
  report.figure(
    'driver',
    'unloaded-frequency',
    'The same without secondary and ladder',
    resonanceHertz(henries, tankFarads),
    'Hz',
  );
  report.figure('driver', 'tank-peak', 'Tank, peak (π times supply)', tankVolts, 'V');
  report.figure('driver', 'tank-amps', 'Tank current, RMS', tankAmps, 'A');
  const each = { volts: tankVolts / tankSeries, amps: tankAmps / tankParallel };
  if (tankSeries * tankParallel > 1) {
    report.figure('driver', 'tank-farads', `Bank of ${tankSeries * tankParallel} together`, tankFarads, 'F');
    report.figure('driver', 'tank-each-volts', 'Over each, peak', each.volts, 'V');
    report.figure('driver', 'tank-each-amps', 'Through each, RMS', each.amps, 'A');
  }
  report.figure('driver', 'tank-slope', 'Over each, V/µs', (each.volts * omega) / 1e6, '');
  const section = tankAmps / AMPS_PER_SQUARE_METRE;
  report.figure('driver', 'wire', 'Primary copper at 3 A/mm², mm²', section * 1e6, '');
  if (section > 0) report.figure('driver', 'awg', 'The same as one wire, AWG', awgOfSection(section), '');
  report.figure(
    'driver',
    'strand',
    'Strands no thicker than two skin depths, mm',
    2e3 * skinDepthMetres(frequencyHertz),
    '',
  );
  const blockedVolts = tankVolts * (1 + driver.overshoot);
  report.figure('driver', 'transistor-peak', 'Transistors block, peak with overshoot', blockedVolts, 'V');
  report.figure(
    'driver',
    'choke-ripple',
    'Choke ripple, peak-to-peak',
    (0.661 * volts) / (omega * driver.chokeHenries),
    'A',
  );
  const gateWatts =
    (Math.max(0, volts - driver.zenerVolts) ** 2 + Math.max(0, volts - 0.7) ** 2) / (2 * driver.gateOhms);
  report.figure('driver', 'gate-watts', 'Each gate resistor', gateWatts, 'W');
  // Through the gate resistor against the pull-down, until the zener holds it.
  const dividedVolts = (volts * driver.pullDownOhms) / (driver.gateOhms + driver.pullDownOhms);
  const gateVolts = Math.min(dividedVolts, driver.zenerVolts);
  const zenerAmps = (volts - gateVolts) / driver.gateOhms - gateVolts / driver.pullDownOhms;
  report.figure('driver', 'gate-volts', 'Gate settles at', gateVolts, 'V');
  if (dividedVolts > driver.zenerVolts)
    report.figure('driver', 'zener-watts', 'Each zener, half the time', (zenerAmps * gateVolts) / 2, 'W');
  report.figure('driver', 'least-supply', 'Starts from, about', STARTS_OVER_THRESHOLD * driver.gateThresholdVolts, 'V');
  report.figure('transformer', 'ratio', 'Turns ratio', ratio, '');
  report.figure('transformer', 'by-supply', 'Supply times ratio (too low)', volts * ratio, 'V');
  report.figure(
    'transformer',
    'secondary-peak',
    'Secondary, peak (π times supply times ratio, coupled)',
    peakVolts,
    'V',
  );
  report.figure('transformer', 'reflected', 'Secondary and ladder, seen by the tank', reflected, 'F');
  judgeRectifier(report, transformer);
  judgeCore(report, transformer, tankVolts / (omega * transformer.primaryTurns));
  judgeTransistor(report, driver.ratedVolts, blockedVolts);
  if (driver.tankRatedVolts !== null && each.volts > driver.tankRatedVolts)
    report.finding(
      'stop',
      'tank-over-voltage',
      '$.driver.tankRatedVolts',
      `Each tank capacitor swings to ${sayQuantity(each.volts, 'V')} peak, over its ${sayQuantity(driver.tankRatedVolts, 'V')}, shared evenly.`,
      'Put more in series, made for pulse current, or lower the supply.',
    );
  if (driver.tankRatedAmps !== null && each.amps > driver.tankRatedAmps)
    report.finding(
      'stop',
      'tank-over-current',
      '$.driver.tankRatedAmps',
      `${sayQuantity(each.amps, 'A')} RMS circulate through each tank capacitor, rated ${sayQuantity(driver.tankRatedAmps, 'A')}: it heats and bursts.`,
      'Put more strings side by side, each of a smaller value.',
    );
  if (gateWatts > driver.gateResistorWatts)
    report.finding(
      'stop',
      'gate-resistor-overloaded',
      '$.driver.gateResistorWatts',
      `Each gate resistor takes ${sayQuantity(gateWatts, 'W')} and is rated ${sayQuantity(driver.gateResistorWatts, 'W')}.`,
      `Feed the gates from a lower, separate supply, or use ${sayQuantity(preferredAtLeast(12, (gateWatts / driver.gateResistorWatts) * driver.gateOhms), 'Ω', 2)} or more.`,
    );
  if (gateVolts < STARTS_OVER_THRESHOLD * driver.gateThresholdVolts)
    report.finding(
      'warn',
      'may-latch',
      '$.supply',
      `With ${sayQuantity(gateVolts, 'V')} at the gates both transistors may turn on and stay on, a short across the supply: they want ${sayQuantity(STARTS_OVER_THRESHOLD * driver.gateThresholdVolts, 'V')} or more.`,
      'Switch the supply on at full voltage behind a fuse; do not wind it up from zero.',
    );
  if (frequencyHertz < AUDIBLE_HERTZ)
    report.finding(
      'warn',
      'tank-audible',
      '$.driver.tankFarads',
      `It runs at ${sayQuantity(frequencyHertz, 'Hz')} and will squeal: the tank capacitor is too large for these turns.`,
      'Use a smaller tank capacitor or fewer turns.',
    );
  if (frequencyHertz > FAST_HERTZ)
    report.finding(
      'warn',
      'tank-fast',
      '$.driver.tankFarads',
      `It runs at ${sayQuantity(frequencyHertz, 'Hz')}: core and wire heat, and the tank capacitor is small for these turns.`,
      'Use a larger tank capacitor or more turns.',
    );
  reportFeed(supply, watts, report);
  if (watts !== null && watts > 0 && volts > 0) {
    const amps = watts / sagged(feed, watts);
    // The whole of the choke's current, half of the time.
    report.figure('driver', 'transistor-amps', 'Each transistor, RMS', amps / Math.SQRT2, 'A');
    report.figure('driver', 'conduction', 'Transistors’ conduction loss', amps ** 2 * driver.transistorOhms, 'W');
    const quality = tankVolts ** 2 / (2 * watts * omega * henries);
    report.figure('driver', 'quality', 'Tank’s loaded Q', quality, '');
    if (quality < LEAST_QUALITY)
      report.finding(
        'warn',
        'tank-too-light',
        '$.driver.tankFarads',
        `The load leaves the tank a Q of ${quality.toPrecision(2)}: it may stop swinging and latch.`,
        'Use a larger tank capacitor, fewer turns or a lighter load.',
      );
    if (driver.chokeSaturationAmps !== null) {
      const peakAmps = amps + (0.661 * volts) / (omega * driver.chokeHenries) / 2;
      if (peakAmps > driver.chokeSaturationAmps)
        report.finding(
          'stop',
          'choke-saturates',
          '$.driver.chokeSaturationAmps',
          `The choke carries up to ${sayQuantity(peakAmps, 'A')} and saturates at ${sayQuantity(driver.chokeSaturationAmps, 'A')}.`,
          'Use a choke with a larger gap or core.',
        );
    }
  }
  return {
    ...report,
    drive: plainDrive({
      waveform: 'sine',
      positivePeakVolts: peakVolts,
      negativePeakVolts: peakVolts,
      frequencyHertz,
      seriesOhms: transformer.secondaryOhms,
      seriesHenries: leakageHenries(transformer),
      supply: { ...feed, efficiency },
    }),
  };
}
