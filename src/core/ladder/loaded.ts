import { amplitudeVolts, hasFastEdges, hasLoadedForm, type Drive } from '../drive/drive';
import {
  capacitiveNetwork,
  capacitiveResponse,
  conductsAtPositivePeak,
  inputFarads,
  type CapacitiveNetwork,
  type CapacitiveResponse,
} from './capacitive';
import { LEVEL_TURNS, lightLoadBookkeeping, type LightLoad } from './charge-bookkeeping';
import type { LadderNetwork } from '../topology/network';
import { oneLessCosine, pulseHalfAngle } from '../numeric/pulse-angle';
import { reactiveLoss, reactivePath, type ReactiveLoss } from './reactive-droop';
import { turnOnOf, type TurnOn } from './turn-on';
import { idealVolts, noLoadLadder, type UnloadedLadder } from './unloaded';

/** How a ladder droops at one output current; every voltage in V. */
export type Droop = {
  /** Loss of mean output that the capacitors alone would cause. */
  capacitorVolts: number;
  /** Loss of mean output that the resistance of source and diodes alone would cause; below zero where its reactance carries the pulses over the peak. */
  sourceVolts: number;
  /** Both together: their root sum of squares, behind a reactance their sum. */
  totalVolts: number;
  /** Half the angle over which the source's resistance spreads each charging pulse, rad; 0 for a square or pulse. */
  sourceAngle: number;
  /** The greatest pulse as the source's reactance shapes it; null where there is none. */
  reactive: ReactiveLoss['reactive'] | null;
  /** Whether reactance takes it past where it is right within some per cent. */
  rough: boolean;
};

/** A diode that feeds the output: what it must make good in a cycle before it conducts. */
type FeedingDiode = {
  /** The peak of the drive at which it conducts. */
  peak: 'positive' | 'negative';
  /** Alternating voltage across it, peak, V. */
  volts: number;
  /** What its ends part by in a cycle, per coulomb of load charge, 1/F. */
  jump: number;
  /** Of that, what is left to make good when the output has risen as far as it will, per coulomb, 1/F; zero where it rises to the peak. */
  until: number;
  /** What the output rises by at that peak, per coulomb, 1/F. */
  rise: number;
  /** What the load's steady draw parts them by in a cycle, per coulomb, 1/F. */
  steady: number;
};

/** The diodes in one place: their drop, V, what stands across them, junction and wiring together, F, and their on-resistance, Ω. */
export type LadderDiodes = { forwardVolts: number; strayFarads: number; onOhms: number };

/** A ladder on its drive, ready to be asked what it does at any output current. */
export type LoadedLadder = {
  network: LadderNetwork;
  drive: Drive;
  diode: LadderDiodes;
  lightLoad: LightLoad;
  turnOn: TurnOn;
  unloaded: UnloadedLadder;
  feeding: FeedingDiode[];
  /** Fall of the output by the load's steady draw over a whole cycle, per coulomb, 1/F. */
  outputElastance: number;
  /** Peak of the drive less one diode drop, V; zero if the diodes take it all. */
  stepVolts: number;
  /** Steps of one peak that make up the output without load. */
  steps: number;
  /** Fraction of the ideal no-load output that strays leave, 0..1. */
  strayFactor: number;
  /** What the diodes' on-resistance comes to in series with each winding, by the heat of their pulses, Ω. */
  diodeOhms: number;
  /** Capacitance each winding sees between the pulses: what strays leave it to carry, F. */
  inputFarads: number[];
  /** Output current past which charging would take longer than half a period: no closed form holds, A; Infinity on a square or pulse. */
  hardLimitAmps: number;
  /** Output current past which a coupling capacitor cannot carry the charge, whatever the output, A; Infinity without one. */
  chargeLimitAmps: number;
};

/** Whether the drive swings a ladder's output as a whole: it is not smoothed, and its range is the drive's. */
export const swingsWhole = ({ unloaded, drive }: Pick<LoadedLadder, 'unloaded' | 'drive'>): boolean =>
  unloaded.feedthroughPeakToPeakVolts >= amplitudeVolts(drive);

/** What droop is calculated from. */
export type DroopInputs = Pick<
  LoadedLadder,
  'drive' | 'stepVolts' | 'steps' | 'strayFactor' | 'hardLimitAmps' | 'inputFarads' | 'diodeOhms'
> & {
  network: Pick<LadderNetwork, 'topology'> & { diodes: { length: number } };
  lightLoad: Pick<LightLoad, 'droop'> & { windingPulses: Readonly<LightLoad['windingPulses']> };
  unloaded: Pick<UnloadedLadder, 'outputVolts'>;
};

/** What ripple is calculated from. */
export type RippleInputs = Pick<LoadedLadder, 'drive' | 'feeding' | 'outputElastance'> & {
  turnOn: Pick<TurnOn, 'width' | 'inTurn'>;
  lightLoad: Pick<LightLoad, 'ripple' | 'outputTurns'>;
};

const ROUNDING = 1e-9;

/** Fraction of the no-load output that may droop before the closed form is no longer trusted. */
const TRUSTED_DROOP_FRACTION = 2 / 3;

/**
 * How far wide charging pulses lift the mean, in units of V x^1.5, by the
 * number of diodes of one half-wave ladder. Measured here by integrating ideal
 * ladders at x = 0.3; the mean is then right within 0.3 % of no-load up to
 * x = 0.6.
 */
const PULSE_WIDTH_LIFT: readonly number[] = [0, 0.406, 0.327, 0.406, 0.348, 0.36, 0.33, 0.327, 0.311, 0.305, 0.295];
const PULSE_WIDTH_LIFT_TALL = 0.275;
const FULL_WAVE_LIFT = 0.73;
/** The same for a ladder driven in its middle, by its stages a side. */
const TWO_ENDED_LIFT: readonly number[] = [0, 0.199, 0.259, 0.292, 0.314, 0.33, 0.342, 0.351, 0.358, 0.365, 0.37];
const TWO_ENDED_LIFT_TALL = 0.385;

function pulseWidthLift({ topology, diodes }: DroopInputs['network']): number {
  const ofOneLadder = (count: number) => PULSE_WIDTH_LIFT[count] ?? PULSE_WIDTH_LIFT_TALL;
  if (topology === 'full-wave') return FULL_WAVE_LIFT;
  if (topology === 'two-ended') return TWO_ENDED_LIFT[diodes.length / 4] ?? TWO_ENDED_LIFT_TALL;
  // Two ladders on one winding share the output between them.
  if (topology === 'bipolar' || topology === 'bridge-doubler') return 2 * ofOneLadder(diodes.length / 2);
  return ofOneLadder(diodes.length);
}

/**
 * A ladder put on its drive.
 *
 * @param network of any topology
 * @param drive peaks V, frequency Hz and resistance Ω
 * @returns limits in A and the no-load state in V; see the fields. Valid range
 *   of each figure: `droopAt`, `rippleAt`. Hard limit for equal capacitors on a
 *   sine 2 V f C / (n (n + 1/2)) half-wave, 8 V f C / (n (n + 1)) full-wave:
 *   derived
 */
export function loadedLadder(network: LadderNetwork, drive: Drive, diode: LadderDiodes): LoadedLadder {
  const capacitive = capacitiveNetwork(network, diode.strayFarads);
  return loadedOn(network, drive, diode, capacitive, capacitiveResponse(network, capacitive, diode.strayFarads));
}

/** The same where what the capacitances make of a drive of one is known already. */
export function loadedOn(
  network: LadderNetwork,
  drive: Drive,
  diode: LadderDiodes,
  capacitive: CapacitiveNetwork,
  response: CapacitiveResponse,
): LoadedLadder {
  const unloaded = noLoadLadder(network, drive, diode.forwardVolts, capacitive, response);
  const lightLoad = lightLoadBookkeeping(network, capacitive, response, drive) ?? unknownLightLoad(network);
  const kept = {
    lightLoad,
    turnOn: turnOnOf(network, capacitive, lightLoad.instants, response.swings, diode.strayFarads),
    inputFarads: inputFarads(network, diode.strayFarads, response.swings),
  };
  return assembled(network, drive, diode, kept, unloaded);
}

/** The ladder on a drive of other peaks, waveform and duty as before: what hangs on the network alone is kept. */
export function withPeaksOf(ladder: LoadedLadder, drive: Drive): LoadedLadder {
  const { network, diode } = ladder;
  const { capacitive, response } = ladder.unloaded;
  const unloaded = noLoadLadder(network, drive, diode.forwardVolts, capacitive, response);
  return assembled(network, drive, diode, ladder, unloaded);
}

function assembled(
  network: LadderNetwork,
  drive: Drive,
  diode: LadderDiodes,
  { lightLoad, turnOn, inputFarads: feet }: Pick<LoadedLadder, 'lightLoad' | 'turnOn' | 'inputFarads'>,
  unloaded: UnloadedLadder,
): LoadedLadder {
  const { response } = unloaded;
  const stepVolts = Math.max(0, amplitudeVolts(drive) - diode.forwardVolts);
  const ideal = idealVolts(network, drive, diode.forwardVolts);
  const feeding = feedingDiodes(network, turnOn, lightLoad.instants, unloaded);
  return {
    network,
    drive,
    diode,
    lightLoad,
    turnOn,
    unloaded,
    feeding,
    outputElastance: response.discharge.get(network.output)! - response.discharge.get(network.return)!,
    stepVolts,
    steps: stepsOf(network),
    strayFactor: ideal > 0 ? Math.min(1, unloaded.outputVolts / ideal) : 0,
    diodeOhms: diodeOhms(diode.onOhms, lightLoad),
    inputFarads: feet,
    hardLimitAmps: hardLimitAmps(drive, lightLoad, feeding),
    chargeLimitAmps: chargeLimitAmps(network, drive, lightLoad),
  };
}

/** On-resistance as one in series with each winding: it heats in the windings' pulses as in the diodes' own. */
function diodeOhms(onOhms: number, { diodeCharges, windingPulses }: LightLoad): number {
  const inDiodes = diodeCharges.reduce((sum, charge) => sum + charge ** 2, 0);
  const inWindings = windingPulses.reduce((sum, { positive, negative }) => sum + positive ** 2 + negative ** 2, 0);
  return inWindings > 0 ? (onOhms * inDiodes) / inWindings : 0;
}

/** Stands in where bookkeeping gives no answer: any load at all is past the closed form. */
function unknownLightLoad(network: LadderNetwork): LightLoad {
  const nothing = new Map(network.nodes.map((node) => [node.id, 0]));
  return {
    droop: Infinity,
    textbookDroop: null,
    ripple: 0,
    capacitorDroops: network.capacitors.map(() => 0),
    nodeDroops: nothing,
    diodeCharges: network.diodes.map(() => 0),
    windingPulses: network.sources.map(() => ({ positive: 0, negative: 0 })),
    instants: { afterPositive: nothing, beforeNegative: nothing, afterNegative: nothing, beforePositive: nothing },
    outputTurns: LEVEL_TURNS,
  };
}

/** Steps of one peak between return and output: diodes in series along the way, or winding ends. */
function stepsOf({ topology, diodes, capacitors }: LadderNetwork): number {
  return topology === 'full-wave' ? (capacitors.length / 3) * 2 : diodes.length;
}

/** Output current past which charging would take longer than half a period, A; see {@link LoadedLadder}. */
export function hardLimitAmps(
  drive: Drive,
  lightLoad: Pick<LightLoad, 'droop'>,
  feeding: readonly FeedingDiode[],
): number {
  if (!Number.isFinite(lightLoad.droop)) return 0;
  if (hasFastEdges(drive)) return Infinity;
  const limits = feeding.flatMap(({ volts, jump, steady }) =>
    jump > steady / 2 ? [(2 * volts * drive.frequencyHertz) / (jump - steady / 2)] : [],
  );
  return Math.min(Infinity, ...limits);
}

function feedingDiodes(
  network: LadderNetwork,
  { starts, ends }: TurnOn,
  { beforePositive, afterPositive, beforeNegative, afterNegative }: LightLoad['instants'],
  unloaded: UnloadedLadder,
): FeedingDiode[] {
  const { swings, discharge } = unloaded.response;
  const acrossOutput = (at: ReadonlyMap<string, number>) => at.get(network.output)! - at.get(network.return)!;
  return network.diodes.flatMap((diode, index) => {
    if (diode.cathode !== network.output && (diode.anode !== network.return || network.return === 'ground')) return [];
    const { anode, cathode } = diode;
    const peak = conductsAtPositivePeak(diode, swings) ? 'positive' : 'negative';
    const [before, after] = peak === 'positive' ? [beforePositive, afterPositive] : [beforeNegative, afterNegative];
    const swing = Math.abs(swings.get(anode)! - swings.get(cathode)!);
    return [
      {
        peak,
        rise: acrossOutput(after) - acrossOutput(before),
        volts: Math.abs(unloaded.nodeSwings.get(anode)! - unloaded.nodeSwings.get(cathode)!),
        jump: starts[index] * swing,
        until: ends[index] * swing,
        steady: discharge.get(cathode)! - discharge.get(anode)!,
      },
    ];
  });
}

/** The most that a coupling capacitor can pass: all its swing, once a cycle. */
function chargeLimitAmps(network: LadderNetwork, drive: Drive, { instants }: LightLoad): number {
  const sources = new Set(network.sources.map((source) => source.node));
  const limits = network.capacitors.flatMap((part) => {
    const far = sources.has(part.lower) ? part.upper : sources.has(part.upper) ? part.lower : null;
    if (far === null) return [];
    const carried = part.farads * Math.abs(instants.afterPositive.get(far)! - instants.afterNegative.get(far)!);
    return carried > 0 ? [(2 * amplitudeVolts(drive) * drive.frequencyHertz * part.farads) / carried] : [];
  });
  return Math.min(Infinity, ...limits);
}

/**
 * Droop of the mean output at an output current, or null where the closed form
 * does not hold.
 *
 * Light load: droop times q by charge bookkeeping, strays included. On a sine,
 * wide pulses give back kappa V x^1.5 (fitted, see PULSE_WIDTH_LIFT). Source
 * resistance: with nu charges q in each winding pulse, sin t - t cos t =
 * pi nu I Rs / V, and every pulse loses V (1 - cos t) of what it adds. On a
 * square or pulse the winding gives its charge all the time it stands at a
 * peak, and I Rs (nu+^2 / d + nu-^2 / (1 - d)) is lost (the fast-switching
 * limit of M. Seeman and S. Sanders, IEEE Transactions on Power Electronics 23,
 * 2008, from memory). Capacitors and source join as the root of the sum of
 * squares: -5 % to +7 % of the droop against integration, up to two thirds.
 * Behind a reactance that shapes the pulses: see `reactiveLoss`. Behind a
 * capacitor in series, or of a drive in bursts: none.
 *
 * @param outputAmps mean current between output and return, A, zero or more
 */
export function droopAt(ladder: DroopInputs, outputAmps: number): Droop | null {
  if (outputAmps === 0) return NO_DROOP;
  const { drive, stepVolts, network, strayFactor, lightLoad, steps } = ladder;
  if (!(stepVolts > 0) || !(outputAmps < ladder.hardLimitAmps) || !hasLoadedForm(drive)) return null;
  const charge = outputAmps / drive.frequencyHertz;
  const lightLoadVolts = charge * lightLoad.droop;
  const path = reactivePath(ladder);
  if (path) {
    const loss = reactiveLoss(ladder, path, outputAmps, lightLoadVolts);
    const totalVolts = lightLoadVolts + (loss?.sourceVolts ?? NaN);
    return loss && trusted(ladder, totalVolts)
      ? { capacitorVolts: lightLoadVolts, totalVolts, sourceAngle: 0, ...loss }
      : null;
  }
  const lift = hasFastEdges(drive)
    ? 0
    : strayFactor * pulseWidthLift(network) * stepVolts * (lightLoadVolts / (steps * stepVolts)) ** 1.5;
  const capacitorVolts = lightLoadVolts - lift;
  const source = sourceDroop(ladder, outputAmps);
  if (!source) return null;
  const totalVolts = Math.hypot(capacitorVolts, source.volts);
  if (!trusted(ladder, totalVolts)) return null;
  return {
    capacitorVolts,
    sourceVolts: source.volts,
    totalVolts,
    sourceAngle: source.angle,
    reactive: null,
    rough: false,
  };
}

const trusted = ({ unloaded }: DroopInputs, totalVolts: number) =>
  totalVolts <= TRUSTED_DROOP_FRACTION * unloaded.outputVolts;

const NO_DROOP: Droop = {
  capacitorVolts: 0,
  sourceVolts: 0,
  totalVolts: 0,
  sourceAngle: 0,
  reactive: null,
  rough: false,
};

function sourceDroop(ladder: DroopInputs, outputAmps: number): { volts: number; angle: number } | null {
  const { drive, stepVolts, strayFactor } = ladder;
  let volts = 0;
  let angle = 0;
  const ohms = drive.seriesOhms + ladder.diodeOhms;
  if (ohms === 0) return { volts, angle };
  for (const { positive, negative } of ladder.lightLoad.windingPulses) {
    if (hasFastEdges(drive)) {
      volts += outputAmps * ohms * (positive ** 2 / drive.duty + negative ** 2 / (1 - drive.duty));
      continue;
    }
    for (const pulse of [positive, negative]) {
      const half = pulseHalfAngle((Math.PI * pulse * outputAmps * ohms) / stepVolts);
      if (half === null) return null;
      volts += strayFactor * pulse * stepVolts * oneLessCosine(half);
      angle = Math.max(angle, half);
    }
  }
  return { volts, angle };
}

/**
 * Ripple at the ladder's terminal, peak to peak, the drive's own swing apart,
 * and the angle before the peak over which the capacitors charge.
 *
 * On a sine the light-load ripple less what the charging time takes from the
 * steady discharge: q (ripple - elastance t / 2 pi), where t is found from the
 * diodes that feed the output: V (1 - cos t) = q (jump - steady t / 2 pi).
 * Derived; within 1.7 % of integration up to 60 % droop for one diode, 0.6 %
 * for more. Behind a resistance the output is fed from further before the peak to
 * some time after it: one diode or a half-wave ladder within 2.1 %, one fed at both
 * peaks within 7 % to 30 % of droop and 19 % past it. On a square or pulse the
 * light-load ripple itself.
 *
 * @param outputAmps mean current between output and return, A, below the hard limit
 * @param sourceAngle half the angle that resistance alone spreads each pulse over, rad: see {@link droopAt}
 * @returns ripple in V and charging angle in rad, 0..pi
 */
export function rippleAt(
  ladder: RippleInputs,
  outputAmps: number,
  sourceAngle: number,
): { peakToPeakVolts: number; chargingAngle: number } {
  if (outputAmps === 0) return { peakToPeakVolts: 0, chargingAngle: 0 };
  const charge = outputAmps / ladder.drive.frequencyHertz;
  if (hasFastEdges(ladder.drive)) return { peakToPeakVolts: charge * ladder.lightLoad.ripple, chargingAngle: 0 };
  const feeding = ladder.feeding.filter(({ jump }) => jump > 0);
  const windows = PEAKS.map((peak) =>
    windowOf(
      feeding.filter((diode) => diode.peak === peak),
      charge,
      // What starts one after another already spreads over that time and more.
      ladder.turnOn.inTurn ? 0 : sourceAngle,
    ),
  );
  const angle = windowOf(feeding, charge, 0)?.start ?? 0;
  return {
    peakToPeakVolts: charge * Math.max(0, rippleWithin(windows, ladder.lightLoad.ripple, ladder.outputElastance)),
    chargingAngle: angle * ladder.turnOn.width,
  };
}

/**
 * Where a ladder's terminal turns in a period: about a part of it, from one to
 * another, and by how much; between turns it goes along a line. In parts of the
 * period, and V for each coulomb of load charge.
 */
export type TerminalTurn = { at: number; from: number; to: number; before: number; after: number };

/**
 * What a ladder's terminal does over a period with a load, by the light-load
 * bookkeeping: turns about either peak of a sine, over the time that
 * {@link rippleAt} has the output fed, or at either edge of a square.
 */
export function terminalTurns(ladder: RippleInputs, outputAmps: number, sourceAngle: number): TerminalTurn[] {
  const { drive, turnOn, lightLoad } = ladder;
  const fast = hasFastEdges(drive);
  const feeding = ladder.feeding.filter(({ jump }) => jump > 0);
  return PEAKS.map((peak, index) => {
    const own = feeding.filter((diode) => diode.peak === peak);
    const window = fast
      ? null
      : windowOf(own.length > 0 ? own : feeding, outputAmps / drive.frequencyHertz, turnOn.inTurn ? 0 : sourceAngle);
    const at = fast ? index * drive.duty : index / 2 + 1 / 4;
    const part = (angle: number) => at - angle / (2 * Math.PI);
    return { at, from: part(window?.start ?? 0), to: part(window?.end ?? 0), ...lightLoad.outputTurns[index] };
  });
}

const PEAKS = ['positive', 'negative'] as const;

/** About a peak: from where before it the diodes there feed the output to where it has risen as far as it will, rad, below zero after it; how far if at once, 1/F. */
type ChargingWindow = { start: number; end: number; rise: number };

/** Ripple in units of the charge, 1/F, with the output fed at one peak, or at both in turn. */
function rippleWithin(
  [positive, negative]: readonly (ChargingWindow | null)[],
  lightLoadRipple: number,
  elastance: number,
): number {
  const part = (angle: number) => angle / (2 * Math.PI);
  const [one, other] = [positive ?? negative, positive && negative];
  if (!one) return lightLoadRipple;
  if (!other) return lightLoadRipple - elastance * (part(one.start - one.end) - turningEarly(one, 1));
  // From the end of one rise to the start of the next, up again, and down to where the first begins.
  const low = -elastance * (1 / 2 - part(other.start) + part(one.end));
  const high = low + other.rise - elastance * part(other.start - other.end);
  const lowest = Math.min(low, high - elastance * (1 / 2 - part(one.start) + part(other.end)));
  const early = (turningEarly(one, 1 / 2) + turningEarly(other, 1 / 2)) / 2;
  return Math.max(0, high) - lowest + elastance * early;
}

/**
 * Behind a resistance a pulse begins and ends below the load's current, so that
 * the output turns within it: of a parabola as wide as the part m of the time it
 * has, (1 - 2 m / 3)^1.5 is over that current, where 1 - m was counted. As much
 * of that as the pulse lies evenly about its peak.
 *
 * @param share of the cycle that its pulse has, 1 or half
 */
function turningEarly({ start, end }: ChargingWindow, share: number): number {
  const after = Math.max(0, -end);
  if (!(after > 0)) return 0;
  const wide = Math.min(1, (start + after) / (2 * Math.PI * share));
  return share * Math.min(1, after / start) * ((1 - (2 * wide) / 3) ** 1.5 - (1 - wide));
}

/**
 * Means over the diodes that feed the output at a peak; null where none does.
 * Behind a resistance what feeds them falls short of the peak: by the root of the
 * sum of squares of what that takes and what the capacitors take on the mean, as
 * their droops join, so that they start earlier and stop after it.
 */
function windowOf(feeding: readonly FeedingDiode[], charge: number, sourceAngle: number): ChargingWindow | null {
  if (feeding.length === 0) return null;
  const mean = (angleOf: (diode: FeedingDiode) => number) =>
    feeding.reduce((sum, diode) => sum + angleOf(diode), 0) / feeding.length;
  const shortOf = ({ volts, jump }: FeedingDiode) => {
    const half = (charge * jump) / 2;
    return Math.hypot(half, volts * oneLessCosine(sourceAngle)) - half;
  };
  return {
    start: mean((diode) => angleAt(diode.volts, charge * diode.jump + shortOf(diode), charge * diode.steady)),
    end: mean((diode) => angleAt(diode.volts, charge * diode.until, 0) - angleAt(diode.volts, shortOf(diode), 0)),
    rise: mean(({ rise }) => rise),
  };
}

/** Solves volts (1 - cos t) = jump - steady t / 2 pi for t in [0, pi]. */
function angleAt(volts: number, jump: number, steady: number): number {
  if (jump === 0) return 0;
  let low = 0;
  let high = Math.PI;
  for (let step = 0; step < 50; step += 1) {
    const angle = (low + high) / 2;
    if (volts * oneLessCosine(angle) < jump - (steady * angle) / (2 * Math.PI)) low = angle;
    else high = angle;
  }
  return (low + high) / 2;
}

/** Greatest output current at which the closed form is trusted, A: two thirds of no-load lost, or the hard limit. */
export function closedFormAmps(ladder: LoadedLadder): number {
  const light = (ladder.unloaded.outputVolts * ladder.drive.frequencyHertz) / (ladder.lightLoad.droop * 0.5);
  let low = 0;
  let high = Math.min(ladder.hardLimitAmps, light);
  // Where strays leave nothing of the drive at the top, what limits there is rounding.
  if (!(high > ROUNDING * light)) return 0;
  for (let step = 0; step < 50; step += 1) {
    const middle = (low + high) / 2;
    if (droopAt(ladder, middle) === null) high = middle;
    else low = middle;
  }
  return low;
}
