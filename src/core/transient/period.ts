import type { BandedFactor } from '../numeric/banded-factor';
import { rootBetween } from '../numeric/root';
import { hasInductance, type Circuit, type CircuitEvent } from './circuit';
import { same, type Stepper } from './stepper';
import type { Phase, TimeGrid } from './time-grid';

/** What a circuit remembers from one moment to the next. */
export type State = {
  /** Charge of every free node, C. */
  charge: Float64Array;
  /** Flux that every inductance starts its next step from, what is known of that step's push included, Vs. */
  flux: Float64Array;
  /** What stood across it at the end of the last step, V. */
  past: Float64Array;
  /** Node voltages, V: follow from the charges, kept as the next guess. */
  volts: Float64Array;
};

/** Every capacitor empty, no current. */
export function emptyState({ names, inductors }: Pick<Circuit, 'names' | 'inductors'>): State {
  return {
    charge: new Float64Array(names.length),
    flux: new Float64Array(inductors.length),
    past: new Float64Array(inductors.length),
    volts: new Float64Array(names.length),
  };
}

export function copyOf(state: State): State {
  return {
    charge: state.charge.slice(),
    flux: state.flux.slice(),
    past: state.past.slice(),
    volts: state.volts.slice(),
  };
}

export function assignState(into: State, from: State): void {
  into.charge.set(from.charge);
  into.flux.set(from.flux);
  into.past.set(from.past);
  into.volts.set(from.volts);
}

/**
 * Called at the end of every step with its length, s, the drive and the solution there, and the current of every
 * inductance, A; what flows is steady through a step.
 */
export type StepListener = (
  seconds: number,
  step: number,
  drive: number,
  volts: Float64Array,
  inductorAmps: Float64Array,
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
  /** Current of every inductance through the last step, A. */
  readonly inductorAmps: Float64Array;
  /** How long the last period took, s. */
  seconds: number;
  private readonly before: State;
  private readonly shifted: State;
  /** What stood across the inductances a step before the last, V. */
  private readonly earlier: Float64Array;

  constructor(stepper: Stepper, grid: TimeGrid) {
    this.stepper = stepper;
    this.grid = grid;
    this.inductorAmps = new Float64Array(stepper.circuit.inductors.length);
    this.before = emptyState(stepper.circuit);
    this.shifted = emptyState(stepper.circuit);
    this.earlier = new Float64Array(stepper.circuit.inductors.length);
    this.seconds = grid.times[grid.steps];
  }

  /**
   * Advances the state by a step of any length with the drive at its end; false when it has no solution.
   *
   * @param next length of the step after it, s, what the drive pushes with from the middle of one to the other, and which
   *   switches are closed then
   */
  advance(
    state: State,
    seconds: number,
    drive: number,
    next: NextStep = { seconds, push: drive, closed: this.stepper.closed },
  ): boolean {
    const { stepper } = this;
    const { charge, flux, volts } = state;
    if (!stepper.solveStage(seconds, charge, flux, drive, volts)) return false;
    stepper.chargeAt(volts, drive, charge);
    const { inductors } = stepper.circuit;
    for (let index = 0; index < inductors.length; index += 1) {
      const { ohms, henries } = inductors[index];
      this.inductorAmps[index] = stepper.inductorAmps(index, seconds, flux[index], drive, volts);
      const across = stepper.acrossInductor(index, volts, drive);
      const pushed = flux[index] + stepper.ahead(index, seconds) * seconds * across;
      flux[index] = (henries * pushed) / (seconds * ohms + henries || 1);
      this.earlier[index] = state.past[index];
      state.past[index] = across;
    }
    this.push(state, this.earlier, next.push, betweenMiddles(seconds, next.seconds), next);
    return true;
  }

  /** Adds to the fluxes what is known of the push of a step ahead, for so many seconds of it. */
  private push(
    state: State,
    earlier: Float64Array,
    drive: number,
    seconds: number,
    { seconds: length, closed }: Pick<NextStep, 'seconds' | 'closed'>,
  ): void {
    const { stepper } = this;
    const { closed: now } = stepper;
    stepper.closed = closed;
    for (let index = 0; index < state.flux.length; index += 1)
      if (stepper.circuit.inductors[index].henries > 0)
        state.flux[index] +=
          seconds *
          (stepper.known(index, length) * stepper.acrossInductor(index, state.volts, drive) +
            stepper.earlier(index, length) * earlier[index]);
    stepper.closed = now;
  }

  /** Runs a whole period; false when a step has no solution, or what a phase waits for does not come. */
  period(state: State, listen?: StepListener, sensitivity?: Sensitivity): boolean {
    const { phases, seconds, closed } = this.grid;
    this.seconds = 0;
    for (const phase of phases) {
      const done = phase.until
        ? this.untilEvent(state, phase, phase.until, listen, sensitivity)
        : this.stretch(state, phase.first, phase.end - phase.first, listen, sensitivity);
      if (!done) return false;
    }
    return sensitivity?.finish(seconds[0], closed[0]) ?? true;
  }

  /** Runs so many steps of the grid from one of them on, over the end of the period and around; false when one has no solution. */
  stretch(state: State, first: number, count: number, listen?: StepListener, sensitivity?: Sensitivity): boolean {
    const { steps, seconds, drive } = this.grid;
    for (let done = 0; done < count; done += 1) {
      const step = (first + done) % steps;
      this.stepper.closed = this.grid.closed[step];
      if (!this.advance(state, seconds[step], drive[step], this.following(step, (step + 1) % steps))) return false;
      this.seconds += seconds[step];
      listen?.(seconds[step], step, drive[step], state.volts, this.inductorAmps);
      sensitivity?.step(seconds[step]);
    }
    return true;
  }

  /** The step after one, as it begins. */
  private following(step: number, after: number): NextStep {
    const { seconds, drive, afterEdge, closed } = this.grid;
    // Across an edge each level pushes through its own half.
    const push = afterEdge[after]
      ? (seconds[step] * drive[step] + seconds[after] * drive[after]) / (seconds[step] + seconds[after])
      : drive[step];
    return { seconds: seconds[after], push, closed: closed[after] };
  }

  /**
   * Runs the steps of a phase until what it waits for crosses zero, which ends the last of them. Where it comes late the
   * last step is repeated.
   */
  private untilEvent(
    state: State,
    phase: Phase,
    event: CircuitEvent,
    listen?: StepListener,
    sensitivity?: Sensitivity,
  ): boolean {
    const { stepper, grid, before, shifted } = this;
    const { seconds, steps } = grid;
    const last = phase.end - 1;
    const afterPhase = phase.end % steps;
    let elapsed = 0;
    let lengthBefore = 0;
    const earlier = new Float64Array(this.earlier.length);
    stepper.closed = grid.closed[phase.first];
    for (let at = phase.first; ; at += 1) {
      const step = Math.min(at, last);
      const nominal = seconds[step];
      const drive = grid.drive[step];
      assignState(before, state);
      earlier.set(this.earlier);
      const start = stepper.eventAt(event, before, drive);
      const come = event.atOnce && at === phase.first && start < 0;
      const after = come ? afterPhase : Math.min(step + 1, last);
      if (!this.advance(state, nominal, drive, this.following(step, after))) return false;
      const reached = stepper.eventAt(event, state, drive);
      if (!(start > 0 && reached < 0) || at === phase.first) {
        lengthBefore = nominal;
        elapsed += nominal;
        this.seconds += nominal;
        if (elapsed > phase.mostSeconds) return false;
        listen?.(nominal, step, drive, state.volts, this.inductorAmps);
        sensitivity?.step(nominal);
        if (come) return true;
        continue;
      }
      const next: NextStep = { seconds: seconds[afterPhase], push: drive, closed: grid.closed[afterPhase] };
      const shorten = (into: State, length: number): boolean => {
        assignState(into, before);
        // What was pushed for a step of the usual length is taken back, and pushed for this one.
        const pushedFor = (seconds: number, sign: 1 | -1) =>
          this.push(into, earlier, drive, sign * betweenMiddles(lengthBefore, seconds), {
            seconds,
            closed: stepper.closed,
          });
        pushedFor(nominal, -1);
        pushedFor(length, 1);
        return this.advance(into, length, drive, next);
      };
      let found = true;
      const crossing = (length: number) => {
        found &&= shorten(state, length);
        return stepper.eventAt(event, state, drive);
      };
      const length = rootBetween(
        crossing,
        [0, start],
        [nominal, reached],
        FOUND * (start - reached),
        LEAST_PART * nominal,
      );
      const taken = Math.max(length, LEAST_PART * nominal);
      const shift = EVENT_SHIFT * nominal;
      if (!shorten(shifted, taken + shift)) return false;
      if (!shorten(state, taken) || !found) return false;
      this.seconds += taken;
      listen?.(taken, step, drive, state.volts, this.inductorAmps);
      if (sensitivity) {
        sensitivity.step(taken);
        sensitivity.finish(next.seconds, next.closed);
        sensitivity.endAt(event, drive, state, shifted, shift);
      }
      return true;
    }
  }
}

/** A step as the one before it knows it. */
type NextStep = { seconds: number; push: number; closed: number };

/** What of its change over a step an event may be missed by. */
const FOUND = 1e-10;
/** The least part of a step that is taken as one, and by how much of it an event is shifted to see what that changes. */
const LEAST_PART = 1e-9;
const EVENT_SHIFT = 1e-4;

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
  /** Inductances that remember what stood across them. */
  readonly damped: readonly number[];
  /** Charges (nodes first), fluxes and what inductances remember by row, one column for each entry of the starting state. */
  readonly rows: Float64Array;
  private readonly nodes: number;
  private readonly base: Float64Array;
  private readonly volts: Float64Array;
  private readonly above: Uint8Array;
  private readonly slopes: Float64Array;
  private readonly mostSeconds: number;
  private pending = 0;
  private closed = 0;
  private readonly slopesOfCores: Float64Array;
  /** Of the step that is pending, where it is taken by itself. */
  private factor: BandedFactor | null = null;
  private readonly ahead: Float64Array;
  private readonly across: Float64Array;
  private readonly amps: Float64Array;
  private failed = false;

  constructor(private readonly stepper: Stepper) {
    const { circuit } = stepper;
    this.nodes = stepper.nodes;
    this.damped = circuit.inductors.flatMap(({ dampingSiemens }, index) => (dampingSiemens > 0 ? [index] : []));
    this.count = stepper.nodes + circuit.inductors.length + this.damped.length;
    this.rows = new Float64Array(this.count * this.count);
    this.base = new Float64Array(this.count * this.count);
    this.volts = new Float64Array(this.nodes * this.count);
    this.above = new Uint8Array(stepper.kinks.length);
    this.slopes = new Float64Array(circuit.loads.length);
    this.slopesOfCores = new Float64Array(circuit.inductors.length);
    this.ahead = new Float64Array(circuit.inductors.length);
    this.across = new Float64Array(this.count);
    this.amps = new Float64Array(this.count);
    this.mostSeconds = hasInductance(circuit) ? 0 : LONGEST_TAKEN_AS_ONE / circuit.hertz;
    this.restart();
  }

  restart(): void {
    this.rows.fill(0);
    for (let at = 0; at < this.count; at += 1) this.rows[at * this.count + at] = 1;
    this.pending = 0;
    this.failed = false;
  }

  /** Notes a step of the circuit, whose kinks at its end the stepper still has. */
  step(seconds: number): void {
    const { above, loadSlopes, closed, coreSlopes } = this.stepper;
    if (
      this.pending > 0 &&
      (this.pending + seconds > this.mostSeconds ||
        above.includes(1) ||
        this.above.includes(1) ||
        closed !== this.closed ||
        !same(loadSlopes, this.slopes))
    )
      this.carry(seconds, closed);
    if (this.pending === 0) {
      this.above.set(above);
      this.slopes.set(loadSlopes);
      this.slopesOfCores.set(coreSlopes);
      this.closed = closed;
      this.factor = this.mostSeconds === 0 ? this.stepper.factorAtHand(seconds) : null;
    }
    this.pending += seconds;
  }

  /** Carries along what is still pending, before a step of this length; false when a factor was not to be had. */
  finish(nextSeconds: number, nextClosed: number): boolean {
    if (this.pending > 0) this.carry(nextSeconds, nextClosed);
    return !this.failed;
  }

  /**
   * That the last step ended where an event came, whenever that was: its length answers to the state as well.
   *
   * @param shifted the state had it ended `shift` seconds later
   */
  endAt(event: CircuitEvent, drive: number, state: State, shifted: State, shift: number): void {
    const { count, nodes, rows, volts, stepper } = this;
    const rate = (stepper.eventAt(event, shifted, drive) - stepper.eventAt(event, state, drive)) / shift;
    if (!(Math.abs(rate) > 0)) return;
    for (let side = 0; side < count; side += 1) {
      let seen = 0;
      for (const { node, weight } of event.terms) if (node >= 0) seen += weight * volts[node * count + side];
      for (const { index, weight } of event.fluxes) seen += weight * rows[(nodes + index) * count + side];
      const later = -seen / rate / shift;
      for (let node = 0; node < nodes; node += 1)
        rows[node * count + side] += (shifted.charge[node] - state.charge[node]) * later;
      for (let index = 0; index < state.flux.length; index += 1)
        rows[(nodes + index) * count + side] += (shifted.flux[index] - state.flux[index]) * later;
      for (let at = 0; at < this.damped.length; at += 1)
        rows[(nodes + state.flux.length + at) * count + side] +=
          (shifted.past[this.damped[at]] - state.past[this.damped[at]]) * later;
    }
  }

  private carry(nextSeconds: number, nextClosed: number): void {
    // A rounded length lets lengths that should be alike share a factor.
    const g = this.mostSeconds === 0 ? this.pending : Number(this.pending.toPrecision(9));
    this.pending = 0;
    const { stepper } = this;
    const { closed: now } = stepper;
    stepper.closed = this.closed;
    const factor = this.factor ?? stepper.factorFor(g, this.above, this.slopes);
    if (!factor) {
      this.failed = true;
      stepper.closed = now;
      return;
    }
    const { nodes, count, volts, rows, base } = this;
    const { inductors, switches, diodes, loads, resistors } = stepper.circuit;
    base.set(rows);
    volts.set(base.subarray(0, nodes * count));
    for (let index = 0; index < inductors.length; index += 1) {
      const { terms, ohms, henries } = inductors[index];
      if (henries === 0) continue;
      const part = g / (g * ohms + henries) + g * this.slopesOfCores[index];
      for (let at = 0; at < terms.length; at += 1)
        if (terms[at].node >= 0) addRow(volts, terms[at].node, base, nodes + index, -terms[at].weight * part, count);
    }
    factor.solveMany(volts, count);
    // What the currents carried away; the rest of the base is still there as charge.
    for (let index = 0; index < diodes.length; index += 1) {
      const { anode, cathode, leakSiemens, onSiemens } = diodes[index];
      this.take(anode, cathode, g * (leakSiemens + (this.above[index] ? onSiemens : 0)));
    }
    for (let index = 0; index < resistors.length; index += 1)
      this.take(resistors[index].from, resistors[index].to, g * resistors[index].siemens);
    for (let index = 0; index < switches.length; index += 1)
      if (this.closed & (1 << index))
        this.take(switches[index].from, switches[index].to, g * switches[index].onSiemens);
    for (let index = 0; index < loads.length; index += 1)
      this.take(loads[index].from, loads[index].to, g * this.slopes[index]);
    for (let index = 0; index < inductors.length; index += 1) this.ahead[index] = stepper.ahead(index, g) * g;
    stepper.closed = nextClosed;
    const { across, amps } = this;
    let pastRow = (nodes + inductors.length) * count;
    for (let index = 0; index < inductors.length; index += 1) {
      const { terms, ohms, henries, dampingSiemens } = inductors[index];
      const inverse = 1 / (g * ohms + henries);
      const pushed = henries > 0 ? betweenMiddles(g, nextSeconds) : 0;
      const known = pushed * stepper.known(index, nextSeconds);
      const earlier = dampingSiemens > 0 ? pushed * stepper.earlier(index, nextSeconds) : 0;
      across.fill(0);
      for (let at = 0; at < terms.length; at += 1)
        if (terms[at].node >= 0) addRow(across, 0, volts, terms[at].node, terms[at].weight, count);
      const fluxRow = (nodes + index) * count;
      for (let side = 0; side < count; side += 1) {
        const flux = base[fluxRow + side];
        const straight = (flux + this.ahead[index] * across[side]) * inverse;
        amps[side] = straight + dampingSiemens * across[side] + this.slopesOfCores[index] * flux;
        rows[fluxRow + side] = henries * straight + known * across[side];
        if (dampingSiemens === 0) continue;
        rows[fluxRow + side] += earlier * base[pastRow + side];
        rows[pastRow + side] = across[side];
      }
      if (dampingSiemens > 0) pastRow += count;
      for (let at = 0; at < terms.length; at += 1)
        if (terms[at].node >= 0) addRow(rows, terms[at].node, amps, 0, -g * terms[at].weight, count);
    }
    stepper.closed = now;
  }

  /** Takes the charge that a conductance has let go from one node to another. */
  private take(from: number, to: number, conductance: number): void {
    if (conductance === 0) return;
    const { rows, volts, count } = this;
    for (let side = 0; side < count; side += 1) {
      const between = (from >= 0 ? volts[from * count + side] : 0) - (to >= 0 ? volts[to * count + side] : 0);
      const charge = conductance * between;
      if (from >= 0) rows[from * count + side] -= charge;
      if (to >= 0) rows[to * count + side] += charge;
    }
  }
}

/** Adds so many times a row of one table to a row of another, both of `count` columns. */
function addRow(into: Float64Array, row: number, from: Float64Array, other: number, times: number, count: number) {
  const [to, of] = [row * count, other * count];
  for (let side = 0; side < count; side += 1) into[to + side] += times * from[of + side];
}
