/** How a ladder is built; each has one file beside this one. */
export const TOPOLOGIES = [
  'none',
  'rectifier',
  'clamp',
  'half-wave',
  'bridge-doubler',
  'full-wave',
  'bipolar',
  'two-ended',
] as const;
export type Topology = (typeof TOPOLOGIES)[number];

/** A column of parts; `antiphase` is the second oscillating column of a full-wave ladder. */
export type PartColumn = 'oscillating' | 'smoothing' | 'antiphase';
/** A column of a ladder; the sources and ground are the feet the columns stand on. */
export type Column = 'ground' | 'source' | PartColumn;
/** 1 above ground, -1 on the side of a two-sided ladder that climbs below it. */
export type Side = 1 | -1;

export type LadderNode = { id: string; column: Column; stage: number; side: Side };

/** `upper` stands higher in potential than `lower` by the working voltage; on the lower side it is the plate nearer ground. */
export type LadderCapacitor = {
  id: string;
  column: PartColumn;
  stage: number;
  side: Side;
  lower: string;
  upper: string;
  farads: number;
  /** Whether it stands for two alike in series, one at each end of the winding. */
  atBothEnds?: true;
};

export type LadderDiode = { id: string; stage: number; side: Side; anode: string; cathode: string };

/** A winding end: its node follows the drive times `sign`; -1 is the other half of a centre-tapped winding. */
type LadderSource = { node: string; sign: 1 | -1 };

/**
 * A ladder as a network of elements, for a positive output. Closed form,
 * engine, picture and parts list all read it; none of them knows a topology.
 * Nodes stand in the order in which diodes feed them, from the foot outwards.
 */
export type LadderNetwork = {
  topology: Topology;
  nodes: LadderNode[];
  capacitors: LadderCapacitor[];
  diodes: LadderDiode[];
  sources: LadderSource[];
  /** The load stands between these two. */
  output: string;
  return: string;
};

export const GROUND: LadderNode = { id: 'ground', column: 'ground', stage: 0, side: 1 };
export const SOURCE: LadderNode = { id: 'source', column: 'source', stage: 0, side: 1 };

/** Whether nothing rectifies: the output is the winding's own alternating voltage. */
export const isAlternating = ({ diodes }: { diodes: readonly unknown[] }): boolean => diodes.length === 0;

/** Nodes whose voltage nothing but the ladder decides, in the network's order. */
export function freeNodes(network: LadderNetwork): LadderNode[] {
  return network.nodes.filter((node) => node.column !== 'ground' && node.column !== 'source');
}

/** How many a place takes in series. */
export const standingIn = ({ atBothEnds }: Pick<LadderCapacitor, 'atBothEnds'>): number => (atBothEnds ? 2 : 1);

/** Capacitance of each of those, F. */
export const eachFarads = (part: Pick<LadderCapacitor, 'atBothEnds' | 'farads'>): number =>
  part.farads * standingIn(part);

/** The coupling that feeds more than one side of a ladder; null where each has its own. */
export const sharedCoupling = ({ capacitors }: Pick<LadderNetwork, 'capacitors'>): LadderCapacitor | null =>
  capacitors.find(({ atBothEnds }) => atBothEnds) ?? null;

/** The highest stage number of the ladder. */
export function topStage(network: LadderNetwork): number {
  return Math.max(...network.capacitors.map((part) => part.stage));
}
