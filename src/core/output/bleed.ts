import { capacitiveNetwork } from '../ladder/capacitive';
import { BandedFactor } from '../numeric/banded-factor';
import { atRest } from '../topology/at-rest';
import type { LadderNetwork } from '../topology/network';
import { HAZARDOUS_DC_VOLTS } from './discharge';

/** A diode that conducts joins its ends as so many times the largest capacitance would: as good as a wire. */
const JOINED = 1e6;
/** Part of the output by which a diode counts as level, and part of a charge that may run back through one. */
const LEVEL = 1e-9;
/** Networks solved, for each diode, before it is given up: what anyone builds takes under two. */
const SOLVED_A_DIODE = 2;

/**
 * Time for a bleeder across the terminal to bring the output under 60 V after
 * the drive stops and the load is gone, s.
 *
 * The winding stands as a short and diodes as wires where they conduct, so the
 * charge that has left decides what every node stands at: a network of
 * capacitances that is solved anew as each diode begins to conduct, or ceases to.
 * Between two of these the output falls in proportion to the charge, by a time
 * constant of its own. Diode drops would keep some of the charge in the ladder and
 * make it shorter. What stands behind the ladder shares its voltage, and is the
 * later by what it stands behind. Source: derived; checked against the engine.
 *
 * @param volts of each capacitor at the start, in the network's order
 * @param terminalVolts at the output at the start
 * @param behind every capacitance behind the ladder, F, with what is on the way to it, Ω
 * @returns 0 when the output starts under 60 V; where capacitances differ by more
 *   than the precision of numbers as long as all of them in parallel would take
 */
export function bleedSeconds(
  network: LadderNetwork,
  volts: readonly number[],
  terminalVolts: number,
  bleederOhms: number,
  behind: readonly { farads: number; ohms: number }[] = [],
): number {
  if (terminalVolts <= HAZARDOUS_DC_VOLTS) return 0;
  const later = behind.reduce((sum, { farads, ohms }) => sum + farads * ohms, 0);
  const constants = Math.log(terminalVolts / HAZARDOUS_DC_VOLTS);
  const farads = behind.reduce((sum, one) => sum + one.farads, 0);
  const all = network.capacitors.reduce((sum, part) => sum + part.farads, farads);
  const seconds =
    network.capacitors.length > 0
      ? new Emptying(network, volts, farads).secondsTo(HAZARDOUS_DC_VOLTS, bleederOhms)
      : null;
  return (seconds ?? bleederOhms * all * constants) + later * constants;
}

type Pair = { from: number; to: number };

/** A ladder that gives up charge at its terminal, as capacitances alone. */
class Emptying {
  private readonly size: number;
  private readonly reach: number;
  /** Capacitances between the nodes, without diodes, as the factor takes them. */
  private readonly own: Float64Array;
  private readonly whole: Float64Array;
  private readonly factor: BandedFactor;
  private readonly diodes: Pair[];
  private readonly output: Pair;
  private readonly nodes: Float64Array;
  private readonly joined = new Set<number>();
  private readonly joinedFarads: number;
  private left: number;

  constructor(network: LadderNetwork, volts: readonly number[], behindFarads: number) {
    const { place, size, branches } = capacitiveNetwork(network, 0);
    const at = (node: string) => place.get(node) ?? -1;
    this.size = size;
    this.output = { from: at(network.output), to: at(network.return) };
    // Two terminals stand far apart in the order of elimination: not joined for nothing.
    const all = behindFarads > 0 ? [...branches, { ...this.output, farads: behindFarads }] : branches;
    this.diodes = network.diodes.map(({ anode, cathode }) => ({ from: at(anode), to: at(cathode) }));
    this.reach = [...all, ...this.diodes].reduce(
      (most, { from, to }) => (from < 0 || to < 0 ? most : Math.max(most, Math.abs(from - to))),
      0,
    );
    this.own = new Float64Array(size * (this.reach + 1));
    for (const branch of all) this.stamp(this.own, branch, branch.farads);
    this.whole = new Float64Array(this.own.length);
    this.factor = new BandedFactor(size, this.reach);
    this.nodes = new Float64Array(size);
    for (const [node, one] of atRest(network, volts)) if (at(node) >= 0) this.nodes[at(node)] = one;
    this.left = SOLVED_A_DIODE * (this.diodes.length + 1);
    this.joinedFarads = JOINED * Math.max(...all.map(({ farads }) => farads));
  }

  private stamp(matrix: Float64Array, { from, to }: Pair, farads: number): void {
    const { reach } = this;
    if (from >= 0) matrix[from * (reach + 1) + reach] += farads;
    if (to >= 0) matrix[to * (reach + 1) + reach] += farads;
    if (from < 0 || to < 0) return;
    const [row, column] = from > to ? [from, to] : [to, from];
    matrix[row * (reach + 1) + reach + column - row] -= farads;
  }

  secondsTo(volts: number, ohms: number): number | null {
    let seconds = 0;
    const level = LEVEL * this.across(this.output, this.nodes);
    for (;;) {
      const now = this.across(this.output, this.nodes);
      if (now <= volts) return seconds;
      const fall = this.fallOfEach();
      if (!fall) return null;
      const slope = -this.across(this.output, fall);
      if (!(slope > 0)) return null;
      // Until the output is down, or the next diode begins to conduct.
      let coulombs = (now - volts) / slope;
      this.diodes.forEach((diode, index) => {
        const rising = this.across(diode, fall);
        if (!this.joined.has(index) && rising > 0)
          coulombs = Math.min(coulombs, Math.max(0, -this.across(diode, this.nodes) / rising));
      });
      for (let node = 0; node < this.size; node += 1) this.nodes[node] += coulombs * fall[node];
      const then = now - coulombs * slope;
      seconds += (ohms / slope) * Math.log(now / then);
      this.diodes.forEach((diode, index) => {
        if (this.across(diode, this.nodes) > -level && this.across(diode, fall) > 0) this.joined.add(index);
      });
    }
  }

  /** What every node changes by for each coulomb that leaves the output; diodes that would conduct backwards come apart first. */
  private fallOfEach(): Float64Array | null {
    for (; this.left > 0; this.left -= 1) {
      this.whole.set(this.own);
      for (const index of this.joined) this.stamp(this.whole, this.diodes[index], this.joinedFarads);
      if (!this.factor.factor(this.whole)) return null;
      const fall = new Float64Array(this.size);
      if (this.output.from >= 0) fall[this.output.from] -= 1;
      if (this.output.to >= 0) fall[this.output.to] += 1;
      this.factor.solve(fall);
      let [worst, most] = [-1, LEVEL];
      for (const index of this.joined) {
        const backwards = -this.joinedFarads * this.across(this.diodes[index], fall);
        if (backwards > most) [worst, most] = [index, backwards];
      }
      if (worst < 0) {
        this.left -= 1;
        return fall;
      }
      this.joined.delete(worst);
    }
    return null;
  }

  private across({ from, to }: Pair, volts: Float64Array): number {
    return (from >= 0 ? volts[from] : 0) - (to >= 0 ? volts[to] : 0);
  }
}
