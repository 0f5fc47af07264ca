import { hasFastEdges, type Drive } from '../drive/drive';
import type { LightLoad } from './charge-bookkeeping';
import type { PulseShape } from './pulse-shape';
import { LEAST_STIFFNESS, reactivePulse, ReactivePulses, type PulsePath } from './reactive-pulse';

/** What of a loaded ladder it is calculated from. */
type ReactiveInputs = {
  drive: Drive;
  stepVolts: number;
  strayFactor: number;
  /** What the diodes' on-resistance comes to in series with each winding, Ω. */
  diodeOhms: number;
  lightLoad: Pick<LightLoad, 'droop'> & { windingPulses: Readonly<LightLoad['windingPulses']> };
  unloaded: { outputVolts: number };
};

/** What a source with reactance does to a ladder at one current. */
export type ReactiveLoss = {
  /** V, below zero where it adds. */
  sourceVolts: number;
  /** The form of the greatest pulse, worked out when asked for. */
  reactive: { shape: () => PulseShape };
  /** Whether it is right within some per cent only. */
  rough: boolean;
};

/** Resistance over reactance, and square of ringing over drive, past which the reactance no longer shapes the pulses. */
const DAMPED = 40;
const FASTEST = 400;

const reactanceOhms = ({ frequencyHertz, seriesHenries }: Drive) => 2 * Math.PI * frequencyHertz * seriesHenries;

/** Whether the source's reactance shapes the pulses; behind a square it is left to the time domain. */
export const isReactive = (drive: Drive) => !hasFastEdges(drive) && drive.seriesOhms < DAMPED * reactanceOhms(drive);

/** The path of a ladder's pulses through its source and diodes; null where no reactance shapes them. */
export function reactivePath({
  drive,
  lightLoad,
  diodeOhms,
}: Pick<ReactiveInputs, 'drive' | 'lightLoad' | 'diodeOhms'>): PulsePath | null {
  if (!isReactive(drive)) return null;
  const ohms = reactanceOhms(drive);
  let squares = 0;
  for (const { positive, negative } of lightLoad.windingPulses) squares += positive ** 2 + negative ** 2;
  const stiffness = (2 * lightLoad.droop) / squares / (2 * Math.PI * drive.frequencyHertz * ohms);
  return stiffness <= FASTEST ? { damping: (drive.seriesOhms + diodeOhms) / ohms, stiffness } : null;
}

/** Paths at which pulses are worked out, by the logarithm of stiffness and, from its least, of damping: steps of each. */
const STIFFNESS_STEP = Math.LN2 / 8;
const DAMPING_STEP = 0.15;
const LEAST_DAMPING = 0.05;
/** Paths kept at most; there are fewer for any one design and its tolerances. */
const MOST_PATHS = 4000;
const worked = new Map<number, ReactivePulses>();

function workedAt(row: number, column: number): ReactivePulses {
  const key = row * 1000 + column;
  let found = worked.get(key);
  if (!found) {
    if (worked.size >= MOST_PATHS) worked.clear();
    found = new ReactivePulses({
      stiffness: LEAST_STIFFNESS * Math.exp(row * STIFFNESS_STEP),
      damping: LEAST_DAMPING * (Math.exp(column * DAMPING_STEP) - 1),
    });
    worked.set(key, found);
  }
  return found;
}

/**
 * Where a pulse ends, from those through the four nearest paths worked out, for
 * all ladders together: searches and tolerances ask for many paths. Within 0.3 %
 * of the peak.
 */
export function pulseEnd({ damping, stiffness }: PulsePath, charge: number): number | null {
  const at = Math.log(Math.max(1, stiffness / LEAST_STIFFNESS)) / STIFFNESS_STEP;
  const across = Math.log(1 + damping / LEAST_DAMPING) / DAMPING_STEP;
  const [row, column] = [Math.floor(at), Math.floor(across)];
  const [up, right] = [at - row, across - column];
  let end = 0;
  for (let corner = 0; corner < 4; corner += 1) {
    const [above, beside] = [corner >> 1, corner & 1];
    const weight = (above ? up : 1 - up) * (beside ? right : 1 - right);
    if (weight === 0) continue;
    const level = workedAt(row + above, column + beside).endLevel(charge);
    if (level === null) return null;
    end += weight * level;
  }
  return end;
}

/** Of a pulse at the very end of what a path carries, which the exact path may just not. */
const NO_SHAPE: PulseShape = { square: 0, endSlope: 0 };

/** Light-load droop, as a fraction of no load, from which reactance leaves the estimate rough, and past which there is none. */
const ROUGH_DROOP = 0.08;
const BEYOND_DROOP = 0.4;
/** The same for reactance times a pulse's mean current over the peak. */
const ROUGH_STRENGTH = 0.025;
const BEYOND_STRENGTH = 0.15;

/**
 * What a source with resistance and reactance takes off the mean output, or adds
 * to it.
 *
 * Each winding pulse is that of a resonant circuit of the source and the
 * capacitance that the foot shows to pulses, sum nu^2 / (2 droop) from the
 * bookkeeping; the ladder keeps what it ends under, or over, the peak. Derived;
 * against the engine on nine ladders within 1.6 % of no load where it is not
 * rough, elsewhere within 8 % (`reactive-pulse.test.ts`, docs/physics.md).
 *
 * @param path of the same ladder
 * @param lightLoadVolts droop by the capacitors, V
 * @returns null where the pulses are too strong for it: the engine answers
 */
export function reactiveLoss(
  { drive, stepVolts, strayFactor, lightLoad, unloaded }: ReactiveInputs,
  path: PulsePath,
  outputAmps: number,
  lightLoadVolts: number,
): ReactiveLoss | null {
  const ohms = reactanceOhms(drive);
  const pulses = lightLoad.windingPulses.flatMap(({ positive, negative }) => [positive, negative]);
  const strongest = Math.max(...pulses);
  const light = lightLoadVolts / unloaded.outputVolts;
  const strength = (strongest * outputAmps * ohms) / stepVolts;
  if (!(light <= BEYOND_DROOP && strength <= BEYOND_STRENGTH)) return null;
  const chargeOf = (pulse: number) => (2 * Math.PI * pulse * outputAmps * ohms) / stepVolts;
  let sourceVolts = 0;
  let before: number | null = null;
  let endLevel: number | null = 1;
  for (const pulse of pulses) {
    // Most ladders take the same at either peak.
    if (pulse !== before) endLevel = pulseEnd(path, chargeOf(pulse));
    before = pulse;
    if (endLevel === null) return null;
    sourceVolts += strayFactor * pulse * stepVolts * (1 - endLevel);
  }
  return {
    sourceVolts,
    reactive: { shape: () => reactivePulse(chargeOf(strongest), path)?.shape() ?? NO_SHAPE },
    rough: light > ROUGH_DROOP || strength > ROUGH_STRENGTH,
  };
}
