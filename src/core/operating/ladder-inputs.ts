import type { Design } from '../design/design-schema';
import { ladderParts, type LadderParts } from '../parts/bank';
import type { Polarity } from '../quantity/polarity';
import { gradedNetwork } from '../topology/grading';
import type { LadderNetwork, Topology } from '../topology/network';
import { TOPOLOGY_KINDS } from '../topology/topologies';

/** What a design says of its ladder, as closed form, time domain and parts list all take it. */
export type LadderInputs = {
  /** With its graded or listed capacitances as they are marked. */
  marked: LadderNetwork;
  /** The part, string or bank in each place as a whole. */
  parts: LadderParts;
  /** Junction and wiring capacitance across each diode, F. */
  strayFarads: number;
};

/** The inputs of a design's ladder, assembled in this one place. */
export function ladderInputs({ ladder }: Pick<Design, 'ladder'>): LadderInputs {
  const parts = ladderParts(ladder);
  return {
    marked: gradedNetwork(
      TOPOLOGY_KINDS[ladder.topology].build(ladder.stages, parts.capacitor.farads),
      ladder.grading,
      ladder.capacitorFarads,
    ),
    parts,
    strayFarads: ladder.strayFarads + parts.diode.junctionFarads,
  };
}

/** Whether the design's topology has one form, whatever its stage count. */
export function hasOneForm(design: Design): boolean {
  return TOPOLOGY_KINDS[design.ladder.topology].stages === 'fixed';
}

/** Whether a rectifier inside the transformer starves a ladder that lives on alternating voltage. */
export const isStarved = (transformer: Design['transformer'], topology: Topology): boolean =>
  transformer !== null && transformer.rectifierInside && !TOPOLOGY_KINDS[topology].takesPulses;

export function polarityOf(design: Design): Polarity {
  return design.ladder.polarity;
}

/** Whether the design is the mirror of the positive ladder that its network describes; one that climbs both ways is its own. */
export const isMirrored = (design: Design, { return: other }: Pick<LadderNetwork, 'return'>): boolean =>
  polarityOf(design) === 'negative' && other === 'ground';
