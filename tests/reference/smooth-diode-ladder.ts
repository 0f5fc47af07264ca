import type { LadderNetwork } from '../../src/core/ladder/network';
import { Solver } from './odex';

export type ReferenceRun = {
  meanVolts: number;
  ripplePeakToPeakVolts: number;
  diodeCharges: number[];
  /** At the end of the last cycle, in the network's order. */
  capacitorVolts: number[];
};

/**
 * A ladder integrated in time by odex, independent of every closed form:
 * sine source of zero impedance, smooth diodes, a steady load current.
 *
 * State: each capacitor's voltage, the charge through each diode, and the time
 * integral of the output. A diode passes (s / R) ln(1 + exp(v / s)) amperes.
 *
 * @param start capacitor voltages to start from, V
 * @param cycles to run before the one that is reported
 */
export function integrateLadder(
  network: LadderNetwork,
  options: {
    peakVolts: number;
    /** Direct voltage added to the sine. */
    offsetVolts?: number;
    frequencyHertz: number;
    loadAmps: number;
    diodeOhms: number;
    softVolts: number;
    start: readonly number[];
    cycles: number;
  },
): ReferenceRun {
  const { peakVolts, frequencyHertz, loadAmps, diodeOhms, softVolts } = options;
  const count = network.capacitors.length;
  const index = new Map(network.nodes.map((node, at) => [node.id, at]));
  const lower = network.capacitors.map((part) => index.get(part.lower)!);
  const upper = network.capacitors.map((part) => index.get(part.upper)!);
  const anode = network.diodes.map((part) => index.get(part.anode)!);
  const cathode = network.diodes.map((part) => index.get(part.cathode)!);
  const [ground, source, output] = ['ground', 'source', network.output].map((id) => index.get(id)!);

  const nodeVolts = (time: number, state: readonly number[]) => {
    const volts = new Array<number>(network.nodes.length).fill(0);
    volts[source] = (options.offsetVolts ?? 0) + peakVolts * Math.sin(2 * Math.PI * frequencyHertz * time);
    volts[ground] = 0;
    for (let part = 0; part < count; part += 1) volts[upper[part]] = volts[lower[part]] + state[part];
    return volts;
  };
  const derivative = (time: number, state: readonly number[]) => {
    const volts = nodeVolts(time, state);
    const inflow = new Array<number>(network.nodes.length).fill(0);
    const change = new Array<number>(state.length).fill(0);
    inflow[output] -= loadAmps;
    for (let part = 0; part < count; part += 1) {
      const forward = (volts[anode[part]] - volts[cathode[part]]) / softVolts;
      const amps = (softVolts / diodeOhms) * (forward > 30 ? forward : Math.log1p(Math.exp(forward)));
      inflow[anode[part]] -= amps;
      inflow[cathode[part]] += amps;
      change[count + part] = amps;
    }
    for (let part = count - 1; part >= 0; part -= 1) {
      change[part] = inflow[upper[part]] / network.capacitors[part].farads;
      inflow[lower[part]] += inflow[upper[part]];
    }
    change[2 * count] = volts[output];
    return change;
  };

  const solver = new Solver(2 * count + 1);
  solver.absoluteTolerance = 1e-8 * peakVolts;
  solver.relativeTolerance = 1e-8;
  // Between pulses nothing moves; without a bound the integrator would stride over the next one.
  solver.maxStepSize = 1 / frequencyHertz / 100;
  solver.maxSteps = 1e8;
  const period = 1 / frequencyHertz;
  let state: number[] = [...options.start, ...new Array<number>(count + 1).fill(0)];
  let time = 0;
  const advance = (seconds: number) => {
    state = solver.solve(derivative, time, state, time + seconds).y;
    time += seconds;
  };
  for (let cycle = 0; cycle < options.cycles; cycle += 1) {
    advance(period);
    // Totals start afresh each cycle: a relative tolerance on a growing total would hide errors of the size of one cycle's charge.
    state = state.map((value, at) => (at < count ? value : 0));
  }
  let least = Infinity;
  let most = -Infinity;
  const samples = 720;
  for (let sample = 0; sample < samples; sample += 1) {
    advance(period / samples);
    const volts = nodeVolts(time, state)[output];
    least = Math.min(least, volts);
    most = Math.max(most, volts);
  }
  return {
    meanVolts: state[2 * count] / period,
    ripplePeakToPeakVolts: most - least,
    diodeCharges: network.diodes.map((_, part) => state[count + part]),
    capacitorVolts: state.slice(0, count),
  };
}
