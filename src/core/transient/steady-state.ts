import type { Circuit } from './circuit';
import { assignState, copyOf, PeriodRunner, Sensitivity, type State, type StepListener } from './period';
import { PeriodEquation } from './period-equation';
import { Stepper } from './stepper';
import type { TimeGrid } from './time-grid';

/** How well a periodic steady state was found. */
export type Convergence = {
  /** Whether the estimated remaining error is under the tolerance asked for. */
  converged: boolean;
  /** Estimate of how far the mean output may still be from the settled one, V. */
  outputErrorVolts: number;
  /** The same for the worst node, V. */
  worstErrorVolts: number;
  /** Greatest charge a node gains in the period, over the greatest that a diode passes. */
  chargeResidue: number;
  /** Periods computed, those with loosened diodes included. */
  periods: number;
  /** Why there is no settled state, when there is none. */
  reason: string | null;
};

export type SteadyOptions = {
  /** Remaining error that counts as settled, as a fraction of `scaleVolts`. */
  tolerance: number;
  /** A voltage of the size of the output without load, V. */
  scaleVolts: number;
  /** Periods to compute at most, and to run plainly after them. */
  mostPeriods: number;
  mostPlainPeriods: number;
};

export type SettleProgress = { periods: number; errorVolts: number };

/** How strongly a correction is held back at first: it may lead about one over this many periods on. */
const FIRST_HOLD = 1e-3;
const FIRST_HOLD_NEAR = 1e-6;
const LEAST_HOLD = 1e-12;
/** Held back no more than this a correction's own estimate of the error is worth having. */
const TELLING_HOLD = 1e-2;
/** Fraction of a correction that may turn out unforeseen before it counts as gone too far, and before it is held back less. */
const MOST_UNFORESEEN = 1;
const WELL_FORESEEN = 0.3;
/** Periods run plainly after a correction that went too far. */
const COOLING_PERIODS = 2;
/** Periods for the circuit as it is before its diodes are loosened, for each looseness, and after. */
const DIRECT_PERIODS = 30;
const LOOSE_PERIODS = 16;
/** Periods run plainly between two tries at a correction, and periods for such a try. */
const PLAIN_PERIODS = 60;
const AFTER_PLAIN_PERIODS = 6;
/** Diodes are first loosened to this, in units of 1 / (f C), and tightened by this factor at a time. */
const LOOSEST = 0.1;
const TIGHTENING = 0.06;
/** Looseness past which the circuit would no longer be the one asked about. */
const TOO_LOOSE = 100;
/** Tightening so slow that it leads nowhere. */
const SLOWEST_TIGHTENING = 0.7;
/** With loosened diodes the error need only be small against what a diode's ends part by in a period. */
const LOOSE_TOLERANCE = 0.25;

/**
 * The periodic steady state of a circuit: a state that a whole period leads
 * back to.
 *
 * Running on until nothing changes takes of the order of n^2 periods, and the
 * slow modes hide: the last period's change says nothing of the distance still
 * to go. Instead F(x) = P(x) - x = 0 is solved for the period map P with its
 * exact derivative M. A passive circuit never lets two of its states grow apart
 * in energy, so dx/dk = F(x) leads to the steady state from anywhere; it is
 * followed by implicit steps (h + I - M) d = F(x) that grow (h falls) as long
 * as the diodes do what M foresees, and end as Newton's method, h = 0. Its last
 * correction is at the same time an estimate of the whole remaining error.
 * Where a correction went too far a period of its own pulls the overshoot back
 * and shows which diodes conduct now. (Known as pseudo-transient continuation:
 * C. T. Kelley and D. E. Keyes, SIAM Journal on Numerical Analysis 35, 1998,
 * from memory.)
 *
 * Where that leads nowhere the diodes are first given so much resistance that
 * each one's charge answers smoothly to the voltages, and are tightened step by
 * step to what they are, each time from the state found before. What is still
 * not settled then is run plainly, which always leads towards the steady state,
 * with a correction tried from time to time.
 *
 * @param circuit as it is
 * @param grid steps of one period
 * @param state where to start; holds the answer on return
 * @param near whether the start is already near the answer
 * @yields the progress: periods computed and the estimated error, V
 */
export function* settle(
  circuit: Circuit,
  grid: TimeGrid,
  state: State,
  options: SteadyOptions,
  near: boolean,
): Generator<SettleProgress, Convergence> {
  const asItIs = new Relaxation(circuit, grid, options.scaleVolts);
  const { tolerance } = options;
  const start = copyOf(state);
  let outcome = yield* asItIs.run(state, DIRECT_PERIODS, tolerance, near ? FIRST_HOLD_NEAR : FIRST_HOLD, 0);
  let { periods } = outcome;
  if (outcome.converged) return outcome;
  const direct = copyOf(state);
  assignState(state, start);
  let kept = start;
  let looseness = LOOSEST;
  /** The looseness last mastered; none yet. */
  let mastered: number | null = null;
  let tightening = TIGHTENING;
  while (looseness <= TOO_LOOSE && tightening <= SLOWEST_TIGHTENING && periods < options.mostPeriods) {
    const loose = isLooser(circuit, looseness);
    const relaxation = loose ? new Relaxation(loosen(circuit, looseness), grid, options.scaleVolts) : asItIs;
    outcome = yield* relaxation.run(
      state,
      loose ? LOOSE_PERIODS : DIRECT_PERIODS,
      loose ? null : tolerance,
      FIRST_HOLD_NEAR,
      periods,
    );
    periods = outcome.periods;
    if (outcome.converged) {
      if (!loose) return outcome;
      kept = copyOf(state);
      mastered = looseness;
      looseness *= tightening;
      continue;
    }
    assignState(state, kept);
    if (mastered === null) {
      looseness *= 6;
    } else {
      tightening = Math.sqrt(tightening);
      looseness = mastered * tightening;
    }
  }
  assignState(state, mastered === null ? direct : kept);
  outcome = yield* asItIs.run(state, Math.max(1, options.mostPeriods - periods), tolerance, FIRST_HOLD, periods);
  const runner = asItIs.runner;
  for (let plain = 0; plain < options.mostPlainPeriods && !outcome.converged && !outcome.reason;) {
    for (let run = 0; run < PLAIN_PERIODS; run += 1) {
      if (!runner.period(state)) return { ...outcome, reason: NO_SOLUTION };
      plain += 1;
      yield { periods: outcome.periods + run + 1, errorVolts: outcome.worstErrorVolts };
    }
    periods = outcome.periods + PLAIN_PERIODS;
    kept = copyOf(state);
    outcome = yield* asItIs.run(state, AFTER_PLAIN_PERIODS, tolerance, FIRST_HOLD, periods);
    if (!outcome.converged) assignState(state, kept);
  }
  if (outcome.converged || outcome.reason) return outcome;
  return { ...outcome, reason: `It had not settled after ${outcome.periods} periods.` };
}

/**
 * The settled state of a supply whose driver is part of the circuit.
 *
 * @param state where to start; holds the answer on return
 */
export function* settleSupply(
  circuit: Circuit,
  grid: TimeGrid,
  state: State,
  options: SteadyOptions,
  near: boolean,
): Generator<SettleProgress, Convergence> {
  const outcome = yield* new Relaxation(circuit, grid, options.scaleVolts).fallIntoStep(
    state,
    isUnloaded(circuit) ? UNLOADED_STEP_PERIODS : STEP_PERIODS,
    options.tolerance,
    near,
  );
  if (outcome.converged || outcome.reason) return outcome;
  const further = yield* settle(circuit, grid, state, options, near);
  return { ...further, periods: outcome.periods + further.periods };
}

/**
 * Periods for that; what has not fallen into step by then goes the way of a ladder on its drive. Without load hardly
 * anything moves of itself.
 */
const STEP_PERIODS = 200;
const UNLOADED_STEP_PERIODS = 40;
const isUnloaded = ({ loads, loadSiemens, across }: Circuit) =>
  loads.length === 0 && loadSiemens === 0 && across.length === 0;
/** Periods in which what rings falls into step after a correction. */
const FALLING_PERIODS = 2;
/** Periods that a correction leads on: at first, at least, by how much more after each, and past which there is no end to it. */
const FIRST_STRIDE = 100;
const LEAST_STRIDE = 8;
const STRIDE_GROWTH = 3;
const LONGEST_STRIDE = 300;

/** Follows one circuit towards its steady state. */
class Relaxation {
  private readonly stepper: Stepper;
  readonly runner: PeriodRunner;
  private readonly equation: PeriodEquation;
  private readonly trial: PeriodEquation;
  private readonly passed: Float64Array;

  constructor(
    circuit: Circuit,
    grid: TimeGrid,
    private readonly scaleVolts: number,
  ) {
    this.stepper = new Stepper(circuit);
    this.runner = new PeriodRunner(this.stepper, grid);
    const sensitivity = new Sensitivity(this.stepper);
    this.passed = new Float64Array(circuit.diodes.length);
    this.equation = new PeriodEquation(this.runner, sensitivity);
    this.trial = new PeriodEquation(this.runner, sensitivity);
  }

  /**
   * Relaxes the state until the estimated error is within the tolerance, or
   * about `most` periods have been computed.
   *
   * @param tolerance part of the scale; null for what a loosened circuit needs
   * @param hold how strongly the first correction is held back
   */
  *run(
    state: State,
    most: number,
    tolerance: number | null,
    hold: number,
    periodsBefore: number,
  ): Generator<SettleProgress, Convergence> {
    const { passed, scaleVolts } = this;
    let { equation, trial } = this;
    const outcome: Convergence = {
      converged: false,
      outputErrorVolts: scaleVolts,
      worstErrorVolts: scaleVolts,
      chargeResidue: 1,
      periods: periodsBefore,
      reason: null,
    };
    const evaluate = (which: PeriodEquation, from: State) => {
      passed.fill(0);
      outcome.periods += 1;
      return which.evaluate(from, this.listen);
    };
    if (!evaluate(equation, state)) return { ...outcome, reason: NO_SOLUTION };
    const end = periodsBefore + most;
    for (;;) {
      if (hold <= TELLING_HOLD) {
        const error = equation.error();
        const greatestCharge = greatest(passed);
        if (error) {
          outcome.worstErrorVolts = error.worstVolts;
          outcome.outputErrorVolts = error.outputVolts;
          outcome.chargeResidue = greatestCharge > 0 ? equation.greatestGain() / greatestCharge : 0;
          outcome.converged = error.worstVolts <= (tolerance ?? this.looseTolerance()) * scaleVolts;
        }
      }
      yield { periods: outcome.periods, errorVolts: outcome.worstErrorVolts };
      if (outcome.converged || outcome.periods >= end) {
        equation.readEnd(state);
        return outcome;
      }
      if (!equation.correct(hold, state)) {
        hold = Math.max(hold * 5, LEAST_HOLD);
        if (hold > 1e6) return { ...outcome, reason: NO_SOLUTION };
        continue;
      }
      if (!evaluate(trial, state)) {
        hold = Math.max(hold * 25, LEAST_HOLD);
        if (hold > 1e6) return { ...outcome, reason: NO_SOLUTION };
        continue;
      }
      const unforeseen = equation.unforeseen(hold, trial);
      if (unforeseen > MOST_UNFORESEEN && !(trial.size() < equation.size() / 2)) {
        trial.readEnd(state);
        for (let plain = 0; plain < COOLING_PERIODS; plain += 1) {
          outcome.periods += 1;
          if (!this.runner.period(state)) return { ...outcome, reason: NO_SOLUTION };
        }
        if (!evaluate(trial, state)) return { ...outcome, reason: NO_SOLUTION };
        hold = Math.max(hold * 3, LEAST_HOLD);
      } else if (unforeseen < WELL_FORESEEN) {
        hold = hold < LEAST_HOLD ? 0 : hold * 0.1;
      } else {
        hold *= 0.3;
      }
      [equation, trial] = [trial, equation];
    }
  }

  private readonly listen: StepListener = (seconds, _step, drive, volts) => {
    const { stepper, passed } = this;
    const { diodes } = stepper.circuit;
    for (let index = 0; index < passed.length; index += 1) {
      const { anode, cathode, forwardVolts, onSiemens } = diodes[index];
      const over = stepper.at(anode, volts, drive) - stepper.at(cathode, volts, drive) - forwardVolts;
      if (over > 0) passed[index] += seconds * onSiemens * over;
    }
  };

  /**
   * The same for a driver that is part of the circuit: what rings there lets no long correction be foreseen, but falls
   * into step by itself within a few periods. So each correction is followed by some, and counts by the error that is
   * then left; where it has grown the circuit is run on plainly from before.
   */
  *fallIntoStep(state: State, most: number, tolerance: number, near: boolean): Generator<SettleProgress, Convergence> {
    const { equation, scaleVolts, runner } = this;
    const outcome: Convergence = {
      converged: false,
      outputErrorVolts: scaleVolts,
      worstErrorVolts: scaleVolts,
      chargeResidue: 1,
      periods: 0,
      reason: null,
    };
    const plainly = (count: number) => {
      outcome.periods += count;
      for (let period = 0; period < count; period += 1) if (!runner.period(state)) return false;
      return true;
    };
    const kept = copyOf(state);
    let stride = near ? LONGEST_STRIDE : FIRST_STRIDE;
    let size = Infinity;
    for (;;) {
      this.passed.fill(0);
      outcome.periods += 1;
      if (!equation.evaluate(state, this.listen)) return { ...outcome, reason: NO_SOLUTION };
      const error = equation.error();
      if (error && equation.size() < size) {
        if (size < Infinity) stride = Math.min(LONGEST_STRIDE, stride * STRIDE_GROWTH);
        size = equation.size();
        const greatestCharge = greatest(this.passed);
        outcome.worstErrorVolts = Math.max(error.worstVolts, error.fluxFraction * scaleVolts);
        outcome.outputErrorVolts = error.outputVolts;
        outcome.chargeResidue = greatestCharge > 0 ? equation.greatestGain() / greatestCharge : 0;
        outcome.converged = outcome.worstErrorVolts <= tolerance * scaleVolts;
        equation.readEnd(kept);
      } else {
        stride = Math.max(LEAST_STRIDE, stride / STRIDE_GROWTH ** 2);
        assignState(state, kept);
        if (!plainly(FALLING_PERIODS)) return { ...outcome, reason: NO_SOLUTION };
        assignState(kept, state);
        size = Infinity;
      }
      yield { periods: outcome.periods, errorVolts: outcome.worstErrorVolts };
      if (outcome.converged || outcome.periods >= most) {
        assignState(state, kept);
        return outcome;
      }
      if (size === Infinity) continue;
      if (!equation.correct(stride < LONGEST_STRIDE ? 1 / stride : 0, state)) equation.readEnd(state);
      if (!plainly(FALLING_PERIODS)) return { ...outcome, reason: NO_SOLUTION };
    }
  }

  private looseTolerance(): number {
    const { diodes } = this.stepper.circuit;
    const parting = median(diodes.map(({ nearFarads }, index) => this.passed[index] / nearFarads));
    return Math.max(1e-6, (LOOSE_TOLERANCE * parting) / this.scaleVolts);
  }
}

const NO_SOLUTION = 'A step of the computation found no solution.';

function median(values: ArrayLike<number>): number {
  return Array.from(values).sort((a, b) => a - b)[Math.floor(values.length / 2)];
}

/** The circuit with every diode's on-resistance at least `looseness` / (f C). */
function loosen(circuit: Circuit, looseness: number): Circuit {
  return {
    ...circuit,
    diodes: circuit.diodes.map((diode) => ({
      ...diode,
      onSiemens: Math.min(diode.onSiemens, (circuit.hertz * diode.nearFarads) / looseness),
    })),
  };
}

function isLooser(circuit: Circuit, looseness: number): boolean {
  return circuit.diodes.some((diode) => (circuit.hertz * diode.nearFarads) / looseness < diode.onSiemens);
}

function greatest(values: Float64Array): number {
  let most = 0;
  for (const value of values) most = Math.max(most, Math.abs(value));
  return most;
}
