import { hasFastEdges, type Drive } from '../drive/drive';
import type { LightLoad } from './charge-bookkeeping';
import type { PulseShape } from './pulse-shape';
import { ReactivePulses } from './reactive-pulse';

/** What of a loaded ladder it is calculated from. */
type ReactiveInputs = {
  drive: Drive;
  stepVolts: number;
  strayFactor: number;
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

/** Pulses of each ladder behind the source it was last asked for. */
const pulsesOf = new WeakMap<object, { source: readonly number[]; pulses: ReactivePulses | null }>();

/** The pulses of a ladder through its source; null where no reactance shapes them. */
export function reactivePulses({
  drive,
  lightLoad,
}: Pick<ReactiveInputs, 'drive' | 'lightLoad'>): ReactivePulses | null {
  if (!isReactive(drive)) return null;
  const source = [drive.frequencyHertz, drive.seriesOhms, drive.seriesHenries];
  const kept = pulsesOf.get(lightLoad);
  if (kept?.source.every((value, at) => value === source[at])) return kept.pulses;
  const ohms = reactanceOhms(drive);
  const squares = lightLoad.windingPulses.reduce(
    (sum, { positive, negative }) => sum + positive ** 2 + negative ** 2,
    0,
  );
  const stiffness = (2 * lightLoad.droop) / squares / (2 * Math.PI * drive.frequencyHertz * ohms);
  const pulses = stiffness <= FASTEST ? new ReactivePulses({ damping: drive.seriesOhms / ohms, stiffness }) : null;
  pulsesOf.set(lightLoad, { source, pulses });
  return pulses;
}

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
 * @param family pulses of the same ladder
 * @param lightLoadVolts droop by the capacitors, V
 * @returns null where the pulses are too strong for it: the engine answers
 */
export function reactiveLoss(
  { drive, stepVolts, strayFactor, lightLoad, unloaded }: ReactiveInputs,
  family: ReactivePulses,
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
  for (const pulse of pulses) {
    const endLevel = family.endLevel(chargeOf(pulse));
    if (endLevel === null) return null;
    sourceVolts += strayFactor * pulse * stepVolts * (1 - endLevel);
  }
  return {
    sourceVolts,
    reactive: { shape: () => family.shape(chargeOf(strongest)) },
    rough: light > ROUGH_DROOP || strength > ROUGH_STRENGTH,
  };
}
