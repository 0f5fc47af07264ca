import { solveDense } from '../numeric/banded-factor';
import { assignState, emptyState, type PeriodRunner, type Sensitivity, type State, type StepListener } from './period';

/**
 * One state x, what a period makes of it, and how that answers to a change of
 * x: F(x) = P(x) - x and its derivative M - I.
 */
export class PeriodEquation {
  private readonly count: number;
  private readonly nodes: number;
  private readonly startState: State;
  private readonly endState: State;
  /** F(x), charges first. */
  private readonly gain: Float64Array;
  private readonly derivative: Float64Array;
  private readonly matrix: Float64Array;
  private readonly correction: Float64Array;
  private readonly rest: Float64Array;
  private readonly shift: Float64Array;

  constructor(
    private readonly runner: PeriodRunner,
    private readonly sensitivity: Sensitivity,
  ) {
    const { nodes, circuit } = runner.stepper;
    const { count } = sensitivity;
    this.nodes = nodes;
    this.count = count;
    this.startState = emptyState(circuit);
    this.endState = emptyState(circuit);
    this.gain = new Float64Array(count);
    this.derivative = new Float64Array(count * count);
    this.matrix = new Float64Array(count * count);
    this.correction = new Float64Array(count);
    this.rest = new Float64Array(count);
    this.shift = new Float64Array(nodes);
  }

  /** Runs the period from a state, which it leaves alone; false when a step has no solution. */
  evaluate(from: State, listen: StepListener): boolean {
    const { startState, endState, gain, nodes, sensitivity } = this;
    assignState(startState, from);
    assignState(endState, from);
    sensitivity.restart();
    if (!this.runner.period(endState, listen, sensitivity)) return false;
    for (let at = 0; at < nodes; at += 1) gain[at] = endState.charge[at] - startState.charge[at];
    for (let at = nodes; at < gain.length; at += 1)
      gain[at] = this.remembered(endState, at) - this.remembered(startState, at);
    this.derivative.set(sensitivity.rows);
    return true;
  }

  readStart(into: State): void {
    assignState(into, this.startState);
  }

  readEnd(into: State): void {
    assignState(into, this.endState);
  }

  /** Size of F(x): square root of twice the energy of what the period changes, J. */
  size(): number {
    return this.sizeOf(this.gain);
  }

  /** Greatest charge that a node gains in the period, C. */
  greatestGain(): number {
    let most = 0;
    for (let at = 0; at < this.nodes; at += 1) most = Math.max(most, Math.abs(this.gain[at]));
    return most;
  }

  /**
   * Estimated distance from the steady state: V of the worst node and of the output, and of the inductances as a part of
   * all that is stored, by the root of the energy; null where there is no estimate.
   */
  error(): { worstVolts: number; outputVolts: number; fluxFraction: number } | null {
    const { circuit } = this.runner.stepper;
    if (!this.solve(0, this.gain, this.correction)) return null;
    const worstVolts = this.shiftBy(this.correction);
    const at = (node: number) => (node >= 0 ? this.shift[node] : 0);
    return worstVolts < Infinity
      ? {
          worstVolts,
          outputVolts: Math.abs(at(circuit.output) - at(circuit.return)),
          fluxFraction: this.fluxFraction(this.correction),
        }
      : null;
  }

  /** Where a period begins as a tank passes zero, all that it holds is current: no node tells how far off it is. */
  private fluxFraction(change: Float64Array): number {
    const { nodes, startState } = this;
    let [off, all] = [0, 0];
    for (let at = 0; at < nodes; at += 1) all += startState.charge[at] * startState.volts[at];
    this.runner.stepper.circuit.inductors.forEach(({ henries }, index) => {
      if (!(henries > 0)) return;
      off += change[nodes + index] ** 2 / henries;
      all += startState.flux[index] ** 2 / henries;
    });
    return all > 0 ? Math.sqrt(off / all) : 0;
  }

  /** Puts `into` where an implicit step (hold + I - M) d = F(x) leads; false when there is none. */
  correct(hold: number, into: State): boolean {
    const { correction, startState, nodes, shift } = this;
    if (!this.solve(hold, this.gain, correction) || !(this.shiftBy(correction) < Infinity)) return false;
    assignState(into, startState);
    for (let at = 0; at < nodes; at += 1) {
      into.charge[at] += correction[at];
      into.volts[at] += shift[at];
    }
    const { flux, past } = into;
    for (let at = 0; at < flux.length; at += 1) flux[at] += correction[nodes + at];
    this.sensitivity.damped.forEach((index, at) => (past[index] += correction[nodes + flux.length + at]));
    return true;
  }

  /** Entry of a state that is no charge: a flux, or what stood across an inductance. */
  private remembered({ flux, past }: State, at: number): number {
    const index = at - this.nodes;
    return index < flux.length ? flux[index] : past[this.sensitivity.damped[index - flux.length]];
  }

  /** Fraction of the last correction that the derivative did not foresee, seen from where it led. */
  unforeseen(hold: number, there: PeriodEquation): number {
    const { correction, rest } = this;
    const size = this.sizeOf(correction);
    for (let at = 0; at < rest.length; at += 1) rest[at] = there.gain[at] - hold * correction[at];
    if (!this.solve(hold, rest, rest)) return Infinity;
    return size > 0 ? this.sizeOf(rest) / size : 0;
  }

  private solve(hold: number, right: Float64Array, into: Float64Array): boolean {
    const { matrix, derivative, count } = this;
    if (into !== right) into.set(right);
    for (let at = 0; at < matrix.length; at += 1) matrix[at] = -derivative[at];
    for (let row = 0; row < count; row += 1) matrix[row * count + row] += 1 + hold;
    return solveDense(matrix, into);
  }

  /** Voltages that go with a change of the charges; the greatest of them. */
  private shiftBy(change: Float64Array): number {
    const { shift, nodes } = this;
    shift.set(change.subarray(0, nodes));
    if (!this.runner.stepper.voltsOf(shift)) return Infinity;
    let most = 0;
    for (let at = 0; at < nodes; at += 1) {
      if (!(Math.abs(shift[at]) < Infinity)) return Infinity;
      most = Math.max(most, Math.abs(shift[at]));
    }
    return most;
  }

  private sizeOf(change: Float64Array): number {
    if (!(this.shiftBy(change) < Infinity)) return Infinity;
    let energy = 0;
    for (let at = 0; at < this.nodes; at += 1) energy += this.shift[at] * change[at];
    this.runner.stepper.circuit.inductors.forEach(({ henries }, index) => {
      if (henries > 0) energy += change[this.nodes + index] ** 2 / henries;
    });
    return Math.sqrt(Math.max(0, energy));
  }
}
