import type { Driver, Supply } from '../../design/driver-schema';
import { sayQuantity } from '../../quantity/format-quantity';
import { phaseCut, phaseCutSamples } from '../phase-cut';
import { reportDimmer } from '../supply';
import { plainDrive, Report, type Made, type Surroundings } from '../drive-result';

/**
 * A transformer at mains frequency, or the mains itself.
 *
 * Several have their primaries in parallel and secondaries in series: voltages
 * and impedances add. A current into a short gives the impedance, Voc / Isc, of
 * which the winding's resistance is a part and reactance the rest (handbook).
 * The capacitor that takes the magnetising current off the line: I / (2 pi f V)
 * (handbook), as if that current were all reactive.
 */
export function mainsTransformer(
  supply: Extract<Supply, { kind: 'mains' }>,
  driver: Extract<Driver, { kind: 'mains' }>,
  { ladderWatts }: Surroundings,
): Made {
  const report = new Report();
  const { style, count, secondaryVolts, shortAmps, magnetisingAmps } = driver;
  const { hertz } = supply;
  const primaryVolts = supply.volts * supply.setting;
  const direct = style === 'direct';
  const openVolts = direct ? primaryVolts : count * secondaryVolts * supply.setting;
  const dimmed = supply.dimmedDegrees > 0 ? phaseCut(supply.dimmedDegrees) : null;
  const samples = dimmed && phaseCutSamples(supply.dimmedDegrees, openVolts * Math.SQRT2);
  const peakVolts = samples ? Math.max(...samples) : openVolts * Math.SQRT2;
  const ohms = direct ? 0 : count * driver.secondaryOhms;
  const impedance = direct || shortAmps === null ? ohms : (count * secondaryVolts) / shortAmps;
  const henries = Math.sqrt(Math.max(0, impedance ** 2 - ohms ** 2)) / (2 * Math.PI * hertz);
  report.figure('supply', 'volts', 'Mains as set, RMS', primaryVolts, 'V');
  report.figure(
    'driver',
    'open-rms',
    'Without load, RMS',
    dimmed ? openVolts * Math.SQRT2 * dimmed.rms : openVolts,
    'V',
  );
  report.figure('driver', 'open-peak', 'Without load, peak', peakVolts, 'V');
  if (!direct) reportDimmer(report, supply.dimmedDegrees);
  if (dimmed) report.sampledAsSine('$.supply.dimmedDegrees');
  if (shortAmps !== null && !direct) {
    report.figure('driver', 'impedance', 'Impedance, Voc / Isc', impedance, 'Ω');
    report.figure('driver', 'reactance', 'Of it leakage reactance', 2 * Math.PI * hertz * henries, 'Ω');
    report.figure(
      'driver',
      'volt-amperes',
      'Open volts times short current, VA',
      openVolts * shortAmps * supply.setting,
      '',
    );
  }
  if (ladderWatts !== null && primaryVolts > 0)
    report.figure('supply', 'amps', 'Working current at this load, RMS', ladderWatts / primaryVolts, 'A');
  if (magnetisingAmps !== null && !direct) {
    report.figure('supply', 'magnetising', 'Magnetising current, RMS', count * magnetisingAmps * supply.setting, 'A');
    report.figure(
      'supply',
      'power-factor',
      'Capacitor that would cancel it',
      (count * magnetisingAmps) / (2 * Math.PI * hertz * supply.volts),
      'F',
    );
  }
  if (direct || !supply.isolated)
    report.finding(
      'stop',
      'mains-not-isolated',
      direct ? '$.driver.style' : '$.supply.isolated',
      'The ladder hangs on the mains without isolation: every part of it, ground side too, can kill, and a fault draws what the fuse allows.',
      'Shown for understanding. Put an isolating transformer before it.',
    );
  if (style === 'oven')
    report.finding(
      'stop',
      'oven-transformer',
      '$.driver.style',
      'An oven transformer is not limited in current: at its secondary a touch or an arc draws amperes, and its core end of the winding is earthed.',
      'People die of these. Use a current-limited transformer or a small driver instead.',
    );
  if (style === 'current-limited' && shortAmps === null)
    report.finding(
      'warn',
      'short-current-unknown',
      '$.driver.shortAmps',
      'A current-limited transformer is given without its short-circuit current, so it is counted as stiff.',
      `Enter the current into a short: VA divided by ${sayQuantity(secondaryVolts, 'V')}, or as measured.`,
    );
  return {
    ...report,
    drive: plainDrive({
      waveform: samples ? 'sampled' : 'sine',
      samples,
      positivePeakVolts: peakVolts,
      negativePeakVolts: peakVolts,
      frequencyHertz: hertz,
      seriesOhms: ohms,
      seriesHenries: henries,
      maxAmps: shortAmps === null || direct ? null : shortAmps * supply.setting,
    }),
  };
}
