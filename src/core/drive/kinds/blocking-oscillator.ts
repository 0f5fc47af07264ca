import { blockingOscillatorCircuit } from '../circuits/blocking-oscillator';
import { isSilent, scaledDrive, SILENT_VOLTS } from '../drive';
import { HALF_SWING, ratioOf, usualTransformer, type Transformer } from '../../magnetics/transformer';
import { quantityField } from '../../quantity/field-description';
import { formatQuantity } from '../../quantity/format-quantity';
import { quantity } from '../../schema/fields';
import * as z from '../../zod';
import {
  DriveCollector,
  footFarads,
  forwardShare,
  plainDrive,
  swingSeconds,
  triangleRms,
  type DriveContext,
  type DriveResult,
} from '../drive-result';
import { BURST_FIELDS, BURST_SCHEMA } from '../bursts';
import { DIRECT, driverKind, needed } from '../driver-kind';
import { directFeed, reportFeed } from '../feed';
import { atCurrent, limitedVolts } from '../sag';
import type { Supply } from '../supply';
import { reportStrokes } from '../transformer-checks';
import {
  efficiency,
  EFFICIENCY_FIELD,
  SWITCH_SECONDS_FIELD,
  switchSeconds,
  TRANSISTOR_FIELDS,
  TRANSISTOR_SCHEMA,
  transistorPlace,
  transistorRatings,
  turnOffWatts,
  unloadedSwitch,
} from '../transistors';

const schema = z.strictObject({
  kind: z.literal('blocking-oscillator'),
  feedbackTurns: quantity('', '6', 'above zero').default(6),
  baseOhms: quantity('Ω', '1000', 'above zero').default(1000),
  /** Across it. */
  baseFarads: quantity('F', '10e-9', 'above zero').nullable().default(null),
  currentGain: quantity('', '60', 'above zero').default(60),
  ...TRANSISTOR_SCHEMA,
  switchSeconds: switchSeconds(500e-9),
  /** As measured; estimated from the on-time and the swing back when not known. */
  frequencyHertz: quantity('Hz', '25000', 'above zero').nullable().default(null),
  ...BURST_SCHEMA,
  efficiency: efficiency.default(0.5),
});

const BASE_VOLTS = 0.7;
/** Below the emitter (common practice, no source: 5 to 8 V). */
const BASE_GIVES_WAY_VOLTS = 5;
/** What it starts from. */
const START = {
  turns: 20,
  feedback: 1,
  henries: 200e-6,
  coreSquareMetres: 1.2e-4,
  tesla: 0.15,
  secondaryFarads: 15e-12,
  currentGain: 60,
};

export const blockingOscillator = driverKind(schema, {
  kind: 'blocking-oscillator',
  name: 'Blocking oscillator',
  needs: { supply: DIRECT, transformer: true, inductance: true },
  fields: [
    quantityField('feedbackTurns', 'Feedback turns', ''),
    quantityField('baseOhms', 'Base resistor', 'Ω'),
    quantityField('baseFarads', 'Base capacitor', 'F', {
      optional: true,
      absent: 'none',
      more: true,
      hint: 'Across the base resistor.',
    }),
    quantityField('currentGain', 'Current gain', ''),
    ...TRANSISTOR_FIELDS,
    quantityField('frequencyHertz', 'Frequency, measured', 'Hz', {
      optional: true,
      hint: 'Estimated while it is not known.',
    }),
    SWITCH_SECONDS_FIELD,
    ...BURST_FIELDS,
    EFFICIENCY_FIELD,
  ],
  start: ({ peakVolts, feedVolts, ladderFarads }) => {
    const { henries, secondaryFarads, coreSquareMetres, tesla, currentGain } = START;
    // The collector current whose energy lifts secondary and ladder to the peak, and the base resistor that lets go at it.
    const peakAmps = peakVolts * Math.sqrt((secondaryFarads + ladderFarads) / henries);
    const turns = Math.max(START.turns, Math.ceil((henries * peakAmps) / (coreSquareMetres * tesla)));
    const feedbackTurns = Math.round(START.feedback * turns);
    const ohms = ((feedVolts * (1 + feedbackTurns / turns) - BASE_VOLTS) * currentGain) / peakAmps;
    return {
      driver: { feedbackTurns, currentGain, baseOhms: Number(Math.max(1, ohms).toPrecision(2)) },
      transformer: usualTransformer(peakVolts, 8 * feedVolts, {
        primaryTurns: turns,
        secondaryTurns: Math.ceil((turns * peakVolts) / (8 * feedVolts)),
        primaryHenries: henries,
        secondaryFarads,
        coreSquareMetres,
      }),
    };
  },
  places: [transistorPlace(() => 1, { holdsItsPulse: true })],
  ratings: transistorRatings,
  drive: ({ supply, driver, transformer }, context) =>
    oscillatorDrive(needed(supply), driver, needed(transformer), context),
  circuit: ({ supply, driver, transformer }, { figures, drive }, fed, ladderFarads) => {
    const { switchPeakAmps = 0, onSeconds = 0, estimatedHertz = 0, supplyAmps } = figures;
    if (isSilent(drive) || !(switchPeakAmps > 0 && onSeconds > 0 && estimatedHertz > 0))
      return { reason: 'its transistor never turns on' };
    return blockingOscillatorCircuit(
      atCurrent(directFeed(needed(supply)), supplyAmps),
      { ...driver, baseVolts: BASE_VOLTS },
      { peakAmps: switchPeakAmps, onSeconds, hertz: estimatedHertz },
      needed(transformer),
      fed,
      ladderFarads,
    );
  },
  switching: (driver, { transistorPeakVolts: volts = NaN, switchPeakAmps: amps = NaN, ...figures }) => {
    const { frequencyHertz = driver.frequencyHertz ?? figures.estimatedHertz ?? NaN } = figures;
    return turnOffWatts({ volts, amps }, driver.switchSeconds, frequencyHertz);
  },
  leavesOut:
    'Mostly when the transistor turns off and on again, which the closed form estimates and the circuit decides, and ringing of the leakage inductance.',
  firstRun:
    'At the lowest supply at which it runs, current limited, its clamp fitted, a load or a gap set under the design’s peak across the secondary: with nothing there its peak goes on to whatever gives way first.',
  beforePower: (_driver, figures) => [unloadedSwitch(figures)],
});

/** Supplies high that a swing is counted which nothing known limits: a stand-in, and said to be one. */
const UNHELD_TIMES = 10;

/**
 * One transistor and a feedback winding: on until the collector asks for more
 * than gain times base current, then off, and the primary swings back.
 *
 * Base current (Vs + Vs Nf/Np - 0.7 V) / Rb; switch-off at gain times that; on
 * for L Ip / Vs; then a half swing of L with the capacitance it sees, pi sqrt(L
 * C), longer where a capacitor across the base resistor holds the base down.
 * Derived, common practice for the circuit; gain and capacitance are seldom
 * known better than by a factor of two, so a measured frequency is better.
 */
function oscillatorDrive(
  supply: Supply,
  driver: z.output<typeof schema>,
  transformer: Transformer,
  context: DriveContext,
): DriveResult {
  const result = new DriveCollector();
  const { ladderWatts, driveScale } = context;
  const feed = directFeed(supply);
  const ratio = ratioOf(transformer);
  const henries = transformer.primaryHenries!;
  const secondaryFarads = footFarads(transformer, context);
  const farads = ratio ** 2 * secondaryFarads;
  const feedback = driver.feedbackTurns / transformer.primaryTurns;
  const strokesAt = (at: number) => {
    const base = (at * (1 + feedback) - BASE_VOLTS) / driver.baseOhms;
    const peak = driver.currentGain * Math.max(0, base);
    const on = at > 0 ? (henries * peak) / at : Infinity;
    const free = 1 / (on + offSeconds(driver, { at, feedback, peakAmps: peak, henries, farads }));
    const hertz = driver.frequencyHertz ?? Math.max(1, Number.isFinite(free) ? free : 1);
    return {
      peakAmps: peak,
      onSeconds: on,
      estimate: free,
      frequencyHertz: hertz,
      watts: ((henries * peak ** 2) / 2) * hertz,
    };
  };
  const volts = limitedVolts(feed, feed.volts, (at) => strokesAt(at).watts / at);
  const { peakAmps, onSeconds, estimate, frequencyHertz, watts } = strokesAt(volts);
  const freeVolts = farads > 0 ? peakAmps * Math.sqrt(henries / farads) : Infinity;
  const heldVolts = driver.ratedVolts === null ? Infinity : Math.max(0, driver.ratedVolts - volts);
  const unheld = Math.min(freeVolts, heldVolts) === Infinity;
  const backVolts = unheld ? UNHELD_TIMES * volts : Math.min(freeVolts, heldVolts);
  const coupled = ratio * transformer.coupling;

  result.figure('switchPeakAmps', peakAmps);
  const primaryRmsAmps = triangleRms(peakAmps, Math.min(1, onSeconds * frequencyHertz));
  result.figure('primaryRmsAmps', primaryRmsAmps);
  result.figure('onSeconds', onSeconds);
  result.figure('estimatedHertz', estimate);
  result.figure('ceilingWatts', watts);
  result.figure('transistorPeakVolts', volts + backVolts);
  reportStrokes(result, transformer, { forwardVolts: volts, backVolts, peakAmps, hertz: frequencyHertz });
  // A rating that holds the swing back is what the transistor breaks down at: that is a stress of its own.
  result.stress('transistorVoltage', 'noLoad', volts + (unheld ? backVolts : freeVolts));
  result.stress('transistorCurrent', 'loaded', primaryRmsAmps);
  result.stress('primaryCurrent', 'loaded', primaryRmsAmps);
  if (freeVolts === Infinity && !unheld)
    result.finding(
      'stop',
      'transistor-over-voltage',
      '$.driver.ratedVolts',
      'No capacitance is known that would limit the swing back: only the breakdown of the transistor does.',
      'Enter the secondary’s capacitance, fit a clamp, or measure what the transistor blocks.',
    );
  if (unheld)
    result.finding(
      'warn',
      'swing-unknown',
      '$.transformer.secondaryFarads',
      `Neither capacitance nor a transistor rating is known that would limit the swing back: ${UNHELD_TIMES} times the supply stands in for it.`,
      'Enter the secondary’s capacitance or the transistor’s rating, or measure the peaks.',
    );
  const reversedVolts = feedback * backVolts - volts;
  if (reversedVolts > BASE_GIVES_WAY_VOLTS)
    result.finding(
      'warn',
      'base-reversed',
      '$.driver.feedbackTurns',
      `As its pulse flies back the feedback winding pulls the base some ${formatQuantity(reversedVolts, 'V', 2)} below the emitter, where a bipolar transistor’s gives way at ${BASE_GIVES_WAY_VOLTS} to 8 V and wears with every pulse.`,
      'Fit a fast diode from emitter to base; the base resistor limits what flows through it.',
    );
  const charging = secondaryFarads * frequencyHertz * driver.efficiency;
  const lifts = backVolts === freeVolts && transformer.coupling < 1 ? HALF_SWING * volts * coupled : 0;
  const drive = plainDrive({
    waveform: 'pulse',
    duty: Math.min(0.95, Math.max(0.05, 1 - onSeconds * frequencyHertz)),
    positivePeakVolts: Math.max(SILENT_VOLTS, backVolts * coupled),
    // Behind leakage the forward stroke rings on from rest.
    negativePeakVolts: Math.max(SILENT_VOLTS, volts * coupled + lifts),
    frequencyHertz,
    edgeSeconds: swingSeconds(henries, farads, { forwardVolts: volts, topVolts: backVolts, freeVolts }),
    seriesOhms: transformer.secondaryOhms,
    maxWatts: watts * driver.efficiency,
    forwardLift: lifts * charging > 0 ? { volts: lifts, amps: charging * lifts } : null,
    chargingLossWatts: ((farads * backVolts ** 2) / 2) * frequencyHertz * driver.efficiency,
    collapsingPeak: 'positive',
    rough: true,
  });
  const asked = ladderWatts === null ? null : ladderWatts / driver.efficiency;
  const { positivePeakVolts, negativePeakVolts } = scaledDrive(drive, driveScale);
  const forwardWatts = forwardShare(asked, { backVolts: positivePeakVolts, forwardVolts: negativePeakVolts });
  if (asked !== null) result.figure('forwardWatts', forwardWatts);
  reportFeed(result, supply, watts + forwardWatts, volts < feed.volts ? volts : undefined);
  return result.with(drive);
}

/**
 * From switch-off to where the base conducts again, s: half a swing back and, with
 * a capacitor across the base resistor, until what is left on it is less than
 * supply and winding together: the winding as it rings on, or the resistor, which
 * empties it, whichever comes first. Derived; that the ladder leaves all of the
 * ringing is taken from above.
 *
 * @param feedback turns of the feedback winding for each of the primary
 */
function offSeconds(
  { baseOhms, baseFarads }: Pick<z.output<typeof schema>, 'baseOhms' | 'baseFarads'>,
  { at, feedback, peakAmps, henries, farads }: Record<'at' | 'feedback' | 'peakAmps' | 'henries' | 'farads', number>,
): number {
  const ring = Math.sqrt(henries * farads);
  const half = Math.PI * ring;
  const held = at * (1 + feedback) - BASE_VOLTS;
  const pulled = at - BASE_VOLTS;
  const left = baseFarads === null ? 0 : held * Math.exp(-half / (baseOhms * baseFarads)) - pulled;
  if (baseFarads === null || !(left > 0)) return half;
  const rung = farads > 0 ? feedback * peakAmps * Math.sqrt(henries / farads) : 0;
  const byRinging = left <= rung ? ring * Math.asin(left / rung) : Infinity;
  const byResistor = pulled > 0 ? baseOhms * baseFarads * Math.log(held / pulled) - half : Infinity;
  return half + Math.min(byRinging, byResistor);
}
