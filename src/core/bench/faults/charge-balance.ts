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

/** What the nodes stand at while no diode passes anything, V, and what they answer to charge. */
type Answers = {
  /** Cholesky's factors of what holds their means and their swings, F. */
  meanFactor: Float64Array;
  swingFactor: Float64Array;
  means: Float64Array;
  swings: Float64Array;
  /** What a charge through one diode does to the voltage across another, row by row, V/C: to its mean, and a quarter of what it does to its swing. */
  toMeans: Float64Array;
  toSwings: Float64Array;
};

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
  /** By diode: its ends among the free nodes, -1 where they are held. */
  private readonly anodes: Int32Array;
  private readonly cathodes: Int32Array;
  /** Of the steady state without a meter, computed once. */
  private steady: { answers: Answers | null } | null = null;

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
    this.anodes = Int32Array.from(circuit.diodes, ({ anode }) => this.freeOf(anode));
    this.cathodes = Int32Array.from(circuit.diodes, ({ cathode }) => this.freeOf(cathode));
  }

  /** Of a circuit not far from this one, on the same drive. */
  near(circuit: Circuit): ChargeBalance {
    return new ChargeBalance(circuit, this.peaks, this.conducting);
  }

  private freeOf(node: NodeIndex): number {
    return node < 0 ? -1 : this.index[node];
  }

  /** What a node that is not free stands at with the drive at its highest and at its lowest, V. */
  private held(node: NodeIndex): Ends {
    const known = node < 0 ? node : this.tied[node]!;
    if (known === -1) return { plus: 0, minus: 0 };
    const { drive, volts } = this.circuit.known[-2 - known];
    return { plus: drive * this.peaks.positive + volts, minus: -drive * this.peaks.negative + volts };
  }

  /**
   * @param periods since `from`; none for the steady state
   * @returns null where it has no solution
   */
  balanced(from: { means: Float64Array; periods: number } | null = null): Balanced | null {
    const answers = from ? this.answers(from) : this.steadily();
    return answers && this.conducted(answers);
  }

  /**
   * The steady state with a conductance and a capacitor from a node to ground: the same as of a circuit that has them, from
   * what this one answers already (Sherman and Morrison, 1950; from memory).
   *
   * @returns null where it has no solution
   */
  withMeter(node: NodeIndex, siemens: number, farads: number): Balanced | null {
    const answers = this.steadily();
    const free = this.freeOf(node);
    if (!answers || free < 0) return answers && this.conducted(answers);
    const conductance = siemens / this.circuit.hertz;
    const one = (factor: Float64Array) => {
      const right = new Float64Array(this.nodes);
      right[free] = 1;
      return solveCholesky(factor, this.nodes, right);
    };
    const [mean, swing] = [one(answers.meanFactor), one(answers.swingFactor)];
    const capacitance = farads + CARRIED * conductance;
    const ofMean = conductance / (1 + conductance * mean[free]);
    const ofSwing = capacitance / (1 + capacitance * swing[free]);
    const less = (volts: Float64Array, by: Float64Array, factor: number): Float64Array => {
      const down = factor * volts[free];
      return volts.map((value, at) => value - down * by[at]);
    };
    const pull = (matrix: Float64Array, by: Float64Array, factor: number): Float64Array => {
      const count = this.anodes.length;
      const across = Float64Array.from(this.anodes, (_, at) => this.across(at, by));
      const changed = matrix.slice();
      for (let row = 0; row < count; row += 1) {
        const down = factor * across[row];
        if (down === 0) continue;
        for (let column = 0; column < count; column += 1) changed[row * count + column] -= down * across[column];
      }
      return changed;
    };
    return this.conducted(
      {
        ...answers,
        means: less(answers.means, mean, ofMean),
        swings: less(answers.swings, swing, ofSwing),
        toMeans: pull(answers.toMeans, mean, ofMean),
        toSwings: pull(answers.toSwings, swing, ofSwing / 4),
      },
      (means, swings) => {
        means.set(less(means, mean, ofMean));
        swings.set(less(swings, swing, ofSwing));
      },
    );
  }

  private steadily(): Answers | null {
    this.steady ??= { answers: this.answers(null) };
    return this.steady.answers;
  }

  private answers(from: { means: Float64Array; periods: number } | null): Answers | null {
    const { circuit, nodes, anodes, cathodes } = this;
    const { hertz } = circuit;
    const mean = new Float64Array(nodes * nodes);
    const swing = new Float64Array(nodes * nodes);
    const means = new Float64Array(nodes);
    const swings = new Float64Array(nodes);
    const tie = (free: number, other: NodeIndex, toMean: number, toSwing: number) => {
      mean[free * nodes + free] += toMean;
      swing[free * nodes + free] += toSwing;
      const across = this.freeOf(other);
      if (across >= 0) {
        mean[free * nodes + across] -= toMean;
        swing[free * nodes + across] -= toSwing;
        return;
      }
      const { plus, minus } = this.held(other);
      means[free] += (toMean * (plus + minus)) / 2;
      swings[free] += (toSwing * (plus - minus)) / 2;
    };
    const join = (one: NodeIndex, other: NodeIndex, toMean: number, toSwing: number) => {
      const [a, b] = [this.freeOf(one), this.freeOf(other)];
      if (a >= 0) tie(a, other, toMean, toSwing);
      if (b >= 0) tie(b, one, toMean, toSwing);
    };
    for (const { from: one, to, farads } of circuit.capacitors) {
      const kept = from ? farads / from.periods : 0;
      join(one, to, kept, farads);
      if (!from) continue;
      // What it held before.
      const before = kept * (this.meanAt(one, from.means) - this.meanAt(to, from.means));
      const [a, b] = [this.freeOf(one), this.freeOf(to)];
      if (a >= 0) means[a] += before;
      if (b >= 0) means[b] -= before;
    }
    for (const { from: one, to, siemens } of circuit.resistors)
      join(one, to, siemens / hertz, (CARRIED * siemens) / hertz);
    for (const { anode, cathode, leakSiemens, nearFarads } of circuit.diodes)
      join(anode, cathode, leastLeak(leakSiemens, nearFarads, hertz) / hertz, 0);
    const [meanFactor, swingFactor] = [cholesky(mean, nodes), cholesky(swing, nodes)];
    if (!meanFactor || !swingFactor) return null;
    solveCholesky(meanFactor, nodes, means);
    solveCholesky(swingFactor, nodes, swings);
    const count = anodes.length;
    const [toMeans, toSwings] = [new Float64Array(count * count), new Float64Array(count * count)];
    const unit = new Float64Array(nodes);
    for (let column = 0; column < count; column += 1) {
      for (const [factor, answer, charge] of [
        [meanFactor, toMeans, 1],
        [swingFactor, toSwings, 1 / 4],
      ] as const) {
        unit.fill(0);
        if (anodes[column] >= 0) unit[anodes[column]] -= charge;
        if (cathodes[column] >= 0) unit[cathodes[column]] += charge;
        solveCholesky(factor, nodes, unit);
        for (let row = 0; row <= column; row += 1)
          answer[row * count + column] = answer[column * count + row] = this.across(row, unit);
      }
    }
    return { meanFactor, swingFactor, means, swings, toMeans, toSwings };
  }

  private meanAt(node: NodeIndex, means: Float64Array): number {
    if (this.freeOf(node) >= 0) return means[node];
    const { plus, minus } = this.held(node);
    return (plus + minus) / 2;
  }

  /** From anode to cathode, V, of voltages of the free nodes; held ones count as 0. */
  private across(diode: number, volts: Float64Array): number {
    const anode = this.anodes[diode];
    const cathode = this.cathodes[diode];
    return (cathode < 0 ? 0 : volts[cathode]) - (anode < 0 ? 0 : volts[anode]);
  }

  /**
   * With the charge that the diodes pass.
   *
   * @param then what a meter does to what that charge adds
   */
  private conducted(
    { meanFactor, swingFactor, means, swings, toMeans, toSwings }: Answers,
    then?: (means: Float64Array, swings: Float64Array) => void,
  ): Balanced | null {
    const { circuit, nodes, anodes, cathodes } = this;
    const count = anodes.length;
    const size = 2 * count;
    const matrix = new Float64Array(size * size);
    let diagonal = 0;
    for (let row = 0; row < count; row += 1) {
      for (let column = 0; column < count; column += 1) {
        const p = toMeans[row * count + column];
        const q = toSwings[row * count + column];
        matrix[row * size + column] = matrix[(row + count) * size + column + count] = p + q;
        matrix[row * size + column + count] = matrix[(row + count) * size + column] = p - q;
      }
      diagonal += toSwings[row * count + row] / count;
    }
    for (let row = 0; row < size; row += 1) matrix[row * size + row] += FIRMNESS * diagonal;
    const given = new Float64Array(size).fill(Infinity);
    circuit.diodes.forEach(({ anode, cathode, onSiemens, forwardVolts }, at) => {
      if (onSiemens <= 0) return;
      const [from, to] = [anodes[at] < 0 ? this.held(anode) : NEITHER, cathodes[at] < 0 ? this.held(cathode) : NEITHER];
      const [centre, away] = [this.across(at, means), this.across(at, swings)];
      given[at] = to.plus - from.plus + forwardVolts + centre + away;
      given[at + count] = to.minus - from.minus + forwardVolts + centre - away;
    });
    const conducting = this.conducting?.length === size ? this.conducting.slice() : new Uint8Array(size);
    const charges = complementary(matrix, given, conducting);
    if (!charges) return null;
    this.conducting = conducting;
    const [byMean, bySwing] = [new Float64Array(nodes), new Float64Array(nodes)];
    for (let at = 0; at < count; at += 1) {
      const [up, down] = [charges[at], charges[at + count]];
      const [anode, cathode] = [anodes[at], cathodes[at]];
      if (anode >= 0) {
        byMean[anode] -= up + down;
        bySwing[anode] -= (up - down) / 4;
      }
      if (cathode >= 0) {
        byMean[cathode] += up + down;
        bySwing[cathode] += (up - down) / 4;
      }
    }
    solveCholesky(meanFactor, nodes, byMean);
    solveCholesky(swingFactor, nodes, bySwing);
    then?.(byMean, bySwing);
    const result = { means: new Float64Array(circuit.names.length), swings: new Float64Array(circuit.names.length) };
    circuit.names.forEach((_, node) => {
      const free = this.index[node];
      if (free >= 0) {
        result.means[node] = means[free] + byMean[free];
        result.swings[node] = swings[free] + bySwing[free];
      } else {
        const { plus, minus } = this.held(node);
        result.means[node] = (plus + minus) / 2;
        result.swings[node] = (plus - minus) / 2;
      }
    });
    return { ...result, conducting };
  }
}

const NEITHER: Ends = { plus: 0, minus: 0 };
