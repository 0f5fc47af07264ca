import type { Driver, Supply, Transformer } from '../../design/driver-schema';
import { sayQuantity } from '../../quantity/format-quantity';
import { judgeTransistor, reportStrokes } from '../judge';
import { plainDrive, ratioOf, Report, sagged, swingSeconds, type Made, type Surroundings, triangleRms } from '../drive-result';
import { directFeed, reportFeed } from '../supply';

/**
 * A switch that charges the primary and lets it fly back, at a fixed frequency
 * and duty.
 *
 * Peak current Ip = Vs D / (L f), energy L Ip^2 / 2 a cycle, so the power has a
 * ceiling whatever the load (handbook). Forward stroke of the secondary Vs N2 /
 * N1. Without load the pulse climbs until the clamp holds it or all energy is in
 * the capacitance, that which the forward stroke left there included: sqrt(Ip^2 L
 * / C + Vs^2) on the primary, whichever is less; loaded it
 * settles where the ladder takes what that energy leaves beside C V^2 / 2 for the
 * capacitance. What rings on after the pulse is taken for lost; where it lasts
 * until the switch closes again it adds or takes up to some ten per cent.
 * Checked by integrating switch, core and ladder as one circuit.
 */
export function flyback(
  supply: Supply,
  driver: Extract<Driver, { kind: 'flyback' }>,
  transformer: Transformer,
  { ladderFarads, ladderWatts, level }: Surroundings,
): Made {
  const report = new Report();
  const { frequencyHertz, duty, efficiency, clampVolts } = driver;
  const feed = directFeed(supply);
  const asked = ladderWatts === null ? null : ladderWatts / efficiency;
  // The energy drawn each cycle is set by the switch, not by the load.
  const henries = transformer.primaryHenries!;
  const ceiling = (volts: number) => (((volts * duty) / frequencyHertz) ** 2 / (2 * henries)) * frequencyHertz;
  const volts = sagged(feed, ceiling(feed.volts));
  const ratio = ratioOf(transformer);
  const peakAmps = (volts * duty) / (henries * frequencyHertz);
  const joules = (henries * peakAmps ** 2) / 2;
  const primaryFarads = driver.switchFarads + ratio ** 2 * (transformer.secondaryFarads + ladderFarads);
  // The capacitance starts from the forward stroke, charged the other way.
  const returned = (primaryFarads * volts ** 2) / 2;
  const freeVolts = joules > 0 ? Math.sqrt((2 * (joules + returned)) / primaryFarads) : 0;
  const clampedVolts = clampVolts === null ? Infinity : Math.max(0, clampVolts - volts);
  const primaryVolts = Math.min(freeVolts, clampedVolts);
  const coupled = ratio * transformer.coupling;

  report.figure('driver', 'peak-amps', 'Peak current', peakAmps, 'A');
  report.figure('driver', 'primary-rms', 'Primary current, RMS', triangleRms(peakAmps, duty), 'A');
  report.figure('driver', 'joules', 'Energy a cycle', joules, 'J');
  report.figure('driver', 'ceiling', 'Power ceiling, in', joules * frequencyHertz, 'W');
  report.figure('driver', 'switch-peak', 'Switch blocks, peak', volts + primaryVolts, 'V');
  reportStrokes(report, transformer, { forwardVolts: volts, backVolts: primaryVolts, peakAmps });
  judgeTransistor(report, driver.ratedVolts, volts + primaryVolts);
  const emptied = (henries * peakAmps) / primaryVolts;
  if (primaryVolts === 0)
    report.finding(
      'stop',
      'clamp-under-supply',
      '$.driver.clampVolts',
      `The clamp holds the switch at ${sayQuantity(clampVolts!, 'V')}, no higher than the supply: nothing flies back.`,
      'Use a clamp well above the supply.',
    );
  else if (emptied > (1 - duty) / frequencyHertz)
    report.finding(
      'warn',
      'not-emptied',
      '$.driver.duty',
      `The core is not emptied before the switch closes again: that takes ${sayQuantity(emptied, 's')} and ${sayQuantity((1 - duty) / frequencyHertz, 's')} is left. Current climbs from cycle to cycle.`,
      'Lower the duty, or let the pulse climb higher.',
    );
  const pulseWatts = (joules + returned) * frequencyHertz;
  const held = primaryFarads > 0 ? ((primaryFarads * primaryVolts ** 2) / 2) * frequencyHertz : 0;
  // Either stroke's share of the ladder's power is its share of the height; the forward one's comes from the supply directly.
  const height = primaryVolts * level + volts;
  const forwardWatts = asked === null || height === 0 ? 0 : (asked * volts) / height;
  if (asked !== null) report.figure('driver', 'forward-watts', 'Forward stroke gives', forwardWatts, 'W');
  report.figure('driver', 'held', 'Rings away in the capacitance', held * level ** 2, 'W');
  if (asked !== null && freeVolts > clampedVolts)
    report.figure(
      'driver',
      'clamp-watts',
      'Clamp burns',
      Math.max(0, pulseWatts - held * level ** 2 - (asked - forwardWatts)),
      'W',
    );
  reportFeed(supply, pulseWatts + forwardWatts, report);
  return {
    ...report,
    drive: plainDrive({
      waveform: 'pulse',
      duty: 1 - duty,
      positivePeakVolts: primaryVolts * coupled,
      negativePeakVolts: volts * coupled,
      frequencyHertz,
      edgeSeconds: swingSeconds(henries, primaryFarads, { forwardVolts: volts, topVolts: primaryVolts, freeVolts }),
      seriesOhms: transformer.secondaryOhms,
      maxWatts: pulseWatts * efficiency,
      heldWatts: held * efficiency,
      yields: 'positive',
    }),
  };
}
