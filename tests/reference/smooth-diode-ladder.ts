import type { LadderNetwork } from '../../src/core/topology/network';
import { Solver } from './odex';
import { recorded } from './recorded';

export type ReferenceRun = {
  meanVolts: number;
  ripplePeakToPeakVolts: number;
  diodeCharges: number[];
  /** At the end of the last cycle, in the network's order. */
  capacitorVolts: number[];
  /** RMS current of every source that has a winding, A. */
  windingRmsAmps: number[];
  /** RMS current of every capacitor and diode, A, in the network's order. */
  capacitorRmsAmps: number[];
  diodeRmsAmps: number[];
};

/**
 * A ladder integrated in time by odex, independent of every closed form:
 * sine source of zero impedance or behind a winding, smooth diodes, a steady load current between
 * output and return.
 *
 * State: each capacitor's voltage, the charge through each diode, the time
 * integral of the output, each winding's current and the time integral of its
 * square, and those of the squares in each capacitor and diode. A node behind a winding needs a capacitor to ground. A diode passes (s / R) ln(1 + exp(v / s)) amperes.
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
    winding?: { ohms: number; henries: number };
    /** Cycles of each burst, and of the rest at no voltage after it: both together count as one of `cycles`. */
    burst?: { on: number; rest: number };
  },
): ReferenceRun {
  const { peakVolts, frequencyHertz, loadAmps, diodeOhms, softVolts } = options;
  const count = network.capacitors.length;
  const totals = count + network.diodes.length;
  const index = new Map(network.nodes.map((node, at) => [node.id, at]));
  const { winding } = options;
  const known = winding ? [] : network.sources.map((source) => source.node);
  const branches = fromKnownNodes(network, known).map(({ near, far, capacitor, sign }) => ({
    near: index.get(near)!,
    far: index.get(far)!,
    capacitor,
    sign,
  }));
  const anode = network.diodes.map((part) => index.get(part.anode)!);
  const cathode = network.diodes.map((part) => index.get(part.cathode)!);
  const sources = network.sources.map(({ node, sign }) => ({ at: index.get(node)!, sign }));
  const [output, back] = [network.output, network.return].map((id) => index.get(id)!);

  const squares = totals + 1 + (winding ? 2 * sources.length : 0);
  const size = squares + totals;

  const { on, rest } = options.burst ?? { on: 1, rest: 0 };
  const period = (on + rest) / frequencyHertz;
  const driveAt = (time: number) =>
    (time % period) * frequencyHertz < on
      ? (options.offsetVolts ?? 0) + peakVolts * Math.sin(2 * Math.PI * frequencyHertz * time)
      : 0;
  const nodeVolts = (time: number, state: readonly number[]) => {
    const volts = new Array<number>(network.nodes.length).fill(0);
    if (!winding) for (const { at, sign } of sources) volts[at] = sign * driveAt(time);
    for (const { near, far, capacitor, sign } of branches) volts[far] = volts[near] + sign * state[capacitor];
    return volts;
  };
  const derivative = (time: number, state: readonly number[]) => {
    const volts = nodeVolts(time, state);
    const inflow = new Array<number>(network.nodes.length).fill(0);
    const change = new Array<number>(state.length).fill(0);
    if (winding)
      sources.forEach(({ at, sign }, which) => {
        const amps = state[totals + 1 + which];
        inflow[at] += amps;
        change[totals + 1 + which] = (sign * driveAt(time) - volts[at] - winding.ohms * amps) / winding.henries;
        change[totals + 1 + sources.length + which] = amps ** 2;
      });
    inflow[output] -= loadAmps;
    inflow[back] += loadAmps;
    for (let part = 0; part < network.diodes.length; part += 1) {
      const forward = (volts[anode[part]] - volts[cathode[part]]) / softVolts;
      const amps = (softVolts / diodeOhms) * (forward > 30 ? forward : Math.log1p(Math.exp(forward)));
      inflow[anode[part]] -= amps;
      inflow[cathode[part]] += amps;
      change[count + part] = amps;
      change[squares + count + part] = amps ** 2;
    }
    for (let at = branches.length - 1; at >= 0; at -= 1) {
      const { near, far, capacitor, sign } = branches[at];
      change[capacitor] = (sign * inflow[far]) / network.capacitors[capacitor].farads;
      change[squares + capacitor] = inflow[far] ** 2;
      inflow[near] += inflow[far];
    }
    change[totals] = volts[output] - volts[back];
    return change;
  };

  const solver = new Solver(size);
  solver.absoluteTolerance = 1e-8 * peakVolts;
  solver.relativeTolerance = 1e-8;
  // Between pulses nothing moves; without a bound the integrator would stride over the next one.
  solver.maxStepSize = 1 / frequencyHertz / 100;
  solver.maxSteps = 1e8;
  let state: number[] = [...options.start, ...new Array<number>(size - count).fill(0)];
  let time = 0;
  const isWinding = (at: number) => winding !== undefined && at > totals && at <= totals + sources.length;
  const isTotal = (at: number) => at >= count && !isWinding(at);
  const advance = (seconds: number) => {
    state = solver.solve(derivative, time, state, time + seconds).y;
    time += seconds;
  };
  for (let cycle = 0; cycle < options.cycles; cycle += 1) {
    advance(period);
    // Totals start afresh each cycle: a relative tolerance on a growing total would hide errors of the size of one cycle's charge.
    state = state.map((value, at) => (isTotal(at) ? 0 : value));
  }
  let least = Infinity;
  let most = -Infinity;
  const samples = 720;
  for (let sample = 0; sample < samples; sample += 1) {
    advance(period / samples);
    const nodes = nodeVolts(time, state);
    const volts = nodes[output] - nodes[back];
    least = Math.min(least, volts);
    most = Math.max(most, volts);
  }
  return {
    meanVolts: state[totals] / period,
    ripplePeakToPeakVolts: most - least,
    diodeCharges: network.diodes.map((_, part) => state[count + part]),
    capacitorVolts: state.slice(0, count),
    windingRmsAmps: winding
      ? sources.map((_, which) => Math.sqrt(state[totals + 1 + sources.length + which] / period))
      : [],
    capacitorRmsAmps: network.capacitors.map((_, part) => Math.sqrt(state[squares + part] / period)),
    diodeRmsAmps: network.diodes.map((_, part) => Math.sqrt(state[squares + count + part] / period)),
  };
}

/** The same from what was written down of it. */
export const integratedLadder = recorded('smooth-diode-ladder', integrateLadder);

/** Every capacitor from the end that is nearer a known node outwards, `sign` -1 where its lower plate is the farther one. */
export function fromKnownNodes(network: LadderNetwork, known: readonly string[]) {
  const reached = new Set(['ground', ...known]);
  const branches: { near: string; far: string; capacitor: number; sign: 1 | -1 }[] = [];
  while (branches.length < network.capacitors.length) {
    const before = branches.length;
    network.capacitors.forEach(({ lower, upper }, capacitor) => {
      if (reached.has(lower) === reached.has(upper)) return;
      const [near, far, sign] = reached.has(lower) ? ([lower, upper, 1] as const) : ([upper, lower, -1] as const);
      reached.add(far);
      branches.push({ near, far, capacitor, sign });
    });
    if (branches.length === before) throw new Error('a capacitor hangs on no known node');
  }
  return branches;
}
