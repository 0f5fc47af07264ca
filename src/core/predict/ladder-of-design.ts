import type { Design } from '../design/design-schema';
import { driveOf } from '../drive/drive';
import { halfWaveNetwork } from '../ladder/half-wave';
import { loadedLadder, type LoadedLadder } from '../ladder/loaded';

/** The loaded ladder a design describes, optionally with another stage count. */
export function ladderOfDesign(design: Design, stages = design.ladder.stages): LoadedLadder {
  const { capacitor, diode, strayFarads } = design.ladder;
  return loadedLadder(halfWaveNetwork(stages, capacitor.farads), driveOf(design), {
    forwardVolts: diode.forwardVolts,
    strayFarads: strayFarads + diode.junctionFarads,
  });
}
