import { switchOffPeakVolts } from '../../magnetics/switch-off';
import { ratioOf, usualTransformer, type Transformer } from '../../magnetics/transformer';
import { quantityField } from '../../quantity/field-description';
import { formatQuantity } from '../../quantity/format-quantity';
import { fraction, quantity } from '../../schema/fields';
import * as z from '../../zod';
import {
  DriveCollector,
  forwardShare,
  plainDrive,
  sagged,
  swingSeconds,
  triangleRms,
  type DriveContext,
  type DriveResult,
} from '../drive-result';
import { flybackCircuit } from '../circuits/flyback';
import { DIRECT, driverKind, needed } from '../driver-kind';
import { directFeed, reportFeed } from '../feed';
import type { Supply } from '../supply';
import { reportStrokes } from '../transformer-checks';
import {
  efficiency,
  EFFICIENCY_FIELD,
  TRANSISTOR_FIELDS,
  TRANSISTOR_SCHEMA,
  transistorPlace,
  transistorRatings,
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
  transistorOhms: quantity('Ω', '0.1', 'zero or more').default(0.1),
  /** Of primary and secondary as they ring after the pulse, core and all. */
  ringQuality: quantity('', '30', 'above zero').default(30),
  efficiency: efficiency.default(0.75),
});

export const flyback = driverKind(schema, {
  kind: 'flyback',
  name: 'Flyback, one switch',
  needs: { supply: DIRECT, transformer: true, inductance: true },
  fields: [
    quantityField('frequencyHertz', 'Frequency', 'Hz'),
    quantityField('duty', 'Duty cycle', '%'),
    ...TRANSISTOR_FIELDS,
    quantityField('clampVolts', 'Clamp holds the switch at', 'V', { optional: true }),
    quantityField('switchFarads', 'Switch capacitance', 'F', { more: true }),
    quantityField('transistorOhms', 'On-resistance', 'Ω', { more: true }),
    quantityField('ringQuality', 'Q of the ring after the pulse', '', {
      more: true,
      hint: 'Three times the swings until it is down to a third. Usually 10 to 50.',
    }),
    EFFICIENCY_FIELD,
  ],
  start: ({ peakVolts, hertz, feedVolts }) => {
    // An inductance that fills with the same energy at any frequency.
    const primaryHenries = Number(((1e-4 * 25e3) / hertz).toPrecision(2));
    return {
      driver: { frequencyHertz: hertz, clampVolts: 7 * feedVolts, ratedVolts: 10 * feedVolts },
      transformer: usualTransformer(peakVolts, 6 * feedVolts, { primaryHenries, secondaryFarads: 15e-12 }),
    };
  },
  places: [transistorPlace(() => 1, { known: ['transistorOhms'] })],
  ratings: transistorRatings,
  drive: ({ supply, driver, transformer }, context) =>
    flybackDrive(needed(supply), driver, needed(transformer), context),
  circuit: ({ supply, driver, transformer }, _result, fed, ladderFarads) =>
    flybackCircuit(directFeed(needed(supply)), driver, needed(transformer), fed, ladderFarads),
  leavesOut:
    'Mostly ringing: leakage inductance lifts the secondary over what the clamp or the core’s energy leaves, and the next stroke meets the ring of the one before; the closed form has neither.',
  beforePower: (_driver, figures) => [unloadedSwitch(figures)],
});

/**
 * What a secondary behind leakage inductance swings to at most, seen from the primary, V: driven from the forward stroke to
 * the clamped pulse at once it rings as far above that as it came from below (handbook: a step on L and C), if the core's
 * energy suffices.
 */
export const liftedVolts = ({
  volts,
  primaryVolts,
  freeVolts,
}: {
  volts: number;
  primaryVolts: number;
  freeVolts: number;
}): number => Math.min(freeVolts, 2 * primaryVolts + volts);

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
 * until the switch closes again, or leakage adds to the pulse, the output lies elsewhere,
 * so that all of it is rough. Checked by integrating switch, core and ladder as
 * one circuit. Leakage lifts the switch over that, to {@link switchOffPeakVolts},
 * or burns its energy times Vc / (Vc - Vr) in a clamp at Vc over the supply, Vr
 * being what the secondary reflects (handbook).
 */
function flybackDrive(
  supply: Supply,
  driver: z.output<typeof schema>,
  transformer: Transformer,
  { ladderFarads, ladderWatts, driveScale, driveOnly }: DriveContext,
): DriveResult {
  const result = new DriveCollector();
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

  result.figure('switchPeakAmps', peakAmps);
  result.figure('primaryRmsAmps', triangleRms(peakAmps, duty));
  result.figure('cycleJoules', joules);
  result.figure('ceilingWatts', joules * frequencyHertz);
  const { coupling } = transformer;
  const spikeVolts = driveOnly
    ? 0
    : switchOffPeakVolts({
        supplyVolts: volts,
        peakAmps,
        primaryHenries: henries,
        ratio,
        coupling,
        switchFarads: driver.switchFarads,
        secondaryFarads: transformer.secondaryFarads + ladderFarads,
      });
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
  if (clampedVolts < freeVolts && primaryVolts > 0 && transformer.coupling < 1)
    result.finding(
      'warn',
      'leakage-lifts-output',
      '$.transformer.coupling',
      `With little load the leakage inductance rings on above what the clamp leaves: the secondary’s pulse may reach ${formatQuantity(liftedVolts({ volts, primaryVolts, freeVolts }) * coupled, 'V')} instead of ${formatQuantity(primaryVolts * coupled, 'V')}, and every voltage of the ladder rises with it.`,
      'See the time domain; rate the parts for that, or keep a load on it.',
    );
  reportStrokes(result, transformer, { forwardVolts: volts, backVolts: primaryVolts, peakAmps });
  result.stress('transistorVoltage', 'noLoad', blockedVolts);
  result.stress('transistorCurrent', 'loaded', triangleRms(peakAmps, duty));
  result.stress('primaryCurrent', 'loaded', triangleRms(peakAmps, duty));
  const emptied = (henries * peakAmps) / primaryVolts;
  if (primaryVolts === 0)
    result.finding(
      'stop',
      'clamp-under-supply',
      '$.driver.clampVolts',
      `The clamp holds the switch at ${formatQuantity(clampVolts!, 'V')}, no higher than the supply: nothing flies back.`,
      'Use a clamp well above the supply.',
    );
  else if (emptied > (1 - duty) / frequencyHertz)
    result.finding(
      'warn',
      'not-emptied',
      '$.driver.duty',
      `The core is not emptied before the switch closes again: that takes ${formatQuantity(emptied, 's')} and ${formatQuantity((1 - duty) / frequencyHertz, 's')} is left. Current climbs from cycle to cycle.`,
      'Lower the duty, or let the pulse climb higher.',
    );
  const pulseWatts = (joules + returned) * frequencyHertz;
  const held = primaryFarads > 0 ? ((primaryFarads * primaryVolts ** 2) / 2) * frequencyHertz : 0;
  const forwardWatts = forwardShare(asked, { backVolts: primaryVolts, forwardVolts: volts }, driveScale);
  if (asked !== null) result.figure('forwardWatts', forwardWatts);
  const ringingWatts = held * driveScale ** 2;
  let clampWatts = 0;
  if (clampHolds) {
    // What leakage holds, and what the core adds while that is driven out against the reflected voltage (handbook).
    const reflected = coupling ** 2 * primaryVolts * driveScale;
    const leakJoules = ((1 - coupling ** 2) * henries * peakAmps ** 2) / 2;
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
  reportFeed(result, supply, pulseWatts + forwardWatts);
  return result.with(
    plainDrive({
      waveform: 'pulse',
      duty: 1 - duty,
      positivePeakVolts: primaryVolts * coupled,
      negativePeakVolts: volts * coupled,
      frequencyHertz,
      edgeSeconds: swingSeconds(henries, primaryFarads, { forwardVolts: volts, topVolts: primaryVolts, freeVolts }),
      seriesOhms: transformer.secondaryOhms,
      maxWatts: pulseWatts * efficiency,
      chargingLossWatts: held * efficiency,
      collapsingPeak: 'positive',
      rough: true,
    }),
  );
}
