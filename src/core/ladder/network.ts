/** A column of a ladder; the source and ground are the feet the columns stand on. */
type Column = 'ground' | 'source' | 'oscillating' | 'smoothing';

export type LadderNode = { id: string; column: Column; stage: number };

/** `lower` is the plate nearer the foot; `upper` stands higher by the working voltage. */
export type LadderCapacitor = {
  id: string;
  column: 'oscillating' | 'smoothing';
  stage: number;
  lower: string;
  upper: string;
  farads: number;
};

export type LadderDiode = { id: string; stage: number; anode: string; cathode: string };

/**
 * A ladder as a network of elements. Closed form, picture and parts list all
 * read it; none of them knows a topology. The diodes form one chain from the
 * first node to the output, in order.
 */
export type LadderNetwork = {
  nodes: LadderNode[];
  capacitors: LadderCapacitor[];
  diodes: LadderDiode[];
  output: string;
};
