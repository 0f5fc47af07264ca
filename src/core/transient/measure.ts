import { hasInductance, type Circuit } from './circuit';
import { PeriodRunner, type State } from './period';
import { Stepper } from './stepper';
import type { TimeGrid } from './time-grid';

/** What one period of a circuit shows; volts, amperes and watts, in the order of the circuit's lists. */
export type Measured = {
  /** Mean, least and most of every free node. */
  nodes: { mean: Float64Array; least: Float64Array; most: Float64Array };
  /** Between terminal and return, and across the load behind its resistor. */
  terminal: Range;
  load: Range;
  loadAmps: number;
  bleederAmps: number;
  capacitors: (Range & { meanSquareAmps: number })[];
  diodes: { reverseVolts: number; averageAmps: number; meanSquareAmps: number; peakAmps: number; watts: number }[];
  windings: { meanSquareAmps: number; peakAmps: number }[];
  power: {
    in: number;
    load: number;
    bleeder: number;
    series: number;
    source: number;
    diodes: number;
    /**
     * Lost where edges of the drive charge capacitance, or leakage inductance rings, faster than the steps resolve: in
     * whatever resistance there is.
     */
    edges: number;
    /** Taken up by what is stored: nothing in the steady state. */
    stored: number;
  };
};

type Range = { mean: number; least: number; most: number };

/** Waveforms over one period, a sample at the end of every step. */
export type Waveforms = {
  /** From the start of the period, s. */
  times: Float64Array;
  drive: Float64Array;
  /** Voltage of each free node by its name. */
  nodes: Map<string, Float64Array>;
  diodeAmps: Float64Array[];
  windingAmps: Float64Array[];
};

/**
 * Runs one period and measures it.
 *
 * Currents are steady through each step as the implicit method takes them, so
 * that charge is accounted for exactly.
 *
 * @param state at the start; left at the end of the period
 * @returns null when a step has no solution
 */
export function measurePeriod(
  circuit: Circuit,
  grid: TimeGrid,
  state: State,
): { measured: Measured; waveforms: Waveforms } | null {
  const stepper = new Stepper(circuit);
  const runner = new PeriodRunner(stepper, grid);
  const { steps } = grid;
  const period = grid.times[steps];
  const ladderCapacitors = circuit.capacitors.slice(0, circuit.ladderCapacitors);
  const nodes = {
    mean: new Float64Array(stepper.nodes),
    least: new Float64Array(stepper.nodes).fill(Infinity),
    most: new Float64Array(stepper.nodes).fill(-Infinity),
  };
  const emptyRange = (): Range => ({ mean: 0, least: Infinity, most: -Infinity });
  const terminal = emptyRange();
  const load = emptyRange();
  const capacitors = ladderCapacitors.map(() => ({ ...emptyRange(), meanSquareAmps: 0 }));
  const diodes = circuit.diodes.map(() => ({
    reverseVolts: 0,
    averageAmps: 0,
    meanSquareAmps: 0,
    peakAmps: 0,
    watts: 0,
  }));
  const sources = Math.max(circuit.windings.length, circuit.stiff.length);
  const windings = Array.from({ length: sources }, () => ({ meanSquareAmps: 0, peakAmps: 0 }));
  const power = { in: 0, load: 0, bleeder: 0, series: 0, source: 0, diodes: 0, edges: 0, stored: 0 };
  const waveforms: Waveforms = {
    times: grid.times.slice(1),
    drive: grid.drive.slice(),
    nodes: new Map(circuit.names.map((name) => [name, new Float64Array(steps)])),
    diodeAmps: circuit.diodes.map(() => new Float64Array(steps)),
    windingAmps: windings.map(() => new Float64Array(steps)),
  };
  const byNode = circuit.names.map((name) => waveforms.nodes.get(name)!);
  let loadAmps = 0;
  let bleederAmps = 0;
  const storedAt = (drive: number) =>
    circuit.capacitors.reduce((sum, { from, to, farads }) => {
      const across = stepper.at(to, state.volts, drive) - stepper.at(from, state.volts, drive);
      return sum + (farads * across ** 2) / 2;
    }, 0) +
    circuit.windings.reduce(
      (sum, { henries }, index) => sum + (henries > 0 ? state.flux[index] ** 2 / henries / 2 : 0),
      0,
    );
  const startDrive = grid.drive[steps - 1];
  // The charges are what counts; voltages are found again from them on the first step, and here for what is stored.
  const before = { volts: state.volts.slice(), drive: startDrive };
  const storedBefore = storedAt(startDrive);
  const stiffCharge = new Float64Array(circuit.stiff.length);
  const stiffChargeAt = (volts: Float64Array, drive: number) => {
    stiffCharge.fill(0);
    for (const { from, to, farads } of circuit.capacitors) {
      const across = farads * (stepper.at(to, volts, drive) - stepper.at(from, volts, drive));
      if (to < -1) stiffCharge[-2 - to] += across;
      if (from < -1) stiffCharge[-2 - from] -= across;
    }
    return Array.from(stiffCharge);
  };
  const inductive = hasInductance(circuit);
  const edged = grid.afterEdge.includes(1);
  const damped = inductive && circuit.ringing === 'damped';
  // There the steps themselves let energy go: exactly what implicit Euler loses with the drive at each step's end.
  const lossy = damped || (edged && !inductive);
  const lastAmps = new Float64Array(circuit.windings.length);
  const firstAmps = new Float64Array(circuit.windings.length);
  let stiffBefore = stiffChargeAt(state.volts, startDrive);

  /** Power that inductances lose as their currents change over from one step to the next. */
  const cutOff = (amps: Float64Array) =>
    circuit.windings.reduce(
      (sum, { henries }, index) => sum + (henries * (amps[index] - lastAmps[index]) ** 2) / 2 / period,
      0,
    );

  const acrossBefore = (from: number, to: number) =>
    stepper.at(to, before.volts, before.drive) - stepper.at(from, before.volts, before.drive);
  const widen = (range: Range, volts: number, fraction: number) => {
    range.mean += fraction * volts;
    range.least = Math.min(range.least, volts);
    range.most = Math.max(range.most, volts);
  };
  const finished = runner.period(state, (seconds, step, drive, volts, windingAmps) => {
    const fraction = seconds / period;
    const at = (node: number) => stepper.at(node, volts, drive);
    for (let node = 0; node < byNode.length; node += 1) {
      byNode[node][step] = volts[node];
      nodes.mean[node] += fraction * volts[node];
      nodes.least[node] = Math.min(nodes.least[node], volts[node]);
      nodes.most[node] = Math.max(nodes.most[node], volts[node]);
    }
    const out = at(circuit.output) - at(circuit.return);
    const across = at(circuit.load) - at(circuit.return);
    widen(terminal, out, fraction);
    widen(load, across, fraction);
    ladderCapacitors.forEach(({ from, to, farads }, index) => {
      const across = at(to) - at(from);
      const moved = across - acrossBefore(from, to);
      widen(capacitors[index], across, fraction);
      capacitors[index].meanSquareAmps += fraction * ((farads * moved) / seconds) ** 2;
    });
    const drawn = circuit.loads.reduce(
      (sum, one, index) => sum + one.law.amps(across, stepper.arcs[index] === 1),
      circuit.loadSiemens * across,
    );
    loadAmps += fraction * drawn;
    bleederAmps += fraction * circuit.bleederSiemens * out;
    power.load += fraction * drawn * across;
    power.series += fraction * drawn ** 2 * circuit.seriesOhms;
    power.bleeder += fraction * circuit.bleederSiemens * out ** 2;
    const stiffAmps = new Float64Array(circuit.stiff.length);
    circuit.diodes.forEach(({ anode, cathode, forwardVolts, onSiemens, leakSiemens, transitSeconds }, index) => {
      const over = at(anode) - at(cathode);
      const wasOver = stepper.at(anode, before.volts, before.drive) - stepper.at(cathode, before.volts, before.drive);
      const conducted = onSiemens * Math.max(0, over - forwardVolts);
      const held = (transitSeconds * (conducted - onSiemens * Math.max(0, wasOver - forwardVolts))) / seconds;
      const amps = conducted + leakSiemens * over + held;
      const one = diodes[index];
      one.averageAmps += fraction * amps;
      one.meanSquareAmps += fraction * amps ** 2;
      one.peakAmps = Math.max(one.peakAmps, amps);
      one.reverseVolts = Math.max(one.reverseVolts, -over);
      power.diodes += fraction * amps * over;
      one.watts += fraction * amps * over;
      waveforms.diodeAmps[index][step] = amps;
      if (anode < -1) stiffAmps[-2 - anode] += amps;
      if (cathode < -1) stiffAmps[-2 - cathode] -= amps;
    });
    const source = (index: number, sign: number, amps: number) => {
      windings[index].meanSquareAmps += fraction * amps ** 2;
      windings[index].peakAmps = Math.max(windings[index].peakAmps, Math.abs(amps));
      waveforms.windingAmps[index][step] = amps;
      // Charge is taken up while a sine moves on through the step: at the mean of its ends.
      power.in += fraction * amps * sign * (edged || damped ? drive : (drive + before.drive) / 2);
    };
    circuit.windings.forEach(({ sign, ohms }, index) => {
      const amps = windingAmps[index];
      power.source += fraction * amps ** 2 * ohms;
      source(index, sign, amps);
    });
    if (circuit.stiff.length) {
      const stiffNow = stiffChargeAt(volts, drive);
      circuit.stiff.forEach((sign, index) =>
        source(index, sign, stiffAmps[index] + (stiffNow[index] - stiffBefore[index]) / seconds),
      );
      stiffBefore = stiffNow;
    }
    if (lossy)
      for (const { from, to, farads } of circuit.capacitors) {
        const moved = at(to) - at(from) - acrossBefore(from, to);
        power.edges += (farads * moved ** 2) / 2 / period;
      }
    if (step === 0) firstAmps.set(windingAmps);
    else if (damped) power.edges += cutOff(windingAmps);
    lastAmps.set(windingAmps);
    before.volts.set(volts);
    before.drive = drive;
  });
  if (!finished) return null;
  if (damped) power.edges += cutOff(firstAmps);
  power.stored = (storedAt(startDrive) - storedBefore) / period;
  return {
    measured: { nodes, terminal, load, loadAmps, bleederAmps, capacitors, diodes, windings, power },
    waveforms,
  };
}
