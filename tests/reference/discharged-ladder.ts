import type { LadderNetwork } from '../../src/core/topology/network';
import { Solver } from './odex';
import { fromKnownNodes } from './smooth-diode-ladder';

/**
 * A charged ladder with its winding at rest, falling through one resistor at its
 * terminal, integrated by odex and independent of the engine: a diode passes
 * (s / R) ln(1 + exp((v - Vf) / s)) amperes.
 *
 * @param start of each capacitor, V
 * @returns the same after so many seconds, V
 */
export function dischargedLadder(
  network: LadderNetwork,
  start: readonly number[],
  stickOhms: number,
  seconds: number,
  { forwardVolts, diodeOhms, softVolts }: { forwardVolts: number; diodeOhms: number; softVolts: number },
): number[] {
  const index = new Map(network.nodes.map((node, at) => [node.id, at]));
  const branches = fromKnownNodes(
    network,
    network.sources.map(({ node }) => node),
  );
  const derivative = (_: number, state: readonly number[]) => {
    const volts = new Array<number>(network.nodes.length).fill(0);
    for (const { near, far, capacitor, sign } of branches)
      volts[index.get(far)!] = volts[index.get(near)!] + sign * state[capacitor];
    const inflow = new Array<number>(network.nodes.length).fill(0);
    const pass = (from: string, to: string, amps: number) => {
      inflow[index.get(from)!] -= amps;
      inflow[index.get(to)!] += amps;
    };
    const across = (from: string, to: string) => volts[index.get(from)!] - volts[index.get(to)!];
    pass(network.output, network.return, across(network.output, network.return) / stickOhms);
    for (const { anode, cathode } of network.diodes) {
      const over = (across(anode, cathode) - forwardVolts) / softVolts;
      pass(anode, cathode, (softVolts / diodeOhms) * (over > 30 ? over : Math.log1p(Math.exp(over))));
    }
    const change = new Array<number>(state.length).fill(0);
    for (const { near, far, capacitor, sign } of [...branches].reverse()) {
      const amps = inflow[index.get(far)!];
      change[capacitor] = (sign * amps) / network.capacitors[capacitor].farads;
      inflow[index.get(near)!] += amps;
    }
    return change;
  };
  const solver = new Solver(start.length);
  solver.absoluteTolerance = 1e-6 * Math.max(...start.map(Math.abs));
  solver.relativeTolerance = 1e-7;
  solver.maxSteps = 1e8;
  return solver.solve(derivative, 0, [...start], seconds).y;
}
