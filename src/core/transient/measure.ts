import { hasInductance, junctionCharge, junctionJoules, type Circuit } from './circuit';
import { DriverMeter, type DriverCourse, type Step } from './driver-meter';
import { copyOf, PeriodRunner, type State } from './period';
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
  /** Mean squares at the load, V² and A². */
  loadSquares: { volts: number; amps: number };
  acrossAmps: number;
  capacitors: (Range & { meanSquareAmps: number })[];
  diodes: { reverseVolts: number; averageAmps: number; meanSquareAmps: number; peakAmps: number; watts: number }[];
  /** What feeds the ladder, one winding after the other. */
  windings: { meanSquareAmps: number; peakAmps: number }[];
  power: {
    in: number;
    load: number;
    /** In what stands across the terminal. */
    across: number;
    series: number;
    source: number;
    /** Lost before the ladder: in switches, clamp, core, choke and supply; of a driver run as a circuit alone. */
    driver: number;
    diodes: number;
    /**
     * Lost where edges of the drive charge capacitance, or leakage inductance rings, faster than the steps resolve: in
     * whatever resistance there is.
     */
    edges: number;
    /** Taken up by what is stored: nothing in the steady state. */
    stored: number;
  };
  /** How long the period took, s. */
  seconds: number;
  /** What the driver's own probes read, in the order of the circuit's list. */
  probes: number[];
};

/** Power in less power accounted for, over power in; null without power. */
export function powerResidue({ in: input, ...taken }: Measured['power']): number | null {
  const accounted = Object.values(taken).reduce((sum, one) => sum + one, 0);
  return input > 0 ? (input - accounted) / input : null;
}

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
  /** Of a driver that is part of the circuit. */
  driver: DriverCourse[];
};

/**
 * Runs one period and measures it.
 *
 * Currents are steady through each step as the implicit method takes them, so
 * that charge is accounted for exactly.
 *
 * @param state at the start; left at the end of the period
 * @param stepper to run it with, where there is one already
 * @returns null when a step has no solution
 */
export function measurePeriod(
  circuit: Circuit,
  grid: TimeGrid,
  state: State,
  stepper: Stepper = new Stepper(circuit),
): { measured: Measured; waveforms: Waveforms } | null {
  const course = courseOf(circuit, grid, state);
  if (!course) return null;
  const meter = new PeriodMeter(circuit, grid, stepper, state.volts, course);
  const storedBefore = storedJoules(circuit, stepper, state, meter.startDrive);
  const runner = new PeriodRunner(stepper, grid);
  const finished = runner.period(state, (seconds, _at, drive, volts, inductorAmps) =>
    meter.take({ seconds, drive, volts, inductorAmps }),
  );
  if (!finished) return null;
  const measured = meter.finish();
  const stored = storedJoules(circuit, stepper, state, meter.startDrive) - storedBefore;
  measured.power.stored = stored / runner.seconds;
  return { measured, waveforms: meter.waveforms };
}

/** Steps of a period and how long it is, s: found by running it where it ends when something happens. */
function courseOf(circuit: Circuit, grid: TimeGrid, state: State): Course | null {
  if (grid.phases.every(({ until }) => until === null))
    return { steps: grid.steps, seconds: grid.times[grid.steps], times: grid.times.slice(1) };
  const times: number[] = [];
  let seconds = 0;
  const done = new PeriodRunner(new Stepper(circuit), grid).period(copyOf(state), (length) => {
    seconds += length;
    times.push(seconds);
  });
  return done ? { steps: times.length, seconds, times: Float64Array.from(times) } : null;
}

type Course = { steps: number; seconds: number; times: Float64Array };

/** What capacitances, junctions and inductances hold, J. */
function storedJoules(circuit: Circuit, stepper: Stepper, { volts, flux }: State, drive: number): number {
  return (
    circuit.capacitors.reduce((sum, { from, to, farads }) => {
      const across = stepper.at(to, volts, drive) - stepper.at(from, volts, drive);
      return sum + (farads * across ** 2) / 2;
    }, 0) +
    circuit.junctions.reduce((sum, junction) => {
      const between = stepper.at(junction.anode, volts, drive) - stepper.at(junction.cathode, volts, drive);
      return sum + junctionJoules(junction, between);
    }, 0) +
    circuit.inductors.reduce((sum, { henries, saturation }, index) => {
      const over = saturation ? Math.max(0, Math.abs(flux[index]) - saturation.fluxVoltSeconds) : 0;
      const beyond = saturation ? (over ** 2 * (1 / saturation.henries - 1 / henries)) / 2 : 0;
      return sum + (henries > 0 ? flux[index] ** 2 / henries / 2 : 0) + beyond;
    }, 0)
  );
}

const emptyRange = (): Range => ({ mean: 0, least: Infinity, most: -Infinity });

function widen(range: Range, volts: number, fraction: number): void {
  range.mean += fraction * volts;
  range.least = Math.min(range.least, volts);
  range.most = Math.max(range.most, volts);
}

/** Adds up what the steps of one period show. */
class PeriodMeter {
  readonly waveforms: Waveforms;
  /** Drive at the start of the period, which is that at its end. */
  readonly startDrive: number;
  private readonly measured: Measured;
  private readonly period: number;
  private readonly byNode: Float64Array[];
  private readonly ladderCapacitors: Circuit['capacitors'];
  /** What stood at the end of the step before. */
  private readonly before: { volts: Float64Array; drive: number };
  /** Charge on the capacitances of each source that has no winding, before and now. */
  private stiffBefore: Float64Array;
  private stiffNow: Float64Array;
  private readonly stiffAmps: Float64Array;
  /** Of a driver run as a circuit: there powers go with the mean of a step's ends, as the inductances' do. */
  private readonly driver: DriverMeter | null;
  private done = 0;
  private readonly edged: boolean;
  private readonly damped: boolean;
  /** Whether the steps themselves let energy go: exactly what implicit Euler loses with the drive at each step's end. */
  private readonly lossy: boolean;
  private readonly firstAmps: Float64Array;
  private readonly lastAmps: Float64Array;

  constructor(
    private readonly circuit: Circuit,
    grid: TimeGrid,
    private readonly stepper: Stepper,
    startVolts: Float64Array,
    { steps, seconds, times }: Course,
  ) {
    this.period = seconds;
    this.startDrive = grid.drive[grid.steps - 1];
    this.driver = circuit.supply ? new DriverMeter(circuit, stepper, startVolts, { steps, seconds }) : null;
    this.ladderCapacitors = circuit.capacitors.slice(0, circuit.ladderCapacitors);
    const { stiff, count } = circuit.sources;
    const windings = Array.from({ length: count }, () => ({ meanSquareAmps: 0, peakAmps: 0 }));
    this.measured = {
      nodes: {
        mean: new Float64Array(stepper.nodes),
        least: new Float64Array(stepper.nodes).fill(Infinity),
        most: new Float64Array(stepper.nodes).fill(-Infinity),
      },
      terminal: emptyRange(),
      load: emptyRange(),
      loadAmps: 0,
      loadSquares: { volts: 0, amps: 0 },
      acrossAmps: 0,
      capacitors: this.ladderCapacitors.map(() => ({ ...emptyRange(), meanSquareAmps: 0 })),
      diodes: circuit.diodes.map(() => ({
        reverseVolts: 0,
        averageAmps: 0,
        meanSquareAmps: 0,
        peakAmps: 0,
        watts: 0,
      })),
      windings,
      power: { in: 0, load: 0, across: 0, series: 0, source: 0, driver: 0, diodes: 0, edges: 0, stored: 0 },
      seconds,
      probes: [],
    };
    this.waveforms = {
      times,
      drive: new Float64Array(steps),
      nodes: new Map(circuit.names.map((name) => [name, new Float64Array(steps)])),
      diodeAmps: circuit.diodes.map(() => new Float64Array(steps)),
      windingAmps: windings.map(() => new Float64Array(steps)),
      driver: this.driver?.courses ?? [],
    };
    this.byNode = circuit.names.map((name) => this.waveforms.nodes.get(name)!);
    // The charges are what counts; voltages are found again from them on the first step, and here for what is stored.
    this.before = { volts: startVolts.slice(), drive: this.startDrive };
    const stiffSources = stiff ? count : 0;
    this.stiffAmps = new Float64Array(stiffSources);
    this.stiffNow = new Float64Array(stiffSources);
    this.stiffBefore = new Float64Array(stiffSources);
    this.chargeStiff(this.stiffBefore, startVolts, this.startDrive);
    const inductive = hasInductance(circuit);
    this.edged = grid.afterEdge.includes(1);
    this.damped = inductive && circuit.ringing === 'damped';
    this.lossy = this.damped || (this.edged && !inductive);
    this.firstAmps = new Float64Array(circuit.inductors.length);
    this.lastAmps = new Float64Array(circuit.inductors.length);
  }

  take(taken: Omit<Step, 'at'>): void {
    const step = { ...taken, at: this.done };
    const { drive, volts, inductorAmps } = step;
    this.waveforms.drive[step.at] = drive;
    this.takeNodes(step);
    this.takeOutput(step);
    this.takeCapacitors(step);
    this.takeDiodes(step);
    this.takeSources(step);
    this.driver?.take(step);
    if (step.at === 0) this.firstAmps.set(inductorAmps);
    else if (this.damped) this.measured.power.edges += this.cutOff(inductorAmps);
    this.lastAmps.set(inductorAmps);
    this.before.volts.set(volts);
    this.before.drive = drive;
    this.done += 1;
  }

  finish(): Measured {
    if (this.damped) this.measured.power.edges += this.cutOff(this.firstAmps);
    if (this.driver) {
      const { inWatts, lostWatts, probes } = this.driver.finish();
      this.measured.power.in = inWatts;
      this.measured.power.driver = lostWatts;
      this.measured.probes = probes;
    }
    return this.measured;
  }

  private across(from: number, to: number, { volts, drive }: Pick<Step, 'volts' | 'drive'>): number {
    return this.stepper.at(to, volts, drive) - this.stepper.at(from, volts, drive);
  }

  /** What a current works against through a step: at its end, or with a driver in the circuit the mean of its ends. */
  private workedAgainst(from: number, to: number, step: Step): number {
    const now = this.across(from, to, step);
    return this.driver ? (now + this.across(from, to, this.before)) / 2 : now;
  }

  private takeNodes({ seconds, at, volts }: Step): void {
    const fraction = seconds / this.period;
    const { nodes } = this.measured;
    for (let node = 0; node < this.byNode.length; node += 1) {
      this.byNode[node][at] = volts[node];
      nodes.mean[node] += fraction * volts[node];
      nodes.least[node] = Math.min(nodes.least[node], volts[node]);
      nodes.most[node] = Math.max(nodes.most[node], volts[node]);
    }
  }

  private takeOutput(step: Step): void {
    const { circuit, measured } = this;
    const { power } = measured;
    const fraction = step.seconds / this.period;
    const out = this.across(circuit.return, circuit.output, step);
    const across = this.across(circuit.return, circuit.load, step);
    widen(measured.terminal, out, fraction);
    widen(measured.load, across, fraction);
    measured.loadSquares.volts += fraction * across ** 2;
    const amps = circuit.loads.reduce(
      (sum, one, index) => sum + one.law.amps(across, this.stepper.arcs[index] === 1),
      circuit.loadSiemens * across,
    );
    measured.loadAmps += fraction * amps;
    measured.loadSquares.amps += fraction * amps ** 2;
    power.load += fraction * amps * this.workedAgainst(circuit.return, circuit.load, step);
    for (const { from, to, siemens } of circuit.across) {
      const through = siemens * this.across(to, from, step);
      measured.acrossAmps += fraction * through;
      power.across += fraction * through * this.workedAgainst(to, from, step);
    }
    for (const { from, to, siemens } of circuit.onTheWay)
      power.series += fraction * siemens * this.across(to, from, step) * this.workedAgainst(to, from, step);
    const firstChoke = circuit.inductors.length - circuit.chokes;
    for (let index = firstChoke; index < circuit.inductors.length; index += 1)
      power.series += fraction * step.inductorAmps[index] ** 2 * circuit.inductors[index].ohms;
  }

  private takeCapacitors(step: Step): void {
    const { seconds } = step;
    const { capacitors, power } = this.measured;
    const fraction = seconds / this.period;
    this.ladderCapacitors.forEach(({ from, to, farads }, index) => {
      const across = this.across(from, to, step);
      const moved = across - this.across(from, to, this.before);
      widen(capacitors[index], across, fraction);
      capacitors[index].meanSquareAmps += fraction * ((farads * moved) / seconds) ** 2;
    });
    if (!this.lossy) return;
    for (const { from, to, farads } of this.circuit.capacitors) {
      const moved = this.across(from, to, step) - this.across(from, to, this.before);
      power.edges += (farads * moved ** 2) / 2 / this.period;
    }
    for (const junction of this.circuit.junctions) {
      const [now, was] = [step, this.before].map((at) => this.across(junction.cathode, junction.anode, at));
      const brought = now * (junctionCharge(junction, now) - junctionCharge(junction, was));
      power.edges += (brought - (junctionJoules(junction, now) - junctionJoules(junction, was))) / this.period;
    }
  }

  private takeDiodes(step: Step): void {
    const { seconds } = step;
    const { power } = this.measured;
    const fraction = seconds / this.period;
    this.stiffAmps.fill(0);
    this.circuit.diodes.forEach(({ anode, cathode, forwardVolts, onSiemens, leakSiemens, transitSeconds }, index) => {
      const over = this.across(cathode, anode, step);
      const wasOver = this.across(cathode, anode, this.before);
      const conducted = onSiemens * Math.max(0, over - forwardVolts);
      const held = (transitSeconds * (conducted - onSiemens * Math.max(0, wasOver - forwardVolts))) / seconds;
      const amps = conducted + leakSiemens * over + held;
      const one = this.measured.diodes[index];
      one.averageAmps += fraction * amps;
      one.meanSquareAmps += fraction * amps ** 2;
      one.peakAmps = Math.max(one.peakAmps, amps);
      one.reverseVolts = Math.max(one.reverseVolts, -over);
      if (index < this.circuit.ladderDiodes)
        power.diodes += fraction * amps * (this.driver ? this.workedAgainst(cathode, anode, step) : over);
      one.watts += fraction * amps * over;
      this.waveforms.diodeAmps[index][step.at] = amps;
      if (anode < -1) this.stiffAmps[-2 - anode] += amps;
      if (cathode < -1) this.stiffAmps[-2 - cathode] -= amps;
    });
  }

  /** Currents that sources give: those of windings, and where there is none what diodes and capacitances take. */
  private takeSources(step: Step): void {
    const { circuit } = this;
    const { seconds, inductorAmps } = step;
    const fraction = seconds / this.period;
    if (!circuit.sources.stiff) {
      for (let index = 0; index < circuit.sources.count; index += 1) {
        const amps = inductorAmps[index];
        this.measured.power.source += fraction * amps ** 2 * circuit.inductors[index].ohms;
        this.takeSource(index, amps, step);
      }
      return;
    }
    this.chargeStiff(this.stiffNow, step.volts, step.drive);
    for (let index = 0; index < circuit.sources.count; index += 1) {
      const charged = (this.stiffNow[index] - this.stiffBefore[index]) / seconds;
      this.takeSource(index, this.stiffAmps[index] + charged, step);
    }
    [this.stiffBefore, this.stiffNow] = [this.stiffNow, this.stiffBefore];
  }

  private takeSource(index: number, amps: number, { seconds, at, drive }: Step): void {
    const fraction = seconds / this.period;
    const winding = this.measured.windings[index];
    winding.meanSquareAmps += fraction * amps ** 2;
    winding.peakAmps = Math.max(winding.peakAmps, Math.abs(amps));
    this.waveforms.windingAmps[index][at] = amps;
    // Charge is taken up while a sine moves on through the step: at the mean of its ends.
    const through = this.edged || this.damped ? drive : (drive + this.before.drive) / 2;
    if (!this.driver) this.measured.power.in += fraction * amps * this.circuit.known[index].drive * through;
  }

  private chargeStiff(charge: Float64Array, volts: Float64Array, drive: number): void {
    charge.fill(0);
    for (const { from, to, farads } of this.circuit.capacitors) {
      const across = farads * (this.stepper.at(to, volts, drive) - this.stepper.at(from, volts, drive));
      if (to < -1) charge[-2 - to] += across;
      if (from < -1) charge[-2 - from] -= across;
    }
    for (const junction of this.circuit.junctions) {
      const { anode, cathode } = junction;
      const between = this.stepper.at(anode, volts, drive) - this.stepper.at(cathode, volts, drive);
      const held = junctionCharge(junction, between);
      if (anode < -1) charge[-2 - anode] += held;
      if (cathode < -1) charge[-2 - cathode] -= held;
    }
  }

  /** Power that inductances lose as their currents change over from one step to the next. */
  private cutOff(amps: Float64Array): number {
    return this.circuit.inductors.reduce(
      (sum, { henries }, index) => sum + (henries * (amps[index] - this.lastAmps[index]) ** 2) / 2 / this.period,
      0,
    );
  }
}
