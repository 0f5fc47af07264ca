import { amplitudeVolts, type Drive } from '../drive/drive';
import { lightLoadBookkeeping, type LightLoad } from './charge-bookkeeping';
import type { LadderNetwork } from './network';
import { unloadedLadder, type UnloadedLadder } from './unloaded';

/** How a ladder droops at one output current; every voltage in V. */
export type Droop = {
  /** Loss of mean output that the capacitors alone would cause. */
  capacitorVolts: number;
  /** Loss of mean output that the source's resistance alone would cause. */
  sourceVolts: number;
  /** Both together: their root sum of squares. */
  totalVolts: number;
  /** Half the angle over which the source's resistance spreads each charging pulse, rad. */
  sourceAngle: number;
};

/** A ladder on its drive, ready to be asked what it does at any output current. */
export type LoadedLadder = {
  network: LadderNetwork;
  drive: Drive;
  forwardVolts: number;
  lightLoad: LightLoad;
  unloaded: UnloadedLadder;
  /** Peak of the drive less one diode drop, V; zero if the diodes take it all. */
  stepVolts: number;
  /** Part of the ideal no-load output that strays leave, 0..1. */
  strayFactor: number;
  /** Output current past which the charging angle is half a period: no closed form holds, A. */
  hardLimitAmps: number;
  /** Output current past which the first coupling capacitor cannot carry the charge, whatever the output, A; Infinity without one. */
  chargeLimitAmps: number;
};

/** Part of the no-load output that may droop before the closed form is no longer trusted. */
const TRUSTED_DROOP_FRACTION = 2 / 3;

/**
 * How far wide charging pulses lift the mean, in units of V x^1.5, by the
 * number of diodes. Measured here by integrating ideal ladders at x = 0.3; the
 * mean is then right within 0.3 % of no-load up to x = 0.6.
 */
const PULSE_WIDTH_LIFT: readonly number[] = [0, 0.406, 0.327, 0.406, 0.348, 0.36, 0.33, 0.327, 0.311, 0.305, 0.295];
const PULSE_WIDTH_LIFT_TALL = 0.275;

/**
 * A ladder put on its drive.
 *
 * @param network of two columns, its diodes one chain from the foot to the output
 * @param drive sine; peaks V, frequency Hz and resistance Ω
 * @param diode forward drop of one diode, V, and the stray capacitance across
 *   it, junction and wiring together, F
 * @returns limits in A and the no-load state in V; see the fields. Valid range
 *   of each figure: `droopAt`, `rippleAt`. Hard limit 2 V f C / (n (n + 1/2))
 *   for equal capacitors: derived
 */
export function loadedLadder(
  network: LadderNetwork,
  drive: Drive,
  diode: { forwardVolts: number; strayFarads: number },
): LoadedLadder {
  const lightLoad = lightLoadBookkeeping(network);
  const unloaded = unloadedLadder(network, drive, diode.strayFarads, diode.forwardVolts);
  const stepVolts = Math.max(0, amplitudeVolts(drive) - diode.forwardVolts);
  const ideal = idealVolts(network, drive, diode.forwardVolts);
  const coupling = network.capacitors.find((part) => part.column === 'oscillating');
  const couplingMultiple = network.capacitors.filter((part) => part.column === 'oscillating').length;
  return {
    network,
    drive,
    forwardVolts: diode.forwardVolts,
    lightLoad,
    unloaded,
    stepVolts,
    strayFactor: ideal > 0 ? unloaded.outputVolts / ideal : 0,
    hardLimitAmps:
      (2 * stepVolts * drive.frequencyHertz) /
      (lightLoad.oscillatingSwing + lightLoad.ripple - lightLoad.smoothingElastance / 2),
    chargeLimitAmps: coupling
      ? ((drive.positivePeakVolts + drive.negativePeakVolts) * drive.frequencyHertz * coupling.farads) /
        couplingMultiple
      : Infinity,
  };
}

/**
 * No-load output without strays, V: each diode adds half the drive's peak to
 * peak less its drop; a half stage at the foot starts from the positive peak.
 * Never below zero. Handbook formula.
 */
export function idealVolts(network: LadderNetwork, drive: Drive, forwardVolts: number): number {
  const startsAtSource = network.diodes[0].anode === 'source';
  const offset = startsAtSource ? (drive.positivePeakVolts - drive.negativePeakVolts) / 2 : 0;
  return Math.max(0, network.diodes.length * Math.max(0, amplitudeVolts(drive) - forwardVolts) + offset);
}

/**
 * Droop of the mean output at an output current, or null where the closed form
 * does not hold.
 *
 * Light load: R_out q by charge bookkeeping. Wide pulses give back kappa V
 * x^1.5 (fitted, see PULSE_WIDTH_LIFT). Source resistance: with nu charges q in
 * each winding pulse, sin t - t cos t = pi nu I Rs / V, and no-load times
 * (1 - cos t) is lost. Both join as the root of the sum of squares: -5 % to
 * +6.5 % of the droop against integration, up to two thirds droop. Strays
 * scale the whole.
 *
 * @param outputAmps mean current out of the ladder's terminal, zero or more
 */
export function droopAt(ladder: LoadedLadder, outputAmps: number): Droop | null {
  if (outputAmps === 0) return { capacitorVolts: 0, sourceVolts: 0, totalVolts: 0, sourceAngle: 0 };
  const { drive, stepVolts, network, strayFactor, lightLoad } = ladder;
  if (!(stepVolts > 0) || !(outputAmps < ladder.hardLimitAmps)) return null;
  const diodeCount = network.diodes.length;
  const idealNoLoad = diodeCount * stepVolts;
  const charge = outputAmps / drive.frequencyHertz;
  const lightLoadFraction = (charge * lightLoad.droop) / idealNoLoad;
  const lift = (PULSE_WIDTH_LIFT[diodeCount] ?? PULSE_WIDTH_LIFT_TALL) * stepVolts * lightLoadFraction ** 1.5;
  const capacitorVolts = strayFactor * (charge * lightLoad.droop - lift);
  const sourceAngle = pulseHalfAngle((Math.PI * (diodeCount / 2) * outputAmps * drive.seriesOhms) / stepVolts);
  if (sourceAngle === null) return null;
  const sourceVolts = strayFactor * idealNoLoad * oneLessCosine(sourceAngle);
  const totalVolts = Math.hypot(capacitorVolts, sourceVolts);
  if (totalVolts > TRUSTED_DROOP_FRACTION * ladder.unloaded.outputVolts) return null;
  return { capacitorVolts, sourceVolts, totalVolts, sourceAngle };
}

/**
 * Ripple at the ladder's terminal, peak to peak, and the angle before the peak
 * over which the capacitors charge.
 *
 * The light-load ripple less what the charging time takes from the steady
 * discharge: q (ripple - elastance t / 2 pi), with
 * cos t = 1 - (q/V)(swing + ripple - elastance t / 2 pi). Derived; within
 * 1.7 % of integration up to 60 % droop for one diode, 0.6 % for more.
 *
 * @param outputAmps mean current out of the terminal, A, below the hard limit
 * @returns ripple in V and charging angle in rad, 0..pi
 */
export function rippleAt(ladder: LoadedLadder, outputAmps: number): { peakToPeakVolts: number; chargingAngle: number } {
  if (outputAmps === 0) return { peakToPeakVolts: 0, chargingAngle: 0 };
  const charge = outputAmps / ladder.drive.frequencyHertz;
  const angle = chargingAngle(ladder, charge);
  const { ripple, smoothingElastance } = ladder.lightLoad;
  return {
    peakToPeakVolts: charge * (ripple - (smoothingElastance * angle) / (2 * Math.PI)),
    chargingAngle: angle,
  };
}

function chargingAngle(ladder: LoadedLadder, charge: number): number {
  const { oscillatingSwing, ripple, smoothingElastance } = ladder.lightLoad;
  let low = 0;
  let high = Math.PI;
  for (let step = 0; step < 50; step += 1) {
    const angle = (low + high) / 2;
    const wanted =
      (charge / ladder.stepVolts) * (oscillatingSwing + ripple - (smoothingElastance * angle) / (2 * Math.PI));
    if (oneLessCosine(angle) < wanted) low = angle;
    else high = angle;
  }
  return (low + high) / 2;
}

/** 1 - cos t without the loss of digits at small angles. */
function oneLessCosine(angle: number): number {
  return 2 * Math.sin(angle / 2) ** 2;
}

/** Solves sin t - t cos t = drive for t in [0, pi/2], or null when no such pulse delivers the charge. */
function pulseHalfAngle(pulse: number): number | null {
  if (pulse === 0) return 0;
  if (pulse >= 1) return null;
  // sin t - t cos t = t^3 / 3 to 1e-5 here, where the difference itself would lose its digits.
  if (pulse < 1e-7) return Math.cbrt(3 * pulse);
  let angle = Math.min(Math.PI / 2, Math.cbrt(3 * pulse));
  for (let step = 0; step < 12; step += 1) {
    const correction = (Math.sin(angle) - angle * Math.cos(angle) - pulse) / (angle * Math.sin(angle));
    angle = Math.min(Math.PI / 2, Math.max(angle / 4, angle - correction));
    if (Math.abs(correction) < 1e-14) break;
  }
  return angle;
}

/** Greatest output current at which the closed form is trusted, A: two thirds of no-load lost, or the hard limit. */
export function closedFormAmps(ladder: LoadedLadder): number {
  let low = 0;
  let high = ladder.hardLimitAmps;
  if (!(high > 0)) return 0;
  for (let step = 0; step < 50; step += 1) {
    const middle = (low + high) / 2;
    if (droopAt(ladder, middle) === null) high = middle;
    else low = middle;
  }
  return low;
}
