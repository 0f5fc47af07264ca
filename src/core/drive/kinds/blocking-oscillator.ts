import type { Driver, Supply, Transformer } from '../../design/driver-schema';
import { judgeTransistor, reportStrokes } from '../judge';
import { plainDrive, ratioOf, Report, swingSeconds, type Made, type Surroundings, triangleRms } from '../drive-result';
import { directFeed, reportFeed } from '../supply';

const BASE_VOLTS = 0.7;
/** Supplies high that a swing is counted which nothing known limits: a stand-in, and said to be one. */
const UNHELD_TIMES = 10;

/**
 * One transistor and a feedback winding: on until the collector asks for more
 * than gain times base current, then off, and the primary swings back.
 *
 * Base current (Vs + Vs Nf/Np - 0.7 V) / Rb; switch-off at gain times that; on
 * for L Ip / Vs; then a half swing of L with the capacitance it sees, pi sqrt(L
 * C). Derived, common practice for the circuit; gain and capacitance are seldom
 * known better than by a factor of two, so a measured frequency is better.
 */
export function blockingOscillator(
  supply: Supply,
  driver: Extract<Driver, { kind: 'blocking-oscillator' }>,
  transformer: Transformer,
  { ladderFarads }: Surroundings,
): Made {
  const report = new Report();
  const feed = directFeed(supply);
  const { volts } = feed;
  const ratio = ratioOf(transformer);
  const henries = transformer.primaryHenries!;
  const baseAmps = Math.max(
    0,
    (volts * (1 + driver.feedbackTurns / transformer.primaryTurns) - BASE_VOLTS) / driver.baseOhms,
  );
  const peakAmps = driver.currentGain * baseAmps;
  const farads = ratio ** 2 * (transformer.secondaryFarads + ladderFarads);
  const freeVolts = farads > 0 ? peakAmps * Math.sqrt(henries / farads) : Infinity;
  const heldVolts = driver.ratedVolts === null ? Infinity : Math.max(0, driver.ratedVolts - volts);
  const unheld = Math.min(freeVolts, heldVolts) === Infinity;
  const backVolts = unheld ? UNHELD_TIMES * volts : Math.min(freeVolts, heldVolts);
  const onSeconds = volts > 0 ? (henries * peakAmps) / volts : Infinity;
  const estimate = 1 / (onSeconds + Math.PI * Math.sqrt(henries * farads));
  const frequencyHertz = driver.frequencyHertz ?? Math.max(1, Number.isFinite(estimate) ? estimate : 1);
  const watts = ((henries * peakAmps ** 2) / 2) * frequencyHertz;
  const coupled = ratio * transformer.coupling;

  report.figure('driver', 'peak-amps', 'Collector at switch-off', peakAmps, 'A');
  report.figure(
    'driver',
    'primary-rms',
    'Primary current, RMS',
    triangleRms(peakAmps, Math.min(1, onSeconds * frequencyHertz)),
    'A',
  );
  report.figure('driver', 'on-time', 'On for', onSeconds, 's');
  report.figure('driver', 'estimate', 'Frequency, estimated', estimate, 'Hz');
  report.figure('driver', 'ceiling', 'Power ceiling, in', watts, 'W');
  report.figure('driver', 'switch-peak', 'Transistor blocks, peak', volts + backVolts, 'V');
  reportStrokes(report, transformer, { forwardVolts: volts, backVolts, peakAmps });
  // A rating that holds the swing back is what the transistor breaks down at: that is a stress of its own.
  judgeTransistor(
    report,
    driver.ratedVolts,
    volts + Math.min(freeVolts, backVolts === heldVolts ? freeVolts : backVolts),
  );
  if (unheld)
    report.finding(
      'warn',
      'swing-unknown',
      '$.transformer.secondaryFarads',
      `Neither capacitance nor a transistor rating is known that would limit the swing back: ${UNHELD_TIMES} times the supply stands in for it.`,
      'Enter the secondary’s capacitance or the transistor’s rating, or measure the peaks.',
    );
  reportFeed(supply, watts, report);
  return {
    ...report,
    drive: plainDrive({
      waveform: 'pulse',
      duty: Math.min(0.95, Math.max(0.05, 1 - onSeconds * frequencyHertz)),
      positivePeakVolts: Math.max(1e-6, backVolts * coupled),
      negativePeakVolts: Math.max(1e-6, volts * coupled),
      frequencyHertz,
      edgeSeconds: swingSeconds(henries, farads, { forwardVolts: volts, topVolts: backVolts, freeVolts }),
      seriesOhms: transformer.secondaryOhms,
      maxWatts: watts * driver.efficiency,
      heldWatts: ((farads * backVolts ** 2) / 2) * frequencyHertz * driver.efficiency,
      yields: 'positive',
    }),
  };
}
