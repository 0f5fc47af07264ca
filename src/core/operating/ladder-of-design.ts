import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { mirroredDrive, type Drive } from '../drive/drive';
import { makeDrive } from '../drive/make-drive';
import type { Made } from '../drive/drive-result';
import { capacitiveNetwork, capacitiveResponse, inputFarads } from '../ladder/capacitive';
import { biasedNetwork } from '../ladder/bias';
import { gradedNetwork } from '../topology/grading';
import { loadedOn, type LoadedLadder } from '../ladder/loaded';
import type { LadderNetwork } from '../topology/network';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { risen } from '../ladder/unloaded';
import { ladderParts } from '../stress/strings';
import type { Polarity } from '../predict/prediction';

/** The network a design describes, with its graded or listed capacitances as they are marked. */
export function networkOfDesign(design: Design): LadderNetwork {
  const { topology, stages, grading, capacitorFarads } = design.ladder;
  const { farads } = ladderParts(design.ladder).capacitor;
  return gradedNetwork(TOPOLOGY_KINDS[topology].build(stages, farads), grading, capacitorFarads);
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
export function onLadder(design: Design, network: Pick<LadderNetwork, 'return'>, drive: Drive): Drive {
  return polarityOf(design) === 'negative' && network.return === 'ground' ? mirroredDrive(drive) : drive;
}

/** The drive a design gives its ladder, in its own polarity and without load. */
export function driveOf(design: Design): Drive {
  return sourceOf(design, ladderOfDesign(design), null, 1).drive;
}

/**
 * The whole way from the supply to the ladder's foot, with the design's ladder
 * taking this much power, W, and leaving this part of the peaks.
 */
export function sourceOf(design: Design, ladder: LoadedLadder, ladderWatts: number | null, level: number): Made {
  return makeDrive(design, { ladderFarads: footFarads(ladder), ladderWatts, level });
}

/** What the ladder's foot shows beside the charge it takes, over all windings, F. */
export const footFarads = (ladder: LoadedLadder) => total(ladder.inputFarads);

const total = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0);

/** Junction and wiring capacitance across each diode, F. */
export function strayFaradsOf(design: Design): number {
  return design.ladder.strayFarads + ladderParts(design.ladder).diode.junctionFarads;
}

/**
 * The loaded ladder a design describes, optionally with another stage count:
 * its capacitances are those left at their voltages without load.
 */
export function ladderOfDesign(design: Design, stages = design.ladder.stages): LoadedLadder {
  const asked =
    stages === design.ladder.stages ? design : changeDesign(design, { path: '$.ladder.stages', value: stages });
  const marked = onItsDrive(design, networkOfDesign(asked));
  const { keptAtRating, ratedVolts, series } = design.ladder.capacitor;
  const charged =
    keptAtRating === null || ratedVolts === null
      ? marked
      : onItsDrive(design, biasedNetwork(marked.network, noLoadVolts(marked), { series, ratedVolts, keptAtRating }));
  const { network, drive, diode, capacitive, response } = charged;
  return loadedOn(network, drive, diode, capacitive, response);
}

/** A network with what its capacitances make of the design's drive. */
function onItsDrive(design: Design, network: LadderNetwork) {
  const strayFarads = strayFaradsOf(design);
  const capacitive = capacitiveNetwork(network, strayFarads);
  const response = capacitiveResponse(network, capacitive, strayFarads);
  const ladderFarads = total(inputFarads(network, strayFarads, response.swings));
  const { drive } = makeDrive(design, { ladderFarads, ladderWatts: null, level: 1, driveOnly: true });
  const { forwardVolts } = ladderParts(design.ladder).diode;
  return {
    network,
    drive: onLadder(design, network, drive),
    diode: { forwardVolts, strayFarads },
    capacitive,
    response,
  };
}

/** Across each capacitor without load, V. */
function noLoadVolts({ network, drive, diode, capacitive, response }: ReturnType<typeof onItsDrive>): number[] {
  return risen(network, drive, diode.forwardVolts, capacitive, response).capacitorVolts;
}
