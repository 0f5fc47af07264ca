import { Matrix, inverse } from 'ml-matrix';
import type { Circuit } from '../../src/core/transient/circuit';
import { Solver } from './odex';
import { recorded } from './recorded';

/** What a circuit of capacitors, resistors and diodes is, as far as this integration goes; nodes below zero are known: ground, and the drive. */
export type PlainCircuit = Pick<Circuit, 'hertz' | 'names' | 'capacitors' | 'resistors' | 'diodes'> & {
  peaks: { positive: number; negative: number };
  /** Nodes that the drive feeds through so many ohms. */
  fed: readonly number[];
};

const DIODE_OHMS = 200;
const SOFT_VOLTS = 0.02;
const SOURCE_OHMS = 200;
/** Across the drive, so that every node has something to ground. */
const FED_FARADS = 20e-9;

/**
 * Means of the nodes over the last of many cycles, integrated by odex: smooth diodes, (s / R) ln(1 + exp(v / s))
 * amperes past their drop, on a sine whose halves may differ; independent of closed form, charge balance and engine.
 *
 * @param start node voltages to start from, V
 */
export const integrateCircuit = recorded(
  'faulty-ladder',
  (circuit: PlainCircuit, start: readonly number[], cycles: number): number[] => {
    const { hertz, names, capacitors, resistors, diodes, peaks, fed } = circuit;
    const count = names.length;
    const matrix = Matrix.zeros(count, count);
    for (const { from, to, farads } of capacitors)
      for (const [a, b] of [
        [from, to],
        [to, from],
      ]) {
        if (a < 0) continue;
        matrix.set(a, a, matrix.get(a, a) + farads);
        if (b >= 0) matrix.set(a, b, matrix.get(a, b) - farads);
      }
    for (const node of fed) matrix.set(node, node, matrix.get(node, node) + FED_FARADS);
    const elastance = inverse(matrix).to2DArray();
    const driveAt = (time: number) => {
      const sine = Math.sin(2 * Math.PI * hertz * time);
      return sine * (sine > 0 ? peaks.positive : peaks.negative);
    };
    const derivative = (time: number, state: readonly number[]) => {
      const volts = (node: number) => (node >= 0 ? state[node] : 0);
      const inflow = new Array<number>(count).fill(0);
      const flow = (from: number, to: number, amps: number) => {
        if (from >= 0) inflow[from] -= amps;
        if (to >= 0) inflow[to] += amps;
      };
      for (const { from, to, siemens } of resistors) flow(from, to, siemens * (volts(from) - volts(to)));
      for (const node of fed) inflow[node] += (driveAt(time) - volts(node)) / SOURCE_OHMS;
      for (const { anode, cathode, forwardVolts, onSiemens } of diodes) {
        if (onSiemens === 0) continue;
        const forward = (volts(anode) - volts(cathode) - forwardVolts) / SOFT_VOLTS;
        flow(anode, cathode, (SOFT_VOLTS / DIODE_OHMS) * (forward > 30 ? forward : Math.log1p(Math.exp(forward))));
      }
      const change = elastance.map((row) => row.reduce((sum, one, at) => sum + one * inflow[at], 0));
      return [...change, ...state.slice(0, count)];
    };
    const solver = new Solver(2 * count);
    solver.absoluteTolerance = 1e-6 * peaks.positive;
    solver.relativeTolerance = 1e-6;
    solver.maxStepSize = 1 / hertz / 100;
    solver.maxSteps = 1e8;
    let state = [...start, ...new Array<number>(count).fill(0)];
    for (let cycle = 0; cycle < cycles; cycle += 1) {
      state.fill(0, count);
      state = solver.solve(derivative, cycle / hertz, state, (cycle + 1) / hertz).y;
    }
    return state.slice(count).map((integral) => Number((integral * hertz).toPrecision(6)));
  },
);
