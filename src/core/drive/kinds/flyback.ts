import { clampedSecondaryVolts, switchOffPeakVolts, type ReleasedPrimary } from '../../magnetics/switch-off';
import { HALF_SWING, ratioOf, usualTransformer, type Transformer } from '../../magnetics/transformer';
import { quantityField } from '../../quantity/field-description';
import { formatQuantity } from '../../quantity/format-quantity';
import { fraction, quantity } from '../../schema/fields';
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
import { scaledDrive, type Drive } from '../drive';
import { flybackCircuit } from '../circuits/flyback';
import { BURST_FIELDS, BURST_SCHEMA } from '../bursts';
import { DIRECT, driverKind, needed } from '../driver-kind';
import { directFeed, reportFeed } from '../feed';
import { atCurrent, limitedVolts, sagged } from '../sag';
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
  kind: z.literal('flyback'),
  frequencyHertz: quantity('Hz', '25000', 'above zero'),
  duty: fraction('0.4').default(0.4),
  ...TRANSISTOR_SCHEMA,
  /** Voltage across the switch at which a clamp holds it. */
  clampVolts: quantity('V', '150', 'above zero').nullable().default(null),
  switchFarads: quantity('F', '200e-12', 'zero or more').default(200e-12),
  /** In series across the switch; none: null. */
  snubberFarads: quantity('F', '470e-12', 'above zero').nullable().default(null),
  snubberOhms: quantity('Ω', '100', 'above zero').default(100),
  transistorOhms: quantity('Ω', '0.1', 'zero or more').default(0.1),
  switchSeconds: switchSeconds(50e-9),
  /** Of primary and secondary as they ring after the pulse, core and all. */
  ringQuality: quantity('', '30', 'above zero').default(30),
  ...BURST_SCHEMA,
  efficiency: efficiency.default(0.9),
});

/** What it starts from: primary inductance times frequency, the highest frequency it is usual at, and its energy over what the secondary's capacitance takes of it at the peak. */
const START = { henryHertz: 2.5, mostHertz: 25e3, duty: 0.4, secondaryFarads: 15e-12, energyTimes: 1.5 };

export const flyback = driverKind(schema, {
  kind: 'flyback',
  name: 'Flyback, one switch',
  needs: { supply: DIRECT, transformer: true, inductance: true },
  fields: [
    quantityField('frequencyHertz', 'Frequency', 'Hz'),
    quantityField('duty', 'Duty cycle', '%'),
    ...TRANSISTOR_FIELDS,
    quantityField('clampVolts', 'Clamp holds the switch at', 'V', { optional: true, absent: 'no clamp' }),
    quantityField('switchFarads', 'Switch capacitance', 'F', {
      more: true,
      // Common practice, no source.
      hint: 'Of a mechanical interrupter the capacitor across its contacts, usually 0.1u to 0.5u.',
    }),
    quantityField('snubberFarads', 'Snubber capacitor', 'F', {
      optional: true,
      absent: 'none',
      more: true,
      hint: 'Across the switch, behind a resistor.',
    }),
    quantityField('snubberOhms', 'Snubber resistor', 'Ω', { more: true }),
    quantityField('transistorOhms', 'On-resistance', 'Ω', { more: true }),
    SWITCH_SECONDS_FIELD,
    quantityField('ringQuality', 'Q of the ring after the pulse', '', {
      more: true,
      hint: 'Three times the swings until it is down to a third. Usually 10 to 50.',
    }),
    ...BURST_FIELDS,
    EFFICIENCY_FIELD,
  ],
  start: ({ peakVolts, hertz, feedVolts, ladderFarads }) => {
    const frequencyHertz = Math.min(START.mostHertz, hertz);
    // Full power at any frequency, and enough of it to lift what stands at the secondary's end to the peak.
    const usual = START.henryHertz / frequencyHertz;
    const joules = (START.energyTimes * (START.secondaryFarads + ladderFarads) * peakVolts ** 2) / 2;
    const filling = (feedVolts * START.duty) / frequencyHertz;
    const primaryHenries = Number(Math.min(usual, filling ** 2 / (2 * joules)).toPrecision(2));
    return {
      driver: { frequencyHertz, duty: START.duty, clampVolts: 7 * feedVolts, ratedVolts: 10 * feedVolts },
      transformer: usualTransformer(peakVolts, 6 * feedVolts, {
        primaryHenries,
        secondaryFarads: START.secondaryFarads,
      }),
    };
  },
  places: [transistorPlace(() => 1, { known: ['transistorOhms'] })],
  ratings: transistorRatings,
  drive: ({ supply, driver, transformer }, context) =>
    flybackDrive(needed(supply), driver, needed(transformer), context),
  circuit: ({ supply, driver, transformer }, { figures }, fed, ladderFarads) =>
    flybackCircuit(
      atCurrent(directFeed(needed(supply)), figures.supplyAmps),
      driver,
      needed(transformer),
      fed,
      ladderFarads,
    ),
  switching: (driver, { transistorPeakVolts: volts = NaN, switchPeakAmps: amps = NaN }) =>
    turnOffWatts({ volts, amps, farads: acrossSwitch(driver) }, driver.switchSeconds, driver.frequencyHertz),
  leavesOut:
    'Mostly ringing: each stroke meets what rings on of the one before, which the closed form leaves out; and leakage, which it counts for a single pulse.',
  firstRun:
    'At the lowest supply at which it runs, current limited, its clamp fitted, a load or a gap set under the design’s peak across the secondary: with nothing there its peak goes on to whatever gives way first.',
  beforePower: (_driver, figures) => [unloadedSwitch(figures)],
});

/** A pulse that leakage lifts by more than this is worth a word. */
const MUCH_LIFTED = 1.05;

/** All that a switch's voltage charges, F: its snubber whole, as if its resistor were none. */
const acrossSwitch = ({
  switchFarads,
  snubberFarads,
}: Pick<z.output<typeof schema>, 'switchFarads' | 'snubberFarads'>) => switchFarads + (snubberFarads ?? 0);

/** What the switch makes of the primary in one cycle without load, seen from the primary. */
type Strokes = {
  /** Of the supply under the switch's own draw, and whether its limit of current holds it there. */
  volts: number;
  isHeld: boolean;
  peakAmps: number;
  /** In the core as the switch opens, taken from the supply for that, and left in the capacitance by the forward stroke, J. */
  joules: number;
  drawnJoules: number;
  returnedJoules: number;
  /** What all of that would climb to, what a clamp leaves of it, and what leakage makes of that. */
  freeVolts: number;
  primaryVolts: number;
  topVolts: number;
  primaryFarads: number;
  secondaryFarads: number;
  /** Secondary over primary volts. */
  coupled: number;
  released: ReleasedPrimary;
};

function strokesOf(
  supply: Supply,
  { frequencyHertz, duty, clampVolts, switchFarads, transistorOhms }: z.output<typeof schema>,
  transformer: Transformer,
  foot: Pick<DriveContext, 'ladderFarads' | 'windings'>,
): Strokes {
  const feed = directFeed(supply);
  const primaryHenries = transformer.primaryHenries!;
  const { coupling } = transformer;
  const rampOn = (volts: number) => ramp(volts, transistorOhms, primaryHenries, duty / frequencyHertz);
  // The energy drawn each cycle is set by the switch, not by the load.
  const drawn = (at: number) => rampOn(at).coulombs * frequencyHertz;
  const sags = sagged(feed, feed.volts * drawn(feed.volts));
  const volts = limitedVolts(feed, sags, drawn);
  const { amps: peakAmps, coulombs } = rampOn(volts);
  const joules = (primaryHenries * peakAmps ** 2) / 2;
  const ratio = ratioOf(transformer);
  const secondaryFarads = footFarads(transformer, foot);
  const primaryFarads = switchFarads + ratio ** 2 * secondaryFarads;
  // The capacitance starts from the forward stroke, charged the other way.
  const returnedJoules = (primaryFarads * volts ** 2) / 2;
  const freeVolts = joules > 0 ? Math.sqrt((2 * (joules + returnedJoules)) / primaryFarads) : 0;
  const primaryVolts = Math.min(freeVolts, clampVolts === null ? Infinity : Math.max(0, clampVolts - volts));
  const coupled = ratio * coupling;
  const released = {
    supplyVolts: volts,
    peakAmps,
    primaryHenries,
    ratio,
    coupling,
    switchFarads,
    secondaryFarads,
  };
  // Where a clamp cuts the pulse off leakage carries the secondary on over what is left to it.
  const clamped = primaryVolts < freeVolts && primaryVolts > 0;
  const lifted = clamped ? clampedSecondaryVolts(released, clampVolts!) : null;
  return {
    volts,
    isHeld: volts < sags,
    peakAmps,
    joules,
    drawnJoules: volts * coulombs,
    returnedJoules,
    freeVolts,
    primaryVolts,
    topVolts: Math.max(primaryVolts, (lifted ?? 0) / coupled),
    primaryFarads,
    secondaryFarads,
    coupled,
    released,
  };
}

/**
 * A switch that charges the primary and lets it fly back, at a fixed frequency
 * and duty.
 *
 * Peak current of a ramp behind the switch's resistance, energy L Ip^2 / 2 a
 * cycle, so the power has a ceiling whatever the load (handbook). Forward stroke
 * of the secondary Vs N2 / N1. Without load the pulse climbs until the clamp holds
 * it or all energy is in the capacitance, that which the forward stroke left there
 * included: sqrt(Ip^2 L / C + Vs^2) on the primary, whichever is less; behind
 * leakage the secondary rings on above the clamp, to {@link clampedSecondaryVolts},
 * and the forward stroke to nearly twice its height ({@link HALF_SWING}). Loaded
 * it settles where the ladder takes what that energy leaves beside C V^2 / 2 for
 * the capacitance, or of the rings what `wattsAtScale` has of them. What rings on
 * from cycle to cycle is left out, so that all of it is rough: how near, in
 * docs/physics.md. Leakage lifts the switch over that, to {@link switchOffPeakVolts},
 * or burns its energy times Vc / (Vc - Vr) in a clamp at Vc over the supply, Vr
 * being what the secondary reflects (handbook).
 */
function flybackDrive(
  supply: Supply,
  entered: z.output<typeof schema>,
  transformer: Transformer,
  context: DriveContext,
): DriveResult {
  const driver = { ...entered, switchFarads: acrossSwitch(entered) };
  const strokes = strokesOf(supply, driver, transformer, context);
  const drive = driveOfStrokes(strokes, driver, transformer);
  const result = new DriveCollector();
  if (context.driveOnly) return result.with(drive);
  const { frequencyHertz, duty } = driver;
  const { volts, peakAmps, joules, topVolts } = strokes;
  const rmsAmps = triangleRms(peakAmps, duty);
  result.figure('switchPeakAmps', peakAmps);
  result.figure('primaryRmsAmps', rmsAmps);
  result.figure('cycleJoules', joules);
  result.figure('ceilingWatts', joules * frequencyHertz);
  result.stress('transistorCurrent', 'loaded', rmsAmps);
  result.stress('primaryCurrent', 'loaded', rmsAmps);
  reportStrokes(result, transformer, { forwardVolts: volts, backVolts: topVolts, peakAmps, hertz: frequencyHertz });
  const clampHolds = reportSwitch(result, driver, strokes);
  reportPulse(result, driver, strokes, drive.edgeSeconds);
  reportPower(result, supply, driver, strokes, drive, context, clampHolds);
  return result.with(drive);
}

function driveOfStrokes(
  strokes: Strokes,
  { frequencyHertz, duty, efficiency, switchFarads }: z.output<typeof schema>,
  transformer: Transformer,
): Drive {
  const { volts, joules, returnedJoules, freeVolts, primaryVolts, topVolts } = strokes;
  const { primaryFarads, secondaryFarads, coupled } = strokes;
  const watts = (joules + returnedJoules) * frequencyHertz;
  const ratio = ratioOf(transformer);
  const held = ((switchFarads * primaryVolts ** 2 + ratio ** 2 * secondaryFarads * topVolts ** 2) / 2) * frequencyHertz;
  const charging = secondaryFarads * frequencyHertz * efficiency;
  const forwardVolts = volts * coupled;
  // Only where the pulse gives way as well, so that both are known to pass the same charge.
  const gives = topVolts > primaryVolts || primaryVolts === freeVolts;
  const lifts = gives && transformer.coupling < 1 ? HALF_SWING * forwardVolts : 0;
  return plainDrive({
    waveform: 'pulse',
    duty: 1 - duty,
    positivePeakVolts: topVolts * coupled,
    negativePeakVolts: forwardVolts + lifts,
    frequencyHertz,
    edgeSeconds: swingSeconds(transformer.primaryHenries!, primaryFarads, {
      forwardVolts: volts,
      topVolts: primaryVolts,
      freeVolts,
    }),
    seriesOhms: transformer.secondaryOhms,
    maxWatts: watts * efficiency,
    chargingLossWatts: held * efficiency,
    lift:
      topVolts > primaryVolts
        ? {
            from: primaryVolts / topVolts,
            watts: charging * coupled ** 2 * (topVolts - primaryVolts) * topVolts,
            fresh: 1,
          }
        : null,
    forwardLift: lifts * charging > 0 ? { volts: lifts, amps: charging * lifts } : null,
    collapsingPeak: 'positive',
    rough: true,
  });
}

/** What the switch blocks, and whether its clamp has to hold it. */
function reportSwitch(
  result: DriveCollector,
  { clampVolts, snubberFarads, frequencyHertz }: z.output<typeof schema>,
  { volts, primaryVolts, released }: Strokes,
): boolean {
  const spikeVolts = switchOffPeakVolts(released);
  const clampHolds = clampVolts !== null && spikeVolts > clampVolts;
  const blockedVolts = Math.max(volts + primaryVolts, clampHolds ? clampVolts : spikeVolts);
  if (spikeVolts === Infinity && clampVolts === null)
    result.finding(
      'warn',
      'switch-capacitance-unknown',
      '$.driver.switchFarads',
      'No capacitance stands across the switch in the design, so nothing limits what the leakage inductance lifts it to.',
      'Enter the switch’s capacitance, usually 100 to 500 pF, or fit a clamp.',
    );
  result.figure('transistorPeakVolts', blockedVolts);
  // Charged and discharged through its resistor once a cycle (handbook: C V^2 f, at most).
  if (snubberFarads !== null) result.figure('snubberWatts', snubberFarads * blockedVolts ** 2 * frequencyHertz);
  result.stress('transistorVoltage', 'noLoad', blockedVolts);
  return clampHolds;
}

/** What there is to say of the pulse's height and of the time the core is given to empty. */
function reportPulse(
  result: DriveCollector,
  { frequencyHertz, duty, clampVolts }: z.output<typeof schema>,
  { primaryVolts, topVolts, coupled, peakAmps, released }: Strokes,
  swingSeconds: number,
): void {
  if (topVolts > MUCH_LIFTED * primaryVolts)
    result.finding(
      'note',
      'leakage-lifts-output',
      '$.transformer.coupling',
      `With little load the leakage inductance rings on above what the clamp leaves: the secondary’s pulse reaches some ${formatQuantity(topVolts * coupled, 'V', 2)} instead of ${formatQuantity(primaryVolts * coupled, 'V', 2)}, and every voltage of the ladder rises with it. That is counted, estimated from a single pulse.`,
      'Trust the time-domain figures here; a load on the output brings it down.',
    );
  const emptied = (released.primaryHenries * peakAmps) / primaryVolts;
  const off = (1 - duty) / frequencyHertz;
  if (primaryVolts === 0)
    result.finding(
      'stop',
      'clamp-under-supply',
      '$.driver.clampVolts',
      `The clamp holds the switch at ${formatQuantity(clampVolts!, 'V')}, no higher than the supply: nothing flies back.`,
      'Use a clamp well above the supply.',
    );
  else if (swingSeconds > off)
    result.finding(
      'stop',
      'closed-before-pulse',
      '$.driver.frequencyHertz',
      `The pulse takes ${formatQuantity(swingSeconds, 's')} to its top, for all the capacitance at the secondary, and the switch closes again after ${formatQuantity(off, 's')}: the core is never emptied, its current climbs from cycle to cycle until it saturates, and the closed form does not hold.`,
      'Lower the frequency, use fewer secondary turns, or a smaller primary inductance.',
    );
  else if (emptied > off)
    result.finding(
      'warn',
      'not-emptied',
      '$.driver.duty',
      `The core is not emptied before the switch closes again: that takes ${formatQuantity(emptied, 's')} and ${formatQuantity(off, 's')} is left. Current climbs from cycle to cycle.`,
      'Lower the duty, or let the pulse climb higher.',
    );
}

/** Where the power goes: forward stroke, clamp, ringing, the switch's own resistance, and what the supply gives in all. */
function reportPower(
  result: DriveCollector,
  supply: Supply,
  { frequencyHertz, efficiency, clampVolts }: z.output<typeof schema>,
  {
    volts,
    isHeld,
    joules,
    drawnJoules,
    returnedJoules,
    freeVolts,
    primaryVolts,
    topVolts,
    peakAmps,
    released,
  }: Strokes,
  drive: Drive,
  { ladderWatts, driveScale }: DriveContext,
  clampHolds: boolean,
): void {
  const asked = ladderWatts === null ? null : ladderWatts / efficiency;
  const { positivePeakVolts, negativePeakVolts } = scaledDrive(drive, driveScale);
  const pulseWatts = (joules + returnedJoules) * frequencyHertz;
  const forwardWatts = forwardShare(asked, { backVolts: positivePeakVolts, forwardVolts: negativePeakVolts });
  if (asked !== null) result.figure('forwardWatts', forwardWatts);
  const ringingWatts = (drive.chargingLossWatts / efficiency) * driveScale ** 2;
  const clampedVolts = clampVolts === null ? Infinity : clampVolts - volts;
  let clampWatts = 0;
  if (clampHolds) {
    // What leakage holds, and what the core adds while that is driven out against the reflected voltage (handbook).
    const { coupling, primaryHenries } = released;
    const reflected = coupling ** 2 * Math.min(primaryVolts, topVolts * driveScale);
    const leakJoules = ((1 - coupling ** 2) * primaryHenries * peakAmps ** 2) / 2;
    const drivenOut = reflected < clampedVolts ? clampedVolts / (clampedVolts - reflected) : Infinity;
    clampWatts = leakJoules === 0 ? 0 : Math.min(pulseWatts, leakJoules * drivenOut * frequencyHertz);
  }
  if (asked !== null && freeVolts > clampedVolts) {
    // Of what the ladder leaves the clamp takes what does not ring; what leakage drives into it beyond that rings no longer.
    const left = Math.max(0, pulseWatts - (asked - forwardWatts));
    clampWatts = Math.min(left, Math.max(clampWatts, left - ringingWatts));
    result.figure('ringingWatts', left - clampWatts);
  } else result.figure('ringingWatts', ringingWatts);
  if (clampHolds) result.figure('clampWatts', clampWatts);
  const conductionWatts = (drawnJoules - joules) * frequencyHertz;
  result.figure('transistorWatts', conductionWatts);
  reportFeed(result, supply, pulseWatts + conductionWatts + forwardWatts, isHeld ? volts : undefined);
}

/** Where a ramp counts as straight: past it the exponentials lose their digits. */
const STRAIGHT = 1e-5;

/**
 * Current of an inductance after this long on a voltage behind a resistance, A,
 * and the charge that has passed, C: V / R (1 - exp(-R t / L)) and its integral
 * (handbook).
 */
export function ramp(
  volts: number,
  ohms: number,
  henries: number,
  seconds: number,
): { amps: number; coulombs: number } {
  const straight = (volts * seconds) / henries;
  const decay = (ohms * seconds) / henries;
  if (decay < STRAIGHT)
    return { amps: straight * (1 - decay / 2), coulombs: (straight * seconds * (1 - decay / 3)) / 2 };
  const amps = (straight * -Math.expm1(-decay)) / decay;
  return { amps, coulombs: (volts * seconds - henries * amps) / ohms };
}
