import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { NEEDS } from '../design/driver-schema';
import { mirroredDrive, type Drive } from '../drive/drive';
import { makeDrive } from '../drive/make-drive';
import type { Made } from '../drive/made';
import { capacitiveNetwork, capacitiveResponse, inputFarads } from '../ladder/capacitive';
import { gradedNetwork } from '../ladder/grading';
import { loadedLadder, type LoadedLadder } from '../ladder/loaded';
import type { LadderNetwork } from '../ladder/network';
import { TOPOLOGY_KINDS } from '../ladder/topologies';
import type { Polarity } from './prediction';

/** The network a design describes, with its graded or listed capacitances. */
function networkOfDesign(design: Design): LadderNetwork {
  const { topology, stages, capacitor, grading, capacitorFarads } = design.ladder;
  return gradedNetwork(TOPOLOGY_KINDS[topology].build(stages, capacitor.farads), grading, capacitorFarads);
}

/** Whether the design's topology has one form, whatever its stage count. */
export function hasOneForm(design: Design): boolean {
  return TOPOLOGY_KINDS[design.ladder.topology].stages === 'fixed';
}

export function polarityOf(design: Design): Polarity {
  return design.target?.polarity ?? 'positive';
}

/**
 * The drive as the positive ladder that stands for this design sees it: a
 * negative ladder is the mirror of a positive one, so its drive is mirrored.
 * A ladder that climbs both ways is its own mirror.
 */
function driveOnLadder(design: Design, network: LadderNetwork): Drive {
  const { drive } = sourceOf(design, network, null, true);
  return polarityOf(design) === 'negative' && network.return === 'ground' ? mirroredDrive(drive) : drive;
}

/** What supply, driver and transformer make of this design's ladder, and what they stand, at a power that it takes, W. */
function sourceOf(design: Design, network: LadderNetwork, ladderWatts: number | null, driveOnly = false): Made {
  return makeDrive(design, {
    ladderFarads: NEEDS[design.driver.kind].foot ? footFarads(design, network) : 0,
    ladderWatts,
    driveOnly,
  });
}

/** Capacitance at the ladder's foot between its charging pulses, both ends of the winding together, F. */
function footFarads(design: Design, network: LadderNetwork): number {
  const strayFarads = strayFaradsOf(design);
  const { swings } = capacitiveResponse(network, capacitiveNetwork(network, strayFarads), strayFarads);
  return inputFarads(network, strayFarads, swings).reduce((sum, farads) => sum + farads, 0);
}

/** The drive a design gives its ladder, in its own polarity and without load. */
export function driveOf(design: Design): Drive {
  return sourceOf(design, networkOfDesign(design), null, true).drive;
}

/** The whole way from the supply to the ladder's foot, with a ladder that takes this much power, W. */
export function sourceOfDesign(design: Design, ladderWatts: number | null): Made {
  return sourceOf(design, networkOfDesign(design), ladderWatts);
}

/** Junction and wiring capacitance across each diode, F. */
export function strayFaradsOf(design: Design): number {
  return design.ladder.strayFarads + design.ladder.diode.junctionFarads;
}

/** The loaded ladder a design describes, optionally with another stage count. */
export function ladderOfDesign(design: Design, stages = design.ladder.stages): LoadedLadder {
  const asked =
    stages === design.ladder.stages ? design : changeDesign(design, { path: '$.ladder.stages', value: stages });
  const network = networkOfDesign(asked);
  return loadedLadder(network, driveOnLadder(design, network), {
    forwardVolts: design.ladder.diode.forwardVolts,
    strayFarads: strayFaradsOf(design),
  });
}
