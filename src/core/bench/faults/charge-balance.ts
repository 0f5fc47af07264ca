import { cholesky, solveCholesky } from '../../numeric/cholesky';
import { complementary } from '../../numeric/complementarity';
import type { Circuit, NodeIndex } from '../../transient/circuit';

/** Leakage of every diode at least, in units of f C: what no hand-made board is better than (common practice, no source). */
const LEAST_LEAK = 1e-6;
const leastLeak = (siemens: number, nearFarads: number, hertz: number) =>
  Math.max(siemens, LEAST_LEAK * nearFarads * hertz);
/** A circuit whose diodes all leak at least as much as is counted here. */
export const leakingLeast = (circuit: Circuit): Circuit => ({
  ...circuit,
  diodes: circuit.diodes.map((one) => ({
    ...one,
    leakSiemens: leastLeak(one.leakSiemens, one.nearFarads, circuit.hertz),
  })),
});
/** Of a conductance's charge in a period, what goes past it as its ends move together: shorts hold them, leaks do not matter. */
const CARRIED = 0.1;
/** On-resistance as a fraction of what a capacitor's own voltage answers by: it decides between diodes in parallel. */
const FIRMNESS = 1e-5;

/** Where nodes stand: means, and how far each is above its mean at the drive's positive peak, V; and which diodes conduct at either peak. */
export type Balanced = { means: Float64Array; swings: Float64Array; conducting: Uint8Array };

/** A source of which a ladder's node is the end. */
type Ends = { plus: number; minus: number };

/**
 * Where a circuit of capacitors, diodes and conductances stands on a drive that swings between two peaks, by the charge
 * that each diode passes on the way to either: at that peak it holds its ends a forward drop apart, or it has passed
 * none. Charge balance over the period and over half of it with these conditions is a linear complementarity problem
 * (ideal diodes; derived here, checked against the engine and `odex`). What resistance in the source and junctions do is
 * left out, as are loads that are no resistance.
 */
export class ChargeBalance {
  private readonly nodes: number;
  /** By node: which known one it is tied to, or none. */
  private readonly tied: (NodeIndex | null)[];
  private readonly index: number[];

  /**
   * @param circuit in which nodes that a source without inductance feeds count as that source
   * @param peaks of the drive, V, both as they stand
   * @param conducting which diodes conduct in a case like it, at either peak: where the first search begins, each later one where the last ended
   */
  constructor(
    readonly circuit: Circuit,
    private readonly peaks: { positive: number; negative: number },
    private conducting: Uint8Array | null = null,
  ) {
    this.tied = circuit.names.map(() => null);
    for (const { terms } of circuit.inductors) {
      const [source, fed] = terms;
      if (terms.length === 2 && source.node < 0 && fed.node >= 0) this.tied[fed.node] = source.node;
    }
    let free = 0;
    this.index = this.tied.map((tie) => (tie === null ? free++ : -1));
    this.nodes = free;
  }

  /** What a known node stands at with the drive at its highest and at its lowest, V. */
  private known(node: NodeIndex): Ends {
    if (node === -1) return { plus: 0, minus: 0 };
    const { drive, volts } = this.circuit.known[-2 - node];
    return { plus: drive * this.peaks.positive + volts, minus: -drive * this.peaks.negative + volts };
  }

  /** A node as one of the free ones, or what it is held at. */
  private at(node: NodeIndex): { free: number } | Ends {
    if (node < 0) return this.known(node);
    const tie = this.tied[node];
    return tie === null ? { free: this.index[node] } : this.known(tie);
  }

  /**
   * @param periods since `from`; none for the steady state
   * @returns null where it has no solution
   */
  balanced(from: { means: Float64Array; periods: number } | null = null): Balanced | null {
    const { circuit, nodes } = this;
    const { hertz } = circuit;
    const mean = new Float64Array(nodes * nodes);
    const swing = new Float64Array(nodes * nodes);
    const meanRight = new Float64Array(nodes);
    const swingRight = new Float64Array(nodes);
    const join = (one: NodeIndex, other: NodeIndex, toMean: number, toSwing: number) => {
      for (const [a, b] of [
        [this.at(one), this.at(other)],
        [this.at(other), this.at(one)],
      ]) {
        if (!('free' in a)) continue;
        const row = a.free * nodes;
        mean[row + a.free] += toMean;
        swing[row + a.free] += toSwing;
        if ('free' in b) {
          mean[row + b.free] -= toMean;
          swing[row + b.free] -= toSwing;
        } else {
          meanRight[a.free] += (toMean * (b.plus + b.minus)) / 2;
          swingRight[a.free] += (toSwing * (b.plus - b.minus)) / 2;
        }
      }
    };
    const kept = from ? 1 / from.periods : 0;
    for (const { from: one, to, farads } of circuit.capacitors) {
      join(one, to, 0, farads);
      if (from) this.keep(one, to, farads * kept, mean, meanRight, from.means);
    }
    for (const { from: one, to, siemens } of circuit.resistors)
      join(one, to, siemens / hertz, (CARRIED * siemens) / hertz);
    for (const { anode, cathode, leakSiemens, nearFarads } of circuit.diodes) {
      join(anode, cathode, leastLeak(leakSiemens, nearFarads, hertz) / hertz, 0);
    }
    const [meanFactor, swingFactor] = [cholesky(mean, nodes), cholesky(swing, nodes)];
    if (!meanFactor || !swingFactor) return null;
    solveCholesky(meanFactor, nodes, meanRight);
    solveCholesky(swingFactor, nodes, swingRight);
    return this.conducted(meanFactor, swingFactor, meanRight, swingRight);
  }

  /** What a capacitor holds of what it stood at before, as a conductance for a stretch of periods. */
  private keep(
    one: NodeIndex,
    other: NodeIndex,
    farads: number,
    mean: Float64Array,
    right: Float64Array,
    before: Float64Array,
  ): void {
    const { nodes } = this;
    const past = this.meanAt(one, before) - this.meanAt(other, before);
    for (const [a, b, volts] of [
      [this.at(one), this.at(other), past],
      [this.at(other), this.at(one), -past],
    ] as const) {
      if (!('free' in a)) continue;
      mean[a.free * nodes + a.free] += farads;
      right[a.free] += farads * volts;
      if ('free' in b) mean[a.free * nodes + b.free] -= farads;
      else right[a.free] += (farads * (b.plus + b.minus)) / 2;
    }
  }

  private meanAt(node: NodeIndex, means: Float64Array): number {
    const at = this.at(node);
    return 'free' in at ? means[node] : (at.plus + at.minus) / 2;
  }

  /** With the charge that the diodes pass. */
  private conducted(
    meanFactor: Float64Array,
    swingFactor: Float64Array,
    means: Float64Array,
    swings: Float64Array,
  ): Balanced | null {
    const { circuit, nodes } = this;
    const ends = circuit.diodes.map(({ anode, cathode }) => [this.at(anode), this.at(cathode)] as const);
    const count = ends.length;
    const anodes = Int32Array.from(ends, ([anode]) => ('free' in anode ? anode.free : -1));
    const cathodes = Int32Array.from(ends, ([, cathode]) => ('free' in cathode ? cathode.free : -1));
    const across = (at: number, volts: Float64Array): number =>
      (cathodes[at] < 0 ? 0 : volts[cathodes[at]]) - (anodes[at] < 0 ? 0 : volts[anodes[at]]);
    // What the nodes answer to a charge through each diode.
    const answers = ends.map((_, at) => {
      const right = new Float64Array(nodes);
      if (anodes[at] >= 0) right[anodes[at]] -= 1;
      if (cathodes[at] >= 0) right[cathodes[at]] += 1;
      const halves = right.map((value) => value / 4);
      return {
        mean: solveCholesky(meanFactor, nodes, right),
        swing: solveCholesky(swingFactor, nodes, halves),
      };
    });
    const size = 2 * count;
    const matrix = new Float64Array(size * size);
    let diagonal = 0;
    for (let column = 0; column < count; column += 1) {
      const { mean, swing } = answers[column];
      for (let row = 0; row <= column; row += 1) {
        const p = across(row, mean);
        const q = across(row, swing);
        for (const [one, other] of row === column
          ? [[row, column]]
          : [
              [row, column],
              [column, row],
            ]) {
          matrix[one * size + other] = matrix[(one + count) * size + other + count] = p + q;
          matrix[one * size + other + count] = matrix[(one + count) * size + other] = p - q;
        }
        if (row === column) diagonal += q / count;
      }
    }
    for (let row = 0; row < size; row += 1) matrix[row * size + row] += FIRMNESS * diagonal;
    const given = new Float64Array(size);
    ends.forEach(([anode, cathode], at) => {
      const { onSiemens, forwardVolts } = circuit.diodes[at];
      const still = (of: 'plus' | 'minus') =>
        ('free' in cathode ? 0 : cathode[of]) - ('free' in anode ? 0 : anode[of]) + forwardVolts;
      const [centre, away] = [across(at, means), across(at, swings)];
      given[at] = onSiemens > 0 ? still('plus') + centre + away : Infinity;
      given[at + count] = onSiemens > 0 ? still('minus') + centre - away : Infinity;
    });
    const conducting = this.conducting?.length === size ? this.conducting.slice() : new Uint8Array(size);
    const charges = complementary(matrix, given, conducting);
    if (!charges) return null;
    this.conducting = conducting;
    const result = { means: new Float64Array(circuit.names.length), swings: new Float64Array(circuit.names.length) };
    for (let at = 0; at < count; at += 1) {
      const [up, down] = [charges[at], charges[at + count]];
      for (let node = 0; node < nodes; node += 1) {
        means[node] += (up + down) * answers[at].mean[node];
        swings[node] += (up - down) * answers[at].swing[node];
      }
    }
    circuit.names.forEach((_, node) => {
      const at = this.at(node);
      result.means[node] = 'free' in at ? means[at.free] : (at.plus + at.minus) / 2;
      result.swings[node] = 'free' in at ? swings[at.free] : (at.plus - at.minus) / 2;
    });
    return { ...result, conducting };
  }
}
