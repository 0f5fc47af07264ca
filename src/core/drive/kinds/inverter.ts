import {
  HALF_SWING,
  LEAKAGE_QUALITY,
  leakageHenries,
  usualTransformer,
  type Transformer,
} from '../../magnetics/transformer';
import { quantityField } from '../../quantity/field-description';
import { formatQuantity } from '../../quantity/format-quantity';
import { choice, quantity } from '../../schema/fields';
import * as z from '../../zod';
import { DriveCollector, footFarads, plainDrive, type DriveContext, type DriveResult } from '../drive-result';
import { inverterCircuit } from '../circuits/inverter';
import { isSilent } from '../drive';
import { BURST_FIELDS, BURST_SCHEMA } from '../bursts';
import { DIRECT, driverKind, needed } from '../driver-kind';
import { directFeed, reportFeed, reportIdle } from '../feed';
import { atCurrent, sagged } from '../sag';
import type { Supply } from '../supply';
import { NO_INDUCTANCE } from '../supply-circuit';
import { reportCore } from '../transformer-checks';
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
} from '../transistors';

const schema = z.strictObject({
  kind: z.literal('inverter'),
  bridge: choice(['half', 'full', 'push-pull']).default('full'),
  frequencyHertz: quantity('Hz', '25000', 'above zero'),
  /** Both switches off, at each change over. */
  deadSeconds: quantity('s', '1e-6', 'zero or more').default(0),
  transistorOhms: quantity('Ω', '0.05', 'zero or more').default(0.05),
  ...TRANSISTOR_SCHEMA,
  switchSeconds: switchSeconds(50e-9),
  /** In series with the primary, to keep direct current out of it. */
  blockingFarads: quantity('F', '1e-6', 'above zero').nullable().default(null),
  ...BURST_SCHEMA,
  efficiency: efficiency.default(0.85),
});

export const inverter = driverKind(schema, {
  kind: 'inverter',
  name: 'Inverter',
  needs: { supply: DIRECT, transformer: true, inductance: false },
  fields: [
    {
      as: 'choice',
      name: 'bridge',
      label: 'Switches',
      options: [
        { value: 'half', name: 'Half bridge' },
        { value: 'full', name: 'Full bridge' },
        { value: 'push-pull', name: 'Push-pull' },
      ],
    },
    quantityField('frequencyHertz', 'Frequency', 'Hz'),
    ...TRANSISTOR_FIELDS,
    quantityField('deadSeconds', 'Dead time', 's', { more: true }),
    quantityField('blockingFarads', 'Blocking capacitor', 'F', { optional: true, absent: 'none', more: true }),
    quantityField('transistorOhms', 'On-resistance', 'Ω', { more: true }),
    SWITCH_SECONDS_FIELD,
    ...BURST_FIELDS,
    EFFICIENCY_FIELD,
  ],
  start: ({ peakVolts, hertz, feedVolts }) => ({
    driver: { frequencyHertz: hertz },
    transformer: usualTransformer(peakVolts, feedVolts),
  }),
  places: [transistorPlace((read) => (read('driver.bridge') === 'full' ? 4 : 2), { known: ['transistorOhms'] })],
  ratings: transistorRatings,
  drive: ({ supply, driver, transformer }, context) =>
    inverterDrive(needed(supply), driver, needed(transformer), context),
  circuit: ({ supply, driver, transformer }, { drive, figures }, fed, ladderFarads) => {
    if (isSilent(drive) || 2 * driver.deadSeconds * driver.frequencyHertz >= 1)
      return { reason: 'its switches are never closed' };
    return transformer?.primaryHenries == null
      ? NO_INDUCTANCE
      : inverterCircuit(
          atCurrent(directFeed(needed(supply)), figures.supplyAmps),
          driver,
          transformer,
          fed,
          ladderFarads,
        );
  },
  // Each turns off once a period, at what the primary then carries; on again where its own diode conducts already.
  switching: ({ bridge, frequencyHertz, ...transistor }, figures) => {
    const { transistorPeakVolts = NaN, primaryAmps = NaN, magnetisingPeakAmps = NaN } = figures;
    const { primaryPeakAmps = primaryAmps + magnetisingPeakAmps } = figures;
    const each = { volts: transistorPeakVolts, amps: primaryPeakAmps };
    return (bridge === 'full' ? 4 : 2) * turnOffWatts(each, transistor.switchSeconds, frequencyHertz);
  },
  leavesOut:
    'Mostly leakage inductance: after each edge it rings with the secondary’s capacitance, which the closed form counts for one swing and for a single capacitance.',
  firstRun: 'At a low supply, current limited, nothing on the secondary but a probe made for its peak.',
  beforePower: () => [],
});

/** Fraction of the primary's voltage that a blocking capacitor may take before it shows. */
const MOST_BLOCKING_FRACTION = 0.1;

/**
 * A square wave from switches: half of the supply across the primary for a half
 * bridge, all of it for a full bridge, all of it across either half for
 * push-pull. Behind leakage every change-over rings on, which {@link wattsAtScale}
 * lets fall under load. Peak flux density V / (4 f N A) of a square (handbook); a blocking
 * capacitor ripples by I / (2 f C).
 */
function inverterDrive(
  supply: Supply,
  driver: z.output<typeof schema>,
  transformer: Transformer,
  context: DriveContext,
): DriveResult {
  const result = new DriveCollector();
  const { ladderWatts, ladderRmsAmps } = context;
  const { bridge, frequencyHertz, deadSeconds, efficiency, transistorOhms, blockingFarads } = driver;
  const feed = directFeed(supply);
  const asked = ladderWatts === null ? null : ladderWatts / efficiency;
  const { volts } = feed;
  const primaryVolts = bridge === 'half' ? volts / 2 : volts;
  const turns = bridge === 'push-pull' ? transformer.primaryTurns / 2 : transformer.primaryTurns;
  const ratio = transformer.secondaryTurns / turns;
  const peakVolts = primaryVolts * ratio * transformer.coupling;
  const onFraction = Math.max(0, 1 - 2 * deadSeconds * frequencyHertz);
  const farads = footFarads(transformer, context);
  // Every winding rings with what is its own.
  const ring = squareRing((leakageHenries(transformer) * farads) / context.windings, frequencyHertz);
  const rung = peakVolts * ring.rung;
  const ringingWatts = farads * peakVolts ** 2 * frequencyHertz * ring.lost;
  const topVolts = peakVolts + rung;
  const blocks = bridge === 'push-pull' ? 2 * volts : volts;

  result.figure('drivenPrimaryVolts', primaryVolts);
  result.figure('onFraction', onFraction);
  result.figure('transistorPeakVolts', blocks);
  result.figure('turnsRatio', ratio);
  result.figure('secondaryPeakVolts', topVolts);
  const perTurn = (primaryVolts * onFraction) / (4 * frequencyHertz * turns);
  if (ringingWatts > 0) result.figure('ringingWatts', ringingWatts);
  const coreWatts = reportCore(result, transformer, { perTurn, swing: perTurn, hertz: frequencyHertz });
  result.stress('transistorVoltage', 'noLoad', blocks);
  // A triangle, out of step with what the ladder draws: squares add (handbook).
  const magnetisingRms = magnetisingPeak(transformer, primaryVolts * onFraction, turns, frequencyHertz) / Math.sqrt(3);
  result.figure('magnetisingPeakAmps', magnetisingRms * Math.sqrt(3));
  if (ladderRmsAmps !== null) {
    const primaryRms = Math.hypot(ratio * ladderRmsAmps, magnetisingRms);
    result.figure('primaryRmsAmps', primaryRms);
    result.stress('primaryCurrent', 'loaded', primaryRms);
  }
  if (onFraction === 0)
    result.finding(
      'stop',
      'dead-time-too-long',
      '$.driver.deadSeconds',
      `A dead time of ${formatQuantity(deadSeconds, 's')} leaves nothing of a half period at ${formatQuantity(frequencyHertz, 'Hz')}.`,
      'Shorten the dead time or lower the frequency.',
    );
  const switchOhms = transistorOhms * (bridge === 'full' ? 2 : 1);
  // What it takes with nothing drawn: in the core, in the ring and where the magnetising current flows.
  const idleWatts = coreWatts + ringingWatts + magnetisingRms ** 2 * switchOhms;
  if (asked !== null && volts > 0) {
    const primaryAmps = asked / (sagged(feed, asked) * (primaryVolts / volts));
    result.figure('primaryAmps', primaryAmps);
    // Each carries it in one half of the period.
    const carried = Math.hypot(primaryAmps, magnetisingRms);
    result.figure('transistorRmsAmps', carried / Math.SQRT2);
    result.stress('transistorCurrent', 'loaded', carried / Math.SQRT2);
    result.figure('conductionWatts', carried ** 2 * switchOhms);
    if (blockingFarads !== null) {
      const rippleVolts = primaryAmps / (2 * frequencyHertz * blockingFarads);
      result.figure('blockingRippleVolts', rippleVolts);
      if (rippleVolts > MOST_BLOCKING_FRACTION * primaryVolts)
        result.finding(
          'warn',
          'blocking-capacitor-small',
          '$.driver.blockingFarads',
          `The blocking capacitor takes ${formatQuantity(rippleVolts, 'V')} peak-to-peak of ${formatQuantity(primaryVolts, 'V')}.`,
          'Use a larger blocking capacitor.',
        );
    }
  }
  reportIdle(result, feed, idleWatts);
  reportFeed(result, supply, asked === null ? null : asked + idleWatts);
  if (rung > 0)
    result.finding(
      'warn',
      'leakage-lifts-output',
      '$.transformer.coupling',
      `Nothing damps the leakage inductance behind a square: with little load every change-over rings on to some ${formatQuantity(topVolts, 'V', 2)} instead of ${formatQuantity(peakVolts, 'V', 2)}, and every voltage of the ladder rises with it. That is counted, as a ring of Q ${LEAKAGE_QUALITY}; yours may be anything from 3 to 30.`,
      'Measure the secondary’s peaks through a probe, or damp them: a snubber across the secondary, or a resistor in series with the ladder.',
    );
  return result.with(
    plainDrive({
      waveform: 'square',
      positivePeakVolts: topVolts,
      negativePeakVolts: topVolts,
      frequencyHertz,
      seriesOhms: transformer.secondaryOhms + switchOhms * ratio ** 2,
      seriesHenries: leakageHenries(transformer),
      // Either way the same charge.
      lift:
        rung > 0
          ? {
              from: peakVolts / topVolts,
              watts: 2 * farads * rung * topVolts * frequencyHertz,
              fresh: (2 * HALF_SWING * peakVolts) / rung,
            }
          : null,
      rough: rung > 0,
      supply: { ...feed, efficiency, idleWatts },
    }),
  );
}

/** Peak of what a square magnetises a core with, V / (4 f L) on the turns it drives, A; zero where the inductance is not known (handbook). */
function magnetisingPeak(
  { primaryHenries, primaryTurns }: Transformer,
  volts: number,
  turns: number,
  hertz: number,
): number {
  if (primaryHenries === null) return 0;
  return volts / (4 * hertz * primaryHenries * (turns / primaryTurns) ** 2);
}

/**
 * How far a square's edges ring on past it behind an inductance into a
 * capacitance, in units of its peak: 2 / |1 + E| after each edge, E being what half
 * a period leaves of the ring and where in its turn, less what is lost to its top
 * (derived: a ring that repeats from edge to edge; handbook for one edge, 2). Its
 * quality is {@link LEAKAGE_QUALITY}. And what both edges of a period lose in it,
 * in units of the capacitance times that peak squared: (2 / |1 + E|)^2 (1 -
 * |E|^2); 4 where it dies out in between, as behind any resistance (handbook).
 *
 * @param henryFarads inductance times capacitance, s^2; zero: nothing rings
 */
export function squareRing(henryFarads: number, hertz: number): { rung: number; lost: number } {
  if (!(henryFarads > 0)) return { rung: 0, lost: 0 };
  const omega = 1 / Math.sqrt(henryFarads);
  const turned = omega / (2 * hertz);
  const left = Math.exp(-turned / (2 * LEAKAGE_QUALITY));
  const [real, imaginary] = [1 + left * Math.cos(turned), left * Math.sin(turned)];
  // It starts against the edge, at pi less the angle of 1 + E, and its top is where that has come round to zero.
  const toTop = Math.PI + Math.atan2(imaginary, real);
  const fresh = 2 / Math.hypot(real, imaginary);
  return { rung: fresh * Math.exp(-toTop / (2 * LEAKAGE_QUALITY)), lost: fresh ** 2 * (1 - left ** 2) };
}
