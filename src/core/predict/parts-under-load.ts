import type { Design } from '../design/design-schema';
import type { LoadedLadder } from '../ladder/loaded';
import { eachFarads, standingIn } from '../topology/network';
import { capacitorHeat, diodeHeat } from '../stress/heat';
import { marginOf } from '../quantity/margin';
import { partCurrents } from '../stress/part-currents';
import { transitOf } from '../stress/recovery';
import type { OperatingPoint } from '../operating/operating-point';
import type { CapacitorPrediction, DiodePrediction } from './prediction';

/**
 * Every capacitor and diode of a ladder: what each must stand without load, what
 * it carries and how it heats at the load.
 *
 * @param scale mean droop for each 1/F of light-load droop, V F; null where the closed form does not hold
 */
export function partsUnderLoad(
  design: Design,
  { atFullDrive, ladder, point, demand, inputs }: OperatingPoint,
  scale: number | null,
): { capacitors: CapacitorPrediction[]; diodes: DiodePrediction[] } {
  const { unloaded, network } = atFullDrive;
  const { parts, marked } = inputs;
  const { capacitor, diode } = design.ladder;
  const { frequencyHertz } = ladder.drive;
  const currents = point
    ? partCurrents(ladder, point.ladderAmps, point.droop, demand?.amps ?? null, transitOf(diode.recoverySeconds))
    : null;
  const capacitors = network.capacitors.map((part, index) => {
    const rmsAmps = currents && currents.capacitors[index];
    const loadedMeanVolts =
      scale === null ? null : ladder.unloaded.capacitorVolts[index] - scale * ladder.lightLoad.capacitorDroops[index];
    // A ladder that a rectifier feeds holds its peak the other way round; beside an idle diode a load may raise one.
    const workingVolts = Math.max(Math.abs(unloaded.capacitorVolts[index]), loadedMeanVolts ?? 0);
    const heat = capacitorHeat(capacitor, parts.capacitor, eachFarads(part), rmsAmps, frequencyHertz);
    return {
      id: part.id,
      column: part.column,
      stage: part.stage,
      side: part.side,
      lower: part.lower,
      upper: part.upper,
      farads: eachFarads(marked.capacitors[index]),
      count: standingIn(part),
      biasedFarads: eachFarads(part),
      ripplePeakToPeakVolts: point ? rippleAcross(ladder, index, point.ladderAmps) : null,
      rmsAmps,
      lossWatts: heat && heat.watts,
      temperatureRiseKelvin: heat && heat.temperatureRiseKelvin,
      workingVolts,
      loadedMeanVolts,
      ratedVolts: parts.capacitor.ratedVolts,
      margin: marginOf(parts.capacitor.ratedVolts, workingVolts),
    };
  });
  const diodes = network.diodes.map((part, index) => {
    const current = currents && currents.diodes[index];
    const heat = current && diodeHeat(diode, current, frequencyHertz);
    return {
      ...part,
      reverseVolts: unloaded.reverseVolts[index],
      ratedVolts: parts.diode.peakInverseVolts,
      averageAmps: point ? point.ladderAmps * ladder.lightLoad.diodeCharges[index] : null,
      rmsAmps: current && current.rmsAmps,
      watts: heat && heat.watts,
      recoveryWatts: heat && heat.recoveryWatts,
      margin: marginOf(parts.diode.peakInverseVolts, unloaded.reverseVolts[index]),
    };
  });
  return { capacitors, diodes };
}

/** What alternates across one capacitor, peak to peak, V: the charges of a cycle and what strays take of its swing. */
function rippleAcross({ network, lightLoad, unloaded, drive }: LoadedLadder, index: number, amps: number): number {
  const { upper, lower } = network.capacitors[index];
  const across = Object.values(lightLoad.instants).map((at) => at.get(upper)! - at.get(lower)!);
  const swing = Math.abs(unloaded.nodeSwings.get(upper)! - unloaded.nodeSwings.get(lower)!);
  return (amps / drive.frequencyHertz) * (Math.max(...across) - Math.min(...across)) + 2 * swing;
}
