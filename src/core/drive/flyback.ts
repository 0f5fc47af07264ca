import type { Driver, Supply, Transformer } from '../design/driver-schema';
import { sayQuantity } from '../quantity/print-quantity';
import { judgeTransistor, reportStrokes } from './judge';
import { plainDrive, ratioOf, Report, sagged, type Made, type Surroundings } from './made';
import { directFeed, reportFeed } from './supply';

/**
 * A switch that charges the primary and lets it fly back, at a fixed frequency
 * and duty.
 *
 * Peak current Ip = Vs D / (L f), energy L Ip^2 / 2 a cycle, so the power has a
 * ceiling whatever the load (handbook). Forward stroke of the secondary Vs N2 /
 * N1. Without load the pulse climbs until the clamp holds it or all energy is in
 * the capacitance: Ip sqrt(L / C) on the primary, whichever is less; loaded it
 * settles where the ladder takes what the energy gives.
 */
export function flyback(
  supply: Supply,
  driver: Extract<Driver, { kind: 'flyback' }>,
  transformer: Transformer,
  { ladderFarads, ladderWatts }: Surroundings,
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
  const freeVolts = peakAmps * Math.sqrt(henries / primaryFarads);
  const clampedVolts = clampVolts === null ? Infinity : Math.max(0, clampVolts - volts);
  const primaryVolts = Math.min(freeVolts, clampedVolts);
  const coupled = ratio * transformer.coupling;

  report.figure('driver', 'peak-amps', 'Peak current', peakAmps, 'A');
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
  // While the pulse stands at its full height its share of the ladder's power is its share of the height; once it has
  // fallen it gives all it has. The forward stroke's share comes from the supply directly.
  const pulseWatts = joules * frequencyHertz;
  const whole = primaryVolts + volts;
  const forwardWatts = asked === null || whole === 0 ? 0 : Math.max((asked * volts) / whole, asked - pulseWatts);
  if (asked !== null && freeVolts > clampedVolts)
    report.figure('driver', 'clamp-watts', 'Clamp burns', Math.max(0, pulseWatts - (asked - forwardWatts)), 'W');
  reportFeed(supply, pulseWatts + forwardWatts, report);
  return {
    ...report,
    drive: plainDrive({
      waveform: 'pulse',
      duty: 1 - duty,
      positivePeakVolts: primaryVolts * coupled,
      negativePeakVolts: volts * coupled,
      frequencyHertz,
      seriesOhms: transformer.secondaryOhms,
      maxWatts: joules * frequencyHertz * efficiency,
      yields: 'positive',
    }),
  };
}
