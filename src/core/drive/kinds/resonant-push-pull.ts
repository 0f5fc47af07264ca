import { resonanceHertz } from '../../magnetics/inductance';
import { leakageHenries, ratioOf, usualTransformer, type Transformer } from '../../magnetics/transformer';
import { AMPS_PER_SQUARE_METRE, awgOfSection, skinDepthMetres } from '../../magnetics/wire';
import { bankFarads, formatBank, seriesFor } from '../../parts/bank';
import type { Place } from '../../parts/place';
import { quantityField } from '../../quantity/field-description';
import { formatQuantity } from '../../quantity/format-quantity';
import { CHOSEN_MARGIN } from '../../quantity/margin';
import { preferredAtLeast } from '../../quantity/preferred-values';
import { count, partId, quantity, share } from '../../schema/fields';
import * as z from '../../zod';
import { isSilent, SILENT_VOLTS } from '../drive';
import { DriveCollector, footFarads, plainDrive, type DriveContext, type DriveResult } from '../drive-result';
import { pushPullCircuit } from '../circuits/push-pull';
import { BURST_FIELDS, BURST_SCHEMA } from '../bursts';
import { DIRECT, driverKind, needed } from '../driver-kind';
import { directFeed, reportFeed, reportIdle } from '../feed';
import { atCurrent, sagged } from '../sag';
import type { Supply } from '../supply';
import { reportCore } from '../transformer-checks';
import {
  efficiency,
  EFFICIENCY_FIELD,
  TRANSISTOR_FIELDS,
  TRANSISTOR_SCHEMA,
  transistorPlace,
  transistorRatings,
} from '../transistors';

const MOST_TANK_SERIES = 20;
const MOST_TANK_PARALLEL = 50;

const schema = z.strictObject({
  kind: z.literal('resonant-push-pull'),
  /** Of each capacitor; so many in series, and so many such strings in parallel. */
  tankFarads: quantity('F', '680e-9', 'above zero'),
  tankSeries: count(MOST_TANK_SERIES).default(1),
  tankParallel: count(MOST_TANK_PARALLEL).default(1),
  /** Each one's, peak, and RMS at this frequency. */
  tankRatedVolts: quantity('V', '400', 'above zero').nullable().default(null),
  tankRatedAmps: quantity('A', '6', 'above zero').nullable().default(null),
  tankPartId: partId,
  chokeHenries: quantity('H', '100e-6', 'above zero').default(100e-6),
  chokeSaturationAmps: quantity('A', '8', 'above zero').nullable().default(null),
  transistorOhms: quantity('Ω', '0.03', 'zero or more').default(0.03),
  ...TRANSISTOR_SCHEMA,
  /** How far edges pass the peak, as a fraction of it. */
  overshoot: share('0.1').default(0.1),
  gateOhms: quantity('Ω', '470', 'above zero').default(470),
  gateResistorWatts: quantity('W', '2', 'above zero').default(2),
  zenerVolts: quantity('V', '12', 'above zero').default(12),
  pullDownOhms: quantity('Ω', '10e3', 'above zero').default(10e3),
  gateThresholdVolts: quantity('V', '4', 'above zero').default(4),
  /** Of tank, winding and core together, nothing connected. */
  unloadedQuality: quantity('', '40', 'above zero').default(40),
  ...BURST_SCHEMA,
  efficiency: efficiency.default(0.8),
});
type PushPull = z.output<typeof schema>;

/** How many times another capacitance than the tank's may be offered: its frequency goes as the root. */
const MOST_AWAY = 1.5;

/**
 * A bank for the tank: as many in series as carry its peak, and as many such
 * strings as come nearest its capacitance and carry its current.
 */
const tankPlace: Place = {
  id: 'tank',
  name: 'Tank capacitors',
  takes: 'capacitor',
  partId: 'driver.tankPartId',
  fields: ['tankFarads', 'tankRatedVolts', 'tankRatedAmps'].map((field) => `driver.${field}`),
  count: (read) => (read('driver.tankSeries') as number) * (read('driver.tankParallel') as number),
  fit: (read, part, { tankVolts, tankAmps }) => {
    if (part.kind !== 'capacitor' || tankVolts === null || tankAmps === null) return null;
    const series = seriesFor('capacitor', part, tankVolts);
    if (series === null) return null;
    const { tankFarads, tankSeries, tankParallel } = read('driver') as PushPull;
    const wanted = bankFarads(tankFarads, tankSeries, tankParallel);
    const string = part.farads / series;
    const byAmps = part.ratedRmsAmps === null ? 1 : Math.ceil((tankAmps * (1 + CHOSEN_MARGIN)) / part.ratedRmsAmps);
    const parallel = Math.max(1, byAmps, Math.round(wanted / string));
    const total = string * parallel;
    const away = Math.max(total / wanted, wanted / total);
    if (parallel > MOST_TANK_PARALLEL || series > MOST_TANK_SERIES || away > MOST_AWAY) return null;
    return {
      words: `${formatBank(series, parallel) || 'one'}, ${formatQuantity(total, 'F')}`,
      values: {
        'driver.tankFarads': part.farads,
        'driver.tankSeries': series,
        'driver.tankParallel': parallel,
        'driver.tankRatedVolts': part.ratedVolts,
        'driver.tankRatedAmps': part.ratedRmsAmps,
      },
    };
  },
};

export const resonantPushPull = driverKind(schema, {
  kind: 'resonant-push-pull',
  name: 'Resonant push-pull',
  needs: { supply: DIRECT, transformer: true, inductance: true },
  fields: [
    quantityField('tankFarads', 'Tank capacitor, each', 'F'),
    ...TRANSISTOR_FIELDS,
    quantityField('chokeHenries', 'Choke', 'H'),
    quantityField('gateOhms', 'Gate resistors, each', 'Ω'),
    quantityField('gateResistorWatts', 'Gate resistors rated', 'W'),
    quantityField('tankSeries', 'Tank capacitors in series', '', { more: true }),
    quantityField('tankParallel', 'Such strings in parallel', '', { more: true }),
    quantityField('tankRatedVolts', 'Each rated, peak', 'V', { optional: true, more: true }),
    quantityField('tankRatedAmps', 'Each rated, RMS', 'A', { optional: true, more: true }),
    quantityField('overshoot', 'Edges overshoot by', '%', { more: true }),
    quantityField('chokeSaturationAmps', 'Choke saturates at', 'A', { optional: true, more: true }),
    quantityField('transistorOhms', 'On-resistance', 'Ω', { more: true }),
    quantityField('zenerVolts', 'Gate zener', 'V', { more: true }),
    quantityField('pullDownOhms', 'Gate pull-down', 'Ω', { more: true }),
    quantityField('gateThresholdVolts', 'Gate threshold', 'V', { more: true }),
    quantityField('unloadedQuality', 'Q of the tank without load', '', {
      more: true,
      hint: 'Sets the idle current; from it, as measured: tank volt-amperes over idle watts. Usually 20 to 60.',
    }),
    ...BURST_FIELDS,
    EFFICIENCY_FIELD,
  ],
  start: ({ peakVolts, feedVolts }) => ({
    driver: { tankFarads: 680e-9, ratedVolts: 200 },
    transformer: usualTransformer(peakVolts, Math.PI * feedVolts),
  }),
  places: [transistorPlace(() => 2, { known: ['transistorOhms', 'gateThresholdVolts'] }), tankPlace],
  ratings: (driver) => [
    ...transistorRatings(driver),
    { id: 'tankVoltage', rated: driver.tankRatedVolts },
    { id: 'tankCurrent', rated: driver.tankRatedAmps },
    { id: 'gatePower', rated: driver.gateResistorWatts },
    { id: 'chokeSaturation', rated: driver.chokeSaturationAmps },
  ],
  drive: ({ supply, driver, transformer }, context) =>
    pushPullDrive(needed(supply), driver, needed(transformer), context),
  circuit: ({ supply, driver, transformer }, { figures, drive }, fed, ladderFarads) => {
    const feed = atCurrent(directFeed(needed(supply)), figures.supplyAmps ?? figures.idleAmps);
    if (isSilent(drive)) return { reason: 'it does not run at this supply' };
    const { tankFarads, tankSeries, tankParallel } = driver;
    const { tankPeakVolts = 0, idleAmps = 0, supplyAmps = idleAmps } = figures;
    const tank = {
      farads: bankFarads(tankFarads, tankSeries, tankParallel),
      hertz: drive.frequencyHertz,
      peakVolts: tankPeakVolts,
      gateWatts: gateWattsOf(driver, feed.volts),
      chokeAmps: supplyAmps,
    };
    return pushPullCircuit(feed, driver, tank, needed(transformer), fed, ladderFarads);
  },
  leavesOut:
    'Mostly the charging pulses themselves: they come through the leakage inductance and bend the tank’s voltage, which the closed form takes for a sine from a stiff source.',
  firstRun:
    'At the lowest supply at which it starts, current limited no lower than the checks below say, set first and switched on at once; nothing on the secondary but a probe made for its peak.',
  beforePower: (_driver, { supplyOpenVolts = 0, chokePeakAmps, startAmps = 0 }) => [
    ...(chokePeakAmps === undefined
      ? []
      : [
          {
            code: 'choke',
            text: `A choke that saturates no lower than ${formatQuantity(Math.max((1 + CHOSEN_MARGIN) * chokePeakAmps, startAmps), 'A', 2)}: it carries ${formatQuantity(chokePeakAmps, 'A', 2)} peak at the design’s load, and some ${formatQuantity(startAmps, 'A', 2)} while it starts.`,
          },
        ]),
    {
      code: 'push-pull-start',
      text: `Set ${formatQuantity(supplyOpenVolts, 'V')} first, then switch on at once: wound up slowly from zero both transistors may stay on.`,
    },
  ],
});

/** Loaded quality factor under which the tank no longer swings cleanly (common practice, no source). */
const LEAST_QUALITY = 2;
const AUDIBLE_HERTZ = 20e3;
/** Beyond this ferrite and wire of the usual kind heat (common practice, no source). */
const FAST_HERTZ = 200e3;
/** Supply over gate threshold at which both transistors no longer just conduct together (common practice, no source). */
const STARTS_OVER_THRESHOLD = 2;
/** The choke's ripple, peak to peak and RMS, in units of supply over reactance of the choke: of the centre tap's rectified half sine. */
const CHOKE_PEAK_TO_PEAK = 0.661;
const CHOKE_RMS = 0.237;
/** Drawn for some milliseconds before it swings (common practice, no source). */
const START_AMPS = 2;

/** The tank as it swings without load, which its load hardly changes. */
type Tank = { farads: number; hertz: number; omega: number; peakVolts: number; rmsAmps: number };

/**
 * Current-fed push-pull with a tank across a centre-tapped primary, switching
 * where the tank's voltage passes zero.
 *
 * The choke holds the mean of the centre tap, a rectified half sine, at the
 * supply Vs, so the tank's peak across the whole primary is pi Vs; f = 1 / (2 pi
 * sqrt(L (C + (N2/N1)^2 Cs))); tank current RMS pi Vs / sqrt 2 times 2 pi f C.
 * The choke carries the centre tap's ripple, 0.661 Vs / (2 pi f Lc) peak to peak
 * and 0.237 of it RMS. Derived; checked by integrating the tank. Idle it takes
 * the tank's volt-amperes over its Q, and what the gate resistors draw. Under its
 * gate threshold it does not run.
 */
function pushPullDrive(supply: Supply, driver: PushPull, transformer: Transformer, context: DriveContext): DriveResult {
  const { ladderWatts, driveScale } = context;
  const result = new DriveCollector();
  const feed = directFeed(supply);
  const { volts } = feed;
  const ratio = ratioOf(transformer);
  const henries = transformer.primaryHenries!;
  const reflected = ratio ** 2 * footFarads(transformer, context);
  const farads = bankFarads(driver.tankFarads, driver.tankSeries, driver.tankParallel);
  const hertz = resonanceHertz(henries, farads + reflected);
  const omega = 2 * Math.PI * hertz;
  const runs = gateVoltsOf(driver, volts) > driver.gateThresholdVolts;
  const tankVolts = runs ? Math.PI * volts : 0;
  const tank: Tank = { farads, hertz, omega, peakVolts: tankVolts, rmsAmps: (tankVolts / Math.SQRT2) * omega * farads };
  const peakVolts = Math.max(SILENT_VOLTS, tankVolts * ratio * transformer.coupling);

  reportTank(result, driver, tank, henries);
  const blockedVolts = tankVolts * (1 + driver.overshoot);
  result.figure('transistorPeakVolts', blockedVolts);
  result.stress('transistorVoltage', 'noLoad', blockedVolts);
  const chokeUnit = tankVolts / Math.PI / (omega * driver.chokeHenries);
  result.figure('chokeRippleAmps', CHOKE_PEAK_TO_PEAK * chokeUnit);
  const gateWatts = reportGates(result, driver, volts);
  const tankWatts = (tankVolts / Math.SQRT2) * (tank.rmsAmps / driver.unloadedQuality);
  const idleWatts = tankWatts + gateWatts;
  if (runs) {
    reportIdle(result, feed, idleWatts);
    result.figure('startAmps', START_AMPS);
  }
  result.figure('turnsRatio', ratio);
  result.figure('supplyTimesRatioVolts', volts * ratio);
  result.figure('secondaryPeakVolts', peakVolts);
  result.figure('reflectedFarads', reflected);
  const perTurn = tankVolts / (omega * transformer.primaryTurns);
  const coreWatts = reportCore(result, transformer, { perTurn, swing: perTurn, hertz });
  if (coreWatts > tankWatts)
    result.finding(
      'note',
      'core-loss-over-quality',
      '$.driver.unloadedQuality',
      `A usual ferrite of this core’s size loses some ${formatQuantity(coreWatts, 'W', 2)} at this flux, more than the ${formatQuantity(tankWatts, 'W', 2)} that the tank’s Q leaves for everything: idle current and heat may be that much higher.`,
      'Measure the current without load, and enter the Q that gives it.',
    );
  const loadWatts = (ladderWatts ?? 0) / driver.efficiency;
  // What it takes idle falls with the square of what the load leaves of the supply.
  const watts = loadWatts + idleWatts * driveScale ** 2;
  reportFeed(result, supply, watts);
  if (runs)
    reportLoad(result, driver, tank, {
      loadWatts,
      amps: (watts - gateWatts * driveScale ** 2) / sagged(feed, watts),
      chokeUnit,
      henries,
    });
  return result.with(
    plainDrive({
      waveform: 'sine',
      positivePeakVolts: peakVolts,
      negativePeakVolts: peakVolts,
      frequencyHertz: hertz,
      seriesOhms: transformer.secondaryOhms,
      seriesHenries: leakageHenries(transformer),
      supply: { ...feed, efficiency: driver.efficiency, idleWatts },
    }),
  );
}

/** The tank's own figures, and what its capacitors and its wire carry. */
function reportTank(result: DriveCollector, driver: PushPull, tank: Tank, henries: number): void {
  const { tankSeries, tankParallel } = driver;
  const each = { volts: tank.peakVolts / tankSeries, amps: tank.rmsAmps / tankParallel };
  result.figure('frequencyHertz', tank.hertz);
  result.figure('unloadedHertz', resonanceHertz(henries, tank.farads));
  result.figure('tankPeakVolts', tank.peakVolts);
  result.figure('tankRmsAmps', tank.rmsAmps);
  if (tankSeries * tankParallel > 1) {
    result.figure('bankFarads', tank.farads);
    result.figure('tankEachVolts', each.volts);
    result.figure('tankEachAmps', each.amps);
  }
  result.stress('tankVoltage', 'loaded', each.volts);
  result.stress('tankCurrent', 'loaded', each.amps);
  result.stress('primaryCurrent', 'loaded', tank.rmsAmps);
  result.figure('tankVoltsPerSecond', each.volts * tank.omega);
  const section = tank.rmsAmps / AMPS_PER_SQUARE_METRE;
  result.figure('primarySquareMetres', section);
  if (section > 0) result.figure('primaryAwg', awgOfSection(section));
  result.figure('strandMetres', 2 * skinDepthMetres(tank.hertz));
  if (tank.hertz < AUDIBLE_HERTZ)
    result.finding(
      'warn',
      'tank-audible',
      '$.driver.tankFarads',
      `It runs at ${formatQuantity(tank.hertz, 'Hz')} and will squeal: the tank capacitor is too large for these turns.`,
      'Use a smaller tank capacitor or fewer turns.',
    );
  if (tank.hertz > FAST_HERTZ)
    result.finding(
      'warn',
      'tank-fast',
      '$.driver.tankFarads',
      `It runs at ${formatQuantity(tank.hertz, 'Hz')}: core and wire heat, and the tank capacitor is small for these turns.`,
      'Use a larger tank capacitor or more turns.',
    );
}

/** Through the gate resistor against the pull-down, until the zener holds it. */
const gateVoltsOf = ({ gateOhms, pullDownOhms, zenerVolts }: PushPull, volts: number) =>
  Math.min((volts * pullDownOhms) / (gateOhms + pullDownOhms), zenerVolts);

/**
 * Each gate resistor: half the time (Vs - Vz)^2 / R, half (Vs - 0.7)^2 / R; where the gate settles, and what its zener takes (derived).
 *
 * @returns what both together draw from the supply, W
 */
function reportGates(result: DriveCollector, driver: PushPull, volts: number): number {
  const { gateOhms, pullDownOhms, zenerVolts, gateThresholdVolts, gateResistorWatts } = driver;
  const watts = (Math.max(0, volts - zenerVolts) ** 2 + Math.max(0, volts - 0.7) ** 2) / (2 * gateOhms);
  result.figure('gateResistorWatts', watts);
  const enough = preferredAtLeast(12, Math.max(1, watts / gateResistorWatts) * gateOhms);
  result.stress(
    'gatePower',
    'loaded',
    watts,
    `Feed the gates from a lower, separate supply, or use ${formatQuantity(enough, 'Ω', 2)} or more.`,
  );
  const gateVolts = gateVoltsOf(driver, volts);
  const zenerAmps = (volts - gateVolts) / gateOhms - gateVolts / pullDownOhms;
  result.figure('gateVolts', gateVolts);
  if (zenerAmps > 0 && gateVolts === zenerVolts) result.figure('zenerWatts', (zenerAmps * gateVolts) / 2);
  const least = STARTS_OVER_THRESHOLD * gateThresholdVolts;
  result.figure('leastSupplyVolts', least);
  if (gateVolts <= gateThresholdVolts)
    result.finding(
      'stop',
      'driver-does-not-run',
      '$.supply',
      `With ${formatQuantity(gateVolts, 'V')} at the gates no transistor turns on: they need more than ${formatQuantity(gateThresholdVolts, 'V')}. It does not run, and the ladder gets nothing.`,
      `Use a supply of ${formatQuantity(least, 'V')} or more, or feed the gates by themselves.`,
    );
  else if (gateVolts < least)
    result.finding(
      'warn',
      'may-latch',
      '$.supply',
      `With ${formatQuantity(gateVolts, 'V')} at the gates both transistors may turn on and stay on, a short across the supply: they want ${formatQuantity(least, 'V')} or more.`,
      'Switch the supply on at full voltage behind a fuse; do not wind it up from zero.',
    );
  return gateWattsOf(driver, volts);
}

/** What both gate resistors together draw from the supply, W: one holds its gate up, the other is pulled down. */
const gateWattsOf = (driver: PushPull, volts: number) =>
  (volts * (Math.max(0, volts - 0.7) + Math.max(0, volts - gateVoltsOf(driver, volts)))) / driver.gateOhms;

/** What load and idle current ask of transistors, tank and choke. */
function reportLoad(
  result: DriveCollector,
  driver: PushPull,
  { omega, peakVolts }: Tank,
  { loadWatts, amps, chokeUnit, henries }: { loadWatts: number; amps: number; chokeUnit: number; henries: number },
): void {
  // The whole of the choke's current, ripple and all, half of the time.
  const square = amps ** 2 + (CHOKE_RMS * chokeUnit) ** 2;
  result.figure('transistorRmsAmps', Math.sqrt(square / 2));
  result.stress('transistorCurrent', 'loaded', Math.sqrt(square / 2));
  result.figure('conductionWatts', square * driver.transistorOhms);
  const chokePeakAmps = amps + (CHOKE_PEAK_TO_PEAK * chokeUnit) / 2;
  result.figure('chokePeakAmps', chokePeakAmps);
  result.stress('chokeSaturation', 'loaded', chokePeakAmps);
  if (loadWatts === 0) return;
  const quality = peakVolts ** 2 / (2 * loadWatts * omega * henries);
  result.figure('tankQuality', quality);
  if (quality < LEAST_QUALITY)
    result.finding(
      'warn',
      'tank-too-light',
      '$.driver.tankFarads',
      `The load leaves the tank a Q of ${quality.toPrecision(2)}: it may stop swinging and latch.`,
      'Use a larger tank capacitor, fewer turns or a lighter load.',
    );
}
