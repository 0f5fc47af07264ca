import type { LadderNetwork } from '../../src/core/topology/network';
import { Solver } from './odex';

/**
 * A ladder whose diodes have a junction C0 / (1 + V / phi)^m, integrated by odex
 * on a stiff sine into a resistor. State: the free nodes' voltages and the
 * output's integral; the capacitances at hand are solved for in every step. A
 * diode passes (s / R) ln(1 + exp((v - drop) / s)).
 *
 * @param start of every free node, V, in the network's order
 * @returns of the last cycle
 */
export function integrateJunctions(
  network: LadderNetwork,
  parts: {
    peakVolts: number;
    hertz: number;
    loadOhms: number;
    forwardVolts: number;
    diodeOhms: number;
    softVolts: number;
    junction: { zeroFarads: number; potential: number; exponent: number };
    start: readonly number[];
    cycles: number;
  },
): { meanVolts: number; ripplePeakToPeakVolts: number; driftVolts: number } {
  const { peakVolts, hertz, loadOhms, forwardVolts, diodeOhms, softVolts, junction } = parts;
  const free = network.nodes.filter(({ stage }) => stage > 0).map(({ id }) => id);
  const size = free.length;
  const at = (id: string) => free.indexOf(id);
  const omega = 2 * Math.PI * hertz;
  const source = network.sources[0].node;
  const junctionFarads = (reverse: number) =>
    junction.zeroFarads * (1 + Math.max(0, reverse) / junction.potential) ** -junction.exponent;

  const derivative = (time: number, state: readonly number[]) => {
    const drive = peakVolts * Math.sin(omega * time);
    const driveChange = peakVolts * omega * Math.cos(omega * time);
    const volts = (id: string) => (at(id) >= 0 ? state[at(id)] : id === source ? drive : 0);
    const matrix = free.map(() => new Array<number>(size).fill(0));
    const inflow = new Array<number>(size).fill(0);
    const couple = (one: string, other: string, farads: number) => {
      for (const [here, there] of [
        [one, other],
        [other, one],
      ]) {
        if (at(here) < 0) continue;
        matrix[at(here)][at(here)] += farads;
        if (at(there) >= 0) matrix[at(here)][at(there)] -= farads;
        else if (there === source) inflow[at(here)] += farads * driveChange;
      }
    };
    const carry = (from: string, to: string, amps: number) => {
      if (at(from) >= 0) inflow[at(from)] -= amps;
      if (at(to) >= 0) inflow[at(to)] += amps;
    };
    for (const { lower, upper, farads } of network.capacitors) couple(lower, upper, farads);
    for (const { anode, cathode } of network.diodes) {
      const between = volts(anode) - volts(cathode);
      couple(anode, cathode, junctionFarads(-between));
      const forward = (between - forwardVolts) / softVolts;
      carry(anode, cathode, (softVolts / diodeOhms) * (forward > 30 ? forward : Math.log1p(Math.exp(forward))));
    }
    const outputVolts = volts(network.output) - volts(network.return);
    carry(network.output, network.return, outputVolts / loadOhms);
    return [...solved(matrix, inflow), outputVolts];
  };

  const solver = new Solver(size + 1);
  solver.absoluteTolerance = 1e-7 * peakVolts;
  solver.relativeTolerance = 1e-7;
  solver.maxStepSize = 1 / hertz / 100;
  solver.maxSteps = 1e8;
  let time = 0;
  let state = [...parts.start, 0];
  const advance = (seconds: number) => {
    state = solver.solve(derivative, time, state, time + seconds).y;
    time += seconds;
  };
  let before = 0;
  for (let cycle = 0; cycle < parts.cycles; cycle += 1) {
    before = state[size] * hertz;
    state[size] = 0;
    advance(1 / hertz);
  }
  const meanVolts = state[size] * hertz;
  let [least, most] = [Infinity, -Infinity];
  for (let sample = 0; sample < 200; sample += 1) {
    advance(1 / hertz / 200);
    const volts = state[at(network.output)];
    [least, most] = [Math.min(least, volts), Math.max(most, volts)];
  }
  return { meanVolts, ripplePeakToPeakVolts: most - least, driftVolts: meanVolts - before };
}

/** A small system by elimination; its matrix is symmetric and positive definite. */
function solved(matrix: number[][], right: number[]): number[] {
  const size = right.length;
  for (let pivot = 0; pivot < size; pivot += 1)
    for (let row = pivot + 1; row < size; row += 1) {
      const factor = matrix[row][pivot] / matrix[pivot][pivot];
      for (let column = pivot; column < size; column += 1) matrix[row][column] -= factor * matrix[pivot][column];
      right[row] -= factor * right[pivot];
    }
  const answer = new Array<number>(size).fill(0);
  for (let row = size - 1; row >= 0; row -= 1) {
    let rest = right[row];
    for (let column = row + 1; column < size; column += 1) rest -= matrix[row][column] * answer[column];
    answer[row] = rest / matrix[row][row];
  }
  return answer;
}
