import { BandedFactor } from '../numeric/banded-factor';
import { BandedMatrix } from '../numeric/banded-lu';
import { bandOrder } from '../numeric/ordering';
import { freeNodes, type LadderDiode, type LadderNetwork } from '../topology/network';

/** A joined pair of nodes: free ones by their place in the elimination order, known ones as a negative number. */
type Branch = { from: number; to: number; farads: number };

/** A ladder's nodes in elimination order, with its capacitors and strays between them. */
export type CapacitiveNetwork = {
  /** Place of every free node; known nodes (ground, sources) have none. */
  place: Map<string, number>;
  size: number;
  branches: Branch[];
  /** Drive of a known node for a drive of one: 0 ground, +-1 a source. */
  known: Map<string, number>;
};

/**
 * The capacitances of a ladder with strays across every diode, its nodes in an
 * order in which neighbours stand close together.
 *
 * @param strayFarads across each diode, zero or more
 */
export function capacitiveNetwork(network: LadderNetwork, strayFarads: number): CapacitiveNetwork {
  const free = freeNodes(network);
  const index = new Map(free.map((node, at) => [node.id, at]));
  const neighbours: number[][] = free.map(() => []);
  const pairs = [
    ...network.capacitors.map(({ lower, upper, farads }) => ({ one: lower, other: upper, farads })),
    ...network.diodes.map(({ anode, cathode }) => ({ one: anode, other: cathode, farads: strayFarads })),
  ];
  for (const { one, other } of pairs) {
    const a = index.get(one);
    const b = index.get(other);
    if (a === undefined || b === undefined || neighbours[a].includes(b)) continue;
    neighbours[a].push(b);
    neighbours[b].push(a);
  }
  const place = new Map(bandOrder(neighbours).map((at, position) => [free[at].id, position]));
  const known = new Map([['ground', 0], ...network.sources.map(({ node, sign }): [string, number] => [node, sign])]);
  return {
    place,
    size: free.length,
    known,
    branches: pairs
      .filter((pair) => pair.farads > 0)
      .map(({ one, other, farads }) => ({ from: place.get(one) ?? -1, to: place.get(other) ?? -1, farads })),
  };
}

/** Greatest distance in the elimination order of two free nodes that are joined. */
const reachOf = (branches: readonly Branch[]): number =>
  branches.reduce((most, { from, to }) => (from < 0 || to < 0 ? most : Math.max(most, Math.abs(from - to))), 0);

/** The capacitance matrix of the free nodes, in the elimination order. */
function capacitanceMatrix({ size, branches }: CapacitiveNetwork): BandedMatrix {
  const matrix = new BandedMatrix(size, reachOf(branches));
  for (const { from, to, farads } of branches) {
    if (from >= 0) matrix.add(from, from, farads);
    if (to >= 0) matrix.add(to, to, farads);
    if (from >= 0 && to >= 0) {
      matrix.add(from, to, -farads);
      matrix.add(to, from, -farads);
    }
  }
  return matrix;
}

/**
 * Solves for the voltages that charges on the free nodes make, factored once.
 *
 * @returns from C to V, both in the elimination order, in place; null where
 *   capacitances differ by more than the precision of numbers
 */
export function capacitanceSolver({ size, branches }: CapacitiveNetwork): ((charge: Float64Array) => void) | null {
  const reach = reachOf(branches);
  const lower = new Float64Array(size * (reach + 1));
  const add = (row: number, column: number, farads: number) => {
    if (column >= 0 && column <= row) lower[row * (reach + 1) + reach + column - row] += farads;
  };
  for (const { from, to, farads } of branches) {
    add(from, from, farads);
    add(to, to, farads);
    add(Math.max(from, to), Math.min(from, to), -farads);
  }
  const factor = new BandedFactor(size, reach);
  return factor.factor(lower) ? (charge) => factor.solve(charge) : null;
}

/** What the capacitances alone make of a drive and of a charge drawn at the output. */
export type CapacitiveResponse = {
  /** Alternating voltage of each node for a drive of one, with its sign. */
  swings: Map<string, number>;
  /** Fall of each node for one coulomb drawn between output and return while no diode conducts, 1/F. */
  discharge: Map<string, number>;
};

export function capacitiveResponse(
  network: LadderNetwork,
  capacitive: CapacitiveNetwork,
  strayFarads: number,
): CapacitiveResponse {
  const { place, size, known } = capacitive;
  const swing = new Float64Array(size);
  const drawn = new Float64Array(size);
  const couple = (one: string, other: string, farads: number) => {
    const at = place.get(one);
    if (at !== undefined && known.has(other)) swing[at] += farads * known.get(other)!;
  };
  const coupled = (one: string, other: string, farads: number) => {
    couple(one, other, farads);
    couple(other, one, farads);
  };
  for (const part of network.capacitors) coupled(part.lower, part.upper, part.farads);
  if (strayFarads > 0) for (const diode of network.diodes) coupled(diode.anode, diode.cathode, strayFarads);
  const [output, back] = [place.get(network.output), place.get(network.return)];
  if (output !== undefined) drawn[output] += 1;
  if (back !== undefined) drawn[back] -= 1;
  capacitanceMatrix(capacitive).solve(swing, drawn);
  const named = (values: Float64Array, fixed: (id: string) => number) =>
    new Map([
      ...[...known.keys()].map((id): [string, number] => [id, fixed(id)]),
      ...[...place].map(([id, at]): [string, number] => [id, values[at]]),
    ]);
  return { swings: named(swing, (id) => known.get(id)!), discharge: named(drawn, () => 0) };
}

/** What each winding sees of the ladder's capacitances between the pulses: a capacitor that follows it counts for nothing, F. */
export function inputFarads(
  network: LadderNetwork,
  strayFarads: number,
  swings: ReadonlyMap<string, number>,
): number[] {
  const pairs = [
    ...network.capacitors.map(({ lower, upper, farads }) => ({ one: lower, other: upper, farads })),
    ...network.diodes.map(({ anode, cathode }) => ({ one: anode, other: cathode, farads: strayFarads })),
  ];
  return network.sources.map(({ node, sign }) =>
    pairs.reduce((sum, { one, other, farads }) => {
      const far = one === node ? other : other === node ? one : null;
      return far === null ? sum : sum + farads * (1 - sign * swings.get(far)!);
    }, 0),
  );
}

/** Whether a diode conducts at the positive peak of the drive, from the alternating voltages at its ends. */
export function conductsAtPositivePeak(diode: LadderDiode, swings: ReadonlyMap<string, number>): boolean {
  return swings.get(diode.anode)! > swings.get(diode.cathode)!;
}
