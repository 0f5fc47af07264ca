import type { Design } from '../design/design-schema';
import { amplitudeVolts } from '../drive/drive';
import type { DriverInductor, NoCircuit, SupplyCircuit } from '../drive/supply-circuit';
import { closedFormAmps, type LoadedLadder } from '../ladder/loaded';
import { workingPoint } from '../output/terminal';
import { freeNodes } from '../topology/network';
import { hasInductance, type Circuit } from './circuit';
import type { WholeSupply } from './circuit-of-design';
import { wander } from './wandering';
import { measurePeriod, powerResidue, type Measured, type Waveforms } from './measure';
import { copyOf, emptyState, PeriodRunner, type State } from './period';
import { settle, settleSupply, type Convergence, type SettleProgress, type SteadyOptions } from './steady-state';
import { Stepper } from './stepper';
import { phasedGrid, timeGrid, type TimeGrid } from './time-grid';

/** Remaining error at which a state counts as settled, as a fraction of the output without load. */
const SETTLED = 1e-6;
/** The same where a driver's own ringing leaves more open than that. */
const SUPPLY_SETTLED = 1e-5;
/** Periods at most, and to run plainly after them: fewer where each takes longer. */
const mostPlainPeriodsOf = (unknowns: number) => Math.min(6000, Math.round(50_000 / unknowns));
const mostPeriodsOf = (unknowns: number) => Math.max(160, Math.min(400, Math.round(20_000 / unknowns)));
/** Periods where there is another way. */
const BRIEF_PERIODS = 30;
const SUPPLY_PERIODS = 160;

/** Steps at most where ringing or the balance of power asks for more than the usual: fewer in large circuits. */
const mostStepsOf = (unknowns: number) => Math.min(6400, 64_000 / unknowns);
/** Residue of the balance of power at which steps are short enough. */
const CLOSED = 1e-3;
/** Phase of the fastest ringing that the longest step may take, rad. */
const RESOLVED_PHASE = 1;

/** A state settled on a grid, with what it shows there and on the coarser grid before. */
export type Settled = {
  ladder: LoadedLadder;
  circuit: Circuit;
  grid: TimeGrid;
  state: State;
  convergence: Convergence;
  rough: Measured | null;
  fine: { measured: Measured; waveforms: Waveforms };
  /** Cycles that were averaged where none repeats, and how far the output strays from their mean, V; null where one does. */
  wandering: { cycles: number; strayVolts: number } | null;
};

/** What is to be settled: a circuit, the grids it is run on, and where it starts. */
type Settling = {
  ladder: LoadedLadder;
  circuit: Circuit;
  gridOf: (steps: number) => TimeGrid;
  /** Null where it does not run. */
  startOn: (grid: TimeGrid) => State | null;
  /** How long to try from a start that is near already; as the circuit needs where it is not. */
  nearby?: SteadyOptions;
};

/**
 * A ladder on its drive, settled on a grid of half the steps, carried over to
 * the full one and settled again.
 *
 * Where leakage inductance rings with strays the steps are made as short as the
 * ringing asks, and shortened until power adds up. Ringing too fast for that,
 * or that never settles to the drive's period, is taken as damped within each
 * step, and the power it loses so is counted with the edges.
 */
export function* settledOnDrive(
  design: Design,
  { ladder, circuit }: { ladder: LoadedLadder; circuit: Circuit },
  steps: number,
): Generator<SettleProgress, Settled | null> {
  const settlingOf = (one: Circuit): Settling => ({
    ladder,
    circuit: one,
    gridOf: (count) => timeGrid(ladder.drive, count),
    startOn: (grid) => startingState(design, ladder, one, grid.drive[grid.steps - 1]),
  });
  const ringing = hasInductance(circuit);
  const enough = ringing ? stepsFollowing(circuit, ladder, steps) : steps;
  if (enough !== null) {
    const settling = settlingOf(circuit);
    const once = yield* settleOnTwoGrids(settling, enough);
    const settled = once && ringing ? yield* untilAddingUp(settling, once) : once;
    if (settled && (!ringing || settled.convergence.converged)) return settled;
  }
  return yield* settleOnTwoGrids(settlingOf({ ...circuit, ringing: 'damped' }), steps);
}

/** Periods at most, and remaining error that counts as settled, where a search begins near its end. */
const NEAR_PERIODS = 600;
const NEAR_SETTLED = 1e-5;

/**
 * A circuit on a ladder's drive, settled from an estimate of its state; ringing is taken as damped.
 *
 * @param nearVolts of the nodes, in the circuit's order, V
 * @returns null where it does not settle from there
 */
export function* settledNearby(
  ladder: LoadedLadder,
  circuit: Circuit,
  nearVolts: ArrayLike<number>,
  steps: number,
): Generator<SettleProgress, Settled | null> {
  const { drive } = ladder;
  const settling: Settling = {
    ladder,
    circuit: { ...circuit, ringing: 'damped' },
    gridOf: (count) => timeGrid(drive, count),
    startOn: (grid) => {
      const state = emptyState(circuit);
      state.volts.set(nearVolts);
      new Stepper(circuit).chargeAt(state.volts, grid.drive[grid.steps - 1], state.charge);
      return state;
    },
    nearby: {
      tolerance: NEAR_SETTLED,
      scaleVolts: amplitudeVolts(drive),
      mostPeriods: NEAR_PERIODS,
      mostPlainPeriods: 0,
    },
  };
  const settled = yield* settleOnTwoGrids(settling, steps);
  return settled?.convergence.converged ? settled : null;
}

/**
 * The same of a whole supply, whose driver is part of the circuit; its steps are shortened until power adds up. Where it
 * comes to no period its mean is taken over many cycles, and where that moves too, why there is none is a clause.
 */
export function* settledSupply(
  design: Design,
  { ladder, circuit, supply }: WholeSupply,
  steps: number,
): Generator<SettleProgress, Settled | NoCircuit> {
  const settling: Settling = {
    ladder,
    circuit,
    gridOf: (count) => phasedGrid(circuit.supply!.phases, count),
    startOn: (grid) => startedUp(circuit, grid, supplyState(design, ladder, circuit, supply)),
  };
  let once = yield* settleOnTwoGrids(settling, steps);
  // What a ring does that the steps hardly follow may repeat in no cycle, though it does on shorter ones.
  if (!once?.convergence.converged) once = (yield* settleOnTwoGrids(settling, 2 * steps)) ?? once;
  if (!once) return { reason: 'its switches, taken as ideal, do not change over' };
  if (once.convergence.converged) return yield* untilAddingUp(settling, once);
  // Where the search for a period led astray, from where it began, or from under it.
  const began = settling.startOn(once.grid);
  return (
    (yield* wandering(settling, once, once.state)) ??
    (began && (yield* wandering(settling, once, began))) ??
    (began && (yield* wandering(settling, once, lowered(began)))) ?? {
      reason: 'as a circuit it has not settled after hundreds of cycles',
    }
  );
}

/** Part of a state that a lower one starts from. */
const LOWERED = 0.8;

/** A state from which a ladder climbs, where it might have stood too high to come down. */
function lowered(from: State): State {
  const state = copyOf(from);
  for (const values of [state.charge, state.flux, state.past, state.volts])
    values.forEach((value, at) => (values[at] = LOWERED * value));
  return state;
}

/** A supply that settles to no period, by the mean of many; null where that does not stand still either. */
function* wandering({ circuit }: Settling, once: Settled, from: State): Generator<SettleProgress, Settled | null> {
  const { grid } = once;
  const state = copyOf(from);
  const run = wander(circuit, grid, state);
  let step = run.next();
  while (!step.done) {
    yield { periods: once.convergence.periods + step.value, errorVolts: once.convergence.worstErrorVolts };
    step = run.next();
  }
  if (!step.value) return null;
  const { measured, waveforms, cycles, strayVolts, driftVolts } = step.value;
  return {
    ...once,
    state,
    convergence: {
      ...once.convergence,
      converged: true,
      reason: null,
      outputErrorVolts: driftVolts,
      worstErrorVolts: driftVolts,
      periods: once.convergence.periods + cycles,
    },
    // One grid alone was run for so long: what its steps cost is not known.
    rough: null,
    fine: { measured, waveforms },
    wandering: { cycles, strayVolts },
  };
}

function* untilAddingUp(settling: Settling, once: Settled): Generator<SettleProgress, Settled> {
  let settled = once;
  const most = mostStepsOf(settling.circuit.names.length);
  while (settled.convergence.converged && !addsUp(settled) && 2 * settled.grid.steps <= most) {
    const finer: Settled | null = yield* settleFiner(settling, settled);
    if (!finer?.convergence.converged) break;
    settled = finer;
  }
  return settled;
}

/** Null where it does not run through a period. */
function* settleOnTwoGrids(settling: Settling, steps: number): Generator<SettleProgress, Settled | null> {
  const { ladder, circuit, gridOf, startOn } = settling;
  const grid = gridOf(Math.max(8, steps / 2));
  const state = startOn(grid);
  if (!state) return null;
  const convergence = yield* settleOn(settling, grid, state, settling.nearby !== undefined);
  const fine = measurePeriod(circuit, grid, copyOf(state));
  if (!fine) return null;
  const coarse = { ladder, circuit, grid, state, convergence, rough: null, fine, wandering: null };
  return convergence.converged ? yield* settleFiner(settling, coarse, steps) : coarse;
}

function* settleFiner(
  settling: Settling,
  from: Settled,
  steps: number = 2 * from.grid.steps,
): Generator<SettleProgress, Settled | null> {
  const { ladder, circuit } = settling;
  const grid = settling.gridOf(steps);
  const state = copyOf(from.state);
  const convergence = yield* settleOn(settling, grid, state, true);
  const fine = measurePeriod(circuit, grid, copyOf(state));
  return (
    fine && {
      ladder,
      circuit,
      grid,
      state,
      convergence: { ...convergence, periods: from.convergence.periods + convergence.periods },
      rough: convergence.converged ? from.fine.measured : null,
      fine,
      wandering: null,
    }
  );
}

function settleOn(settling: Settling, grid: TimeGrid, state: State, near: boolean) {
  const { circuit } = settling;
  return circuit.supply
    ? settleSupply(circuit, grid, state, optionsOf(settling), near)
    : settle(circuit, grid, state, optionsOf(settling), near);
}

/** How long to try; briefly where ringing is followed, which may never settle and can be damped instead. */
function optionsOf({ ladder, circuit, nearby }: Settling): SteadyOptions {
  if (nearby) return nearby;
  const { names } = circuit;
  const briefly = hasInductance(circuit) && circuit.ringing === 'followed' && !circuit.supply;
  return {
    tolerance: circuit.supply ? SUPPLY_SETTLED : SETTLED,
    scaleVolts: Math.max(ladder.unloaded.outputVolts, amplitudeVolts(ladder.drive)),
    mostPeriods: briefly ? BRIEF_PERIODS : circuit.supply ? SUPPLY_PERIODS : mostPeriodsOf(names.length),
    mostPlainPeriods: briefly || circuit.supply ? 0 : mostPlainPeriodsOf(names.length),
  };
}

function addsUp(settled: Settled): boolean {
  const residue = powerResidue(wattsOf(settled));
  return residue === null || Math.abs(residue) <= CLOSED;
}

/** Steps that resolve the fastest ringing of the windings with what is always across them; null when too many. */
function stepsFollowing(circuit: Circuit, { drive }: LoadedLadder, steps: number): number | null {
  // Between bursts steps are long against any ringing.
  if (drive.burst) return null;
  const most = Math.max(steps, mostStepsOf(circuit.names.length));
  const fastest = Math.sqrt(Math.max(...new Stepper(circuit).ringing(1 / drive.frequencyHertz / most)));
  for (let enough = steps; enough <= most; enough *= 2)
    if (Math.max(...timeGrid(drive, enough).seconds) * fastest <= RESOLVED_PHASE) return enough;
  return null;
}

/** The closed form's answer as a state, with the drive at a level; at its last trusted current where it has none. */
export function startingState(design: Design, ladder: LoadedLadder, circuit: Circuit, startDrive: number): State {
  const { unloaded, lightLoad, network, drive } = ladder;
  const point = workingPoint(ladder, design.load, design.output);
  const mostDroop = Number.isFinite(lightLoad.droop) ? closedFormAmps(ladder) / drive.frequencyHertz : 0;
  const scale = point ? point.droop.totalVolts / lightLoad.droop : mostDroop;
  const amplitude = amplitudeVolts(drive);
  const centre = (drive.positivePeakVolts - drive.negativePeakVolts) / 2;
  const phase = (startDrive - centre) / amplitude - (2 * drive.duty - 1);
  const state = emptyState(circuit);
  const { volts } = state;
  for (const { id } of freeNodes(network))
    volts[circuit.place.get(id)!] =
      unloaded.nodeVolts.get(id)! - scale * lightLoad.nodeDroops.get(id)! + phase * unloaded.nodeSwings.get(id)!;
  for (const { node, sign } of network.sources) {
    const place = circuit.place.get(node);
    if (place !== undefined) volts[place] = sign * startDrive;
  }
  const loadNode = circuit.place.get('load');
  if (loadNode !== undefined) volts[loadNode] = circuit.output >= 0 ? volts[circuit.output] : 0;
  new Stepper(circuit).chargeAt(volts, startDrive, state.charge);
  return state;
}

/** The closed form's answer with the driver at the start of its cycle. */
function supplyState(design: Design, ladder: LoadedLadder, circuit: Circuit, supply: SupplyCircuit): State {
  const state = startingState(design, ladder, circuit, 0);
  for (const { from, to, startVolts } of supply.capacitors) {
    const [node, other] = [circuit.place.get(from), circuit.place.get(to)];
    if (node !== undefined) state.volts[node] = startVolts + (other === undefined ? 0 : state.volts[other]);
  }
  supply.inductors.forEach((inductor: DriverInductor, index) => (state.flux[index] = inductor.startFlux));
  const stepper = new Stepper(circuit);
  stepper.chargeAt(state.volts, 0, state.charge);
  return state;
}

/** Periods in which a driver falls into step before its settled state is looked for. */
const STARTING_PERIODS = 20;

/** The state after a driver has run some periods; null where it does not run. */
function startedUp(circuit: Circuit, grid: TimeGrid, state: State): State | null {
  const runner = new PeriodRunner(new Stepper(circuit), grid);
  for (let period = 0; period < STARTING_PERIODS; period += 1) if (!runner.period(state)) return null;
  return state;
}

/**
 * A figure carried on from the coarse and the fine grid to steps of no length. Where a driver rings in the circuit what
 * steps cost is not in proportion to them, and the finer grid stands.
 */
export function carriedOn({ circuit, rough, fine }: Settled, read: (from: Measured) => number): number {
  const { measured } = fine;
  return rough && !circuit.supply ? 2 * read(measured) - read(rough) : read(measured);
}

/** Powers so carried on, W. */
export function wattsOf(settled: Settled): Measured['power'] {
  const of = (name: keyof Measured['power']) => carriedOn(settled, ({ power }) => power[name]);
  return {
    in: of('in'),
    load: of('load'),
    across: of('across'),
    series: of('series'),
    source: of('source'),
    driver: of('driver'),
    diodes: of('diodes'),
    edges: of('edges'),
    stored: of('stored'),
  };
}
