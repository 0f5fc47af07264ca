import { hasInductance } from './circuit';
import { same, type Stepper } from './stepper';
import type { TimeGrid } from './time-grid';

/** What a circuit remembers from one moment to the next. */
export type State = {
  /** Charge of every free node, C. */
  charge: Float64Array;
  /** Flux that every winding's leakage inductance starts its next step from, what is known of that step's push included, Vs. */
  flux: Float64Array;
  /** Node voltages, V: follow from the charges, kept as the next guess. */
  volts: Float64Array;
};

/** Every capacitor empty, no current. */
export function emptyState(nodes: number, windings: number): State {
  return { charge: new Float64Array(nodes), flux: new Float64Array(windings), volts: new Float64Array(nodes) };
}

export function copyOf(state: State): State {
  return { charge: state.charge.slice(), flux: state.flux.slice(), volts: state.volts.slice() };
}

export function assignState(into: State, from: State): void {
  into.charge.set(from.charge);
  into.flux.set(from.flux);
  into.volts.set(from.volts);
}

/**
 * Called at the end of every step with its length, s, the drive and the solution there, and the current of every
 * winding, A; what flows is steady through a step.
 */
export type StepListener = (
  seconds: number,
  step: number,
  drive: number,
  volts: Float64Array,
  windingAmps: Float64Array,
) => void;

/** From the middle of one step to the middle of the next, s. */
const betweenMiddles = (one: number, next: number) => (one + next) / 2;

/** Fraction of a period without conduction that the derivative may take in one stage. */
const LONGEST_TAKEN_AS_ONE = 1 / 24;

/**
 * Steps a circuit through time by the implicit Euler method, inductances by the
 * leapfrog scheme.
 *
 * Implicit Euler is of first order only, but keeps the order of voltages: no
 * step can overshoot or ring, whatever the diodes do, and where capacitors
 * settle fast against a step it is exact. Methods of second order overshoot
 * where a diode opens within a step, by enough to leave other diodes idle. What
 * the step length costs is taken out by comparing two grids (see
 * `transient.ts`). It would damp a leakage inductance that rings with strays,
 * though, and lose the energy: there the current of a step stands for its
 * middle and is pushed by the voltages between the middles, which loses none
 * (Hairer, Lubich, Wanner: Geometric Numerical Integration, 2006, I.1.4, from
 * memory), as far as the steps resolve the ringing.
 */
export class PeriodRunner {
  readonly stepper: Stepper;
  readonly grid: TimeGrid;
  /** Current of every winding through the last step, A. */
  readonly windingAmps: Float64Array;

  constructor(stepper: Stepper, grid: TimeGrid) {
    this.stepper = stepper;
    this.grid = grid;
    this.windingAmps = new Float64Array(stepper.circuit.windings.length);
  }

  /**
   * Advances the state by a step of any length with the drive at its end; false when it has no solution.
   *
   * @param next length of the step after it, s, and what the drive pushes with from the middle of one to the other
   */
  advance(state: State, seconds: number, drive: number, next = { seconds, push: drive }): boolean {
    const { stepper } = this;
    const { charge, flux, volts } = state;
    if (!stepper.solveStage(seconds, charge, flux, drive, volts)) return false;
    stepper.chargeAt(volts, drive, charge);
    const { windings } = stepper.circuit;
    for (let index = 0; index < windings.length; index += 1) {
      const { node, sign, henries } = windings[index];
      const amps = stepper.windingAmps(index, seconds, flux[index], drive, volts);
      this.windingAmps[index] = amps;
      flux[index] = henries * amps;
      if (henries > 0)
        flux[index] +=
          stepper.known(index, next.seconds) * betweenMiddles(seconds, next.seconds) * (sign * next.push - volts[node]);
    }
    return true;
  }

  /** Runs a whole period; false when a step has no solution. */
  period(state: State, listen?: StepListener, sensitivity?: Sensitivity): boolean {
    return this.stretch(state, 0, this.grid.steps, listen, sensitivity) && (sensitivity?.finish() ?? true);
  }

  /** Runs so many steps of the grid from one of them on, over the end of the period and around; false when one has no solution. */
  stretch(state: State, first: number, count: number, listen?: StepListener, sensitivity?: Sensitivity): boolean {
    const { steps, seconds, drive, afterEdge } = this.grid;
    const next = { seconds: 0, push: 0 };
    for (let done = 0; done < count; done += 1) {
      const step = (first + done) % steps;
      const after = (step + 1) % steps;
      next.seconds = seconds[after];
      // Across an edge each level pushes through its own half.
      next.push = afterEdge[after]
        ? (seconds[step] * drive[step] + seconds[after] * drive[after]) / (seconds[step] + seconds[after])
        : drive[step];
      if (!this.advance(state, seconds[step], drive[step], next)) return false;
      listen?.(seconds[step], step, drive[step], state.volts, this.windingAmps);
      sensitivity?.step(seconds[step], seconds[after]);
    }
    return true;
  }
}

/**
 * How the state at the end of a period answers to a change of the state at its
 * start: the derivative of the period map, carried along behind the steps.
 *
 * Exact but for the kinks, where it takes the side the step was on, and for
 * successive steps in which no diode conducts, which are taken as one: there the
 * circuit hardly moves. Where inductance makes it ring each step is taken by
 * itself.
 */
export class Sensitivity {
  readonly count: number;
  /** Charges (nodes first) and fluxes by row, one column for each entry of the starting state. */
  readonly rows: Float64Array;
  private readonly nodes: number;
  private readonly base: Float64Array;
  private readonly volts: Float64Array;
  private readonly conducting: Uint8Array;
  private readonly slopes: Float64Array;
  private readonly mostSeconds: number;
  private pending = 0;
  private nextSeconds = 0;
  private failed = false;

  constructor(private readonly stepper: Stepper) {
    const { circuit } = stepper;
    this.nodes = stepper.nodes;
    this.count = stepper.nodes + circuit.windings.length;
    this.rows = new Float64Array(this.count * this.count);
    this.base = new Float64Array(this.count * this.count);
    this.volts = new Float64Array(this.nodes * this.count);
    this.conducting = new Uint8Array(circuit.diodes.length);
    this.slopes = new Float64Array(circuit.loads.length);
    this.mostSeconds = hasInductance(circuit) ? 0 : LONGEST_TAKEN_AS_ONE / circuit.hertz;
    this.restart();
  }

  restart(): void {
    this.rows.fill(0);
    for (let at = 0; at < this.count; at += 1) this.rows[at * this.count + at] = 1;
    this.pending = 0;
    this.failed = false;
  }

  /** Notes a step of the circuit, whose kinks at its end the stepper still has, and the length of the next. */
  step(seconds: number, nextSeconds: number): void {
    const { conducting, loadSlopes } = this.stepper;
    if (
      this.pending > 0 &&
      (this.pending + seconds > this.mostSeconds ||
        conducting.includes(1) ||
        this.conducting.includes(1) ||
        !same(loadSlopes, this.slopes))
    )
      this.carry();
    if (this.pending === 0) {
      this.conducting.set(conducting);
      this.slopes.set(loadSlopes);
    }
    this.pending += seconds;
    this.nextSeconds = nextSeconds;
  }

  /** Carries along what is still pending; false when a factor was not to be had. */
  finish(): boolean {
    if (this.pending > 0) this.carry();
    return !this.failed;
  }

  private carry(): void {
    // A rounded length lets lengths that should be alike share a factor.
    const g = this.mostSeconds === 0 ? this.pending : Number(this.pending.toPrecision(9));
    this.pending = 0;
    const factor = this.stepper.factorFor(g, this.conducting, this.slopes);
    if (!factor) {
      this.failed = true;
      return;
    }
    const { nodes, count, volts, rows, base } = this;
    const { windings, diodes, loads, resistors } = this.stepper.circuit;
    base.set(rows);
    volts.set(base.subarray(0, nodes * count));
    windings.forEach(({ node, ohms, henries }, index) => {
      if (henries === 0) return;
      const part = g / (g * ohms + henries);
      for (let side = 0; side < count; side += 1)
        volts[node * count + side] += part * base[(nodes + index) * count + side];
    });
    factor.solveMany(volts, count);
    // What the currents carried away; the rest of the base is still there as charge.
    const take = (from: number, to: number, conductance: number) => {
      if (conductance === 0) return;
      for (let side = 0; side < count; side += 1) {
        const between = (from >= 0 ? volts[from * count + side] : 0) - (to >= 0 ? volts[to * count + side] : 0);
        const charge = conductance * between;
        if (from >= 0) rows[from * count + side] -= charge;
        if (to >= 0) rows[to * count + side] += charge;
      }
    };
    for (let index = 0; index < diodes.length; index += 1) {
      const { anode, cathode, leakSiemens, onSiemens } = diodes[index];
      take(anode, cathode, g * (leakSiemens + (this.conducting[index] ? onSiemens : 0)));
    }
    for (const { from, to, siemens } of resistors) take(from, to, g * siemens);
    loads.forEach((load, index) => take(load.from, load.to, g * this.slopes[index]));
    windings.forEach(({ node, ohms, henries }, index) => {
      const inverse = 1 / (g * ohms + henries);
      const ahead = (1 - this.stepper.known(index, g)) * g;
      const known = henries > 0 ? this.stepper.known(index, this.nextSeconds) * betweenMiddles(g, this.nextSeconds) : 0;
      const fluxRow = (nodes + index) * count;
      for (let side = 0; side < count; side += 1) {
        const here = volts[node * count + side];
        const amps = (base[fluxRow + side] - ahead * here) * inverse;
        rows[node * count + side] += g * amps;
        rows[fluxRow + side] = henries * amps - known * here;
      }
    });
  }
}
