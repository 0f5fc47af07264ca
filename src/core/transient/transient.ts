import type { Design } from '../design/design-schema';
import { amplitudeVolts, type Drive } from '../drive/drive';
import { closedFormAmps, type LoadedLadder } from '../ladder/loaded';
import { freeNodes } from '../topology/network';
import { workingPoint } from '../output/terminal';
import { hasInductance, type Circuit } from './circuit';
import { circuitOfDesign } from './circuit-of-design';
import { measurePeriod, type Measured, type Waveforms } from './measure';
import { copyOf, emptyState, type State } from './period';
import { settle, type Convergence, type SettleProgress, type SteadyOptions } from './steady-state';
import { Stepper } from './stepper';
import { timeGrid, type TimeGrid } from './time-grid';

/** What the time domain says of a design in its steady state; magnitudes in V like the prediction beside it. */
export type Transient = {
  converged: boolean;
  /** Why there is no settled state, when there is none. */
  reason: string | null;
  periods: number;
  stepsPerPeriod: number;
  /** What became of leakage inductance ringing with strays; see `transientOf`. */
  ringing: 'none' | 'followed' | 'damped';
  error: {
    /** Estimated distance of the mean output from the settled one, V. */
    settlingVolts: number;
    /** What the length of the steps may still cost the mean output, V. */
    steppingVolts: number;
    /** Greatest charge a node gains in a period, over the greatest that a diode passes. */
    chargeResidue: number;
    /** Power in less power accounted for, over power in; null without power. */
    powerResidue: number | null;
  };
  /** Across the load, behind the series resistor. */
  meanVolts: number;
  minVolts: number;
  maxVolts: number;
  ripplePeakToPeakVolts: number;
  terminalMeanVolts: number;
  amps: number;
  bleederAmps: number;
  capacitors: { id: string; meanVolts: number; ripplePeakToPeakVolts: number; rmsAmps: number }[];
  diodes: {
    id: string;
    reverseVolts: number;
    averageAmps: number;
    rmsAmps: number;
    peakAmps: number;
    /** Mean of current times voltage. */ watts: number;
  }[];
  nodes: { id: string; meanVolts: number; minVolts: number; maxVolts: number }[];
  /** RMS and peak current of the winding that carries most. */
  source: { rmsAmps: number; peakAmps: number };
  watts: Record<'in' | 'load' | 'bleeder' | 'series' | 'source' | 'diodes' | 'edges' | 'stored', number>;
  efficiency: number | null;
  /** Whether the load's gap would strike at this output. */
  gapStrikes: boolean;
};

export type TransientRun = { transient: Transient; waveforms: Waveforms };

const USUAL_STEPS = 400;
/** Remaining error at which a state counts as settled, as a fraction of the output without load. */
const SETTLED = 1e-6;
/** Periods at most, and to run plainly after them: fewer where each takes longer. */
const mostPlainPeriodsOf = (unknowns: number) => Math.min(6000, Math.round(50_000 / unknowns));
const mostPeriodsOf = (unknowns: number) => Math.max(160, Math.min(400, Math.round(20_000 / unknowns)));
/** Periods where there is another way. */
const BRIEF_PERIODS = 30;

/** Steps at most where ringing or the balance of power asks for more than the usual: fewer in large circuits. */
const mostStepsOf = (unknowns: number) => Math.min(6400, 64_000 / unknowns);
/** Residue of the balance of power at which steps are short enough. */
const CLOSED = 1e-3;
/** Phase of the fastest ringing that the longest step may take, rad. */
const RESOLVED_PHASE = 1;

/**
 * The steady state of a design in the time domain: settled on a grid of half
 * the steps, carried over to the full one and settled again. What the length of
 * the steps costs is of first order in it, so the difference between the two is
 * taken off once more, and reported as the estimate of what may remain
 * (L. Richardson, 1911, from memory).
 *
 * Where leakage inductance rings with strays the steps are made as short as the
 * ringing asks, and shortened until power adds up. Ringing too fast for that,
 * or that never settles to the drive's period, is taken as damped within each
 * step, and the power it loses so is counted with the edges.
 *
 * @param design complete, as `readDesign` returns it
 * @param steps of one period on the finer grid, at least 16; more where needed
 * @yields the progress of settling
 * @returns figures and the waveforms of the last period; figures are those of
 *   the last state reached when it did not settle, and `converged` says so
 * @throws RangeError when a step of the last period has no solution, which no design is known to bring about
 */
export function* transientOf(design: Design, steps: number = USUAL_STEPS): Generator<SettleProgress, TransientRun> {
  const { ladder, circuit } = circuitOfDesign(design);
  const ringing = hasInductance(circuit);
  const enough = ringing ? stepsFollowing(circuit, ladder.drive, steps) : steps;
  let attempt: Attempt | null = null;
  if (enough !== null) {
    attempt = yield* settleOnTwoGrids(design, ladder, circuit, enough);
    const most = mostStepsOf(circuit.names.length);
    while (ringing && attempt.convergence.converged && !addsUp(attempt) && 2 * attempt.grid.steps <= most) {
      const finer: Attempt = yield* settleFiner(ladder, circuit, attempt);
      if (!finer.convergence.converged) break;
      attempt = finer;
    }
  }
  if (!attempt || (ringing && !attempt.convergence.converged))
    attempt = yield* settleOnTwoGrids(design, ladder, { ...circuit, ringing: 'damped' }, steps);
  const { grid, convergence, rough, fine } = attempt;
  return {
    transient: figures({ design, ladder, circuit: attempt.circuit, grid, convergence, rough, measured: fine.measured }),
    waveforms: fine.waveforms,
  };
}

/** A state settled on a grid, with what it shows there and on the coarser grid before. */
type Attempt = {
  circuit: Circuit;
  grid: TimeGrid;
  state: State;
  convergence: Convergence;
  rough: Measured | null;
  fine: { measured: Measured; waveforms: Waveforms };
};

function* settleOnTwoGrids(
  design: Design,
  ladder: LoadedLadder,
  circuit: Circuit,
  steps: number,
): Generator<SettleProgress, Attempt> {
  const grid = timeGrid(ladder.drive, Math.max(8, steps / 2));
  const state = startingState(design, ladder, circuit, grid);
  const convergence = yield* settle(circuit, grid, state, optionsOf(ladder, circuit), false);
  const coarse = { circuit, grid, state, convergence, rough: null, fine: measured(circuit, grid, state) };
  return convergence.converged ? yield* settleFiner(ladder, circuit, coarse, steps) : coarse;
}

function* settleFiner(
  ladder: LoadedLadder,
  circuit: Circuit,
  from: Attempt,
  steps: number = 2 * from.grid.steps,
): Generator<SettleProgress, Attempt> {
  const grid = timeGrid(ladder.drive, steps);
  const state = copyOf(from.state);
  const convergence = yield* settle(circuit, grid, state, optionsOf(ladder, circuit), true);
  return {
    circuit,
    grid,
    state,
    convergence: { ...convergence, periods: from.convergence.periods + convergence.periods },
    rough: convergence.converged ? from.fine.measured : null,
    fine: measured(circuit, grid, state),
  };
}

/** How long to try; briefly where ringing is followed, which may never settle and can be damped instead. */
function optionsOf(ladder: LoadedLadder, circuit: Circuit): SteadyOptions {
  const { names } = circuit;
  const briefly = hasInductance(circuit) && circuit.ringing === 'followed';
  return {
    tolerance: SETTLED,
    scaleVolts: Math.max(ladder.unloaded.outputVolts, amplitudeVolts(ladder.drive)),
    mostPeriods: briefly ? BRIEF_PERIODS : mostPeriodsOf(names.length),
    mostPlainPeriods: briefly ? 0 : mostPlainPeriodsOf(names.length),
  };
}

function measured(circuit: Circuit, grid: TimeGrid, state: State) {
  const whole = measurePeriod(circuit, grid, copyOf(state));
  if (!whole) throw new RangeError('transientOf: the last state cannot be run through a period');
  return whole;
}

function addsUp({ rough, fine }: Attempt): boolean {
  const residue = powerResidue(wattsOf(rough, fine.measured));
  return residue === null || Math.abs(residue) <= CLOSED;
}

/** Steps that resolve the fastest ringing of the windings with what is always across them; null when too many. */
function stepsFollowing(circuit: Circuit, drive: Drive, steps: number): number | null {
  const most = Math.max(steps, mostStepsOf(circuit.names.length));
  const fastest = Math.sqrt(Math.max(...new Stepper(circuit).ringing(1 / drive.frequencyHertz / most)));
  for (let enough = steps; enough <= most; enough *= 2)
    if (Math.max(...timeGrid(drive, enough).seconds) * fastest <= RESOLVED_PHASE) return enough;
  return null;
}

/** The closed form's answer as a state, at the start of a period; at its last trusted current where it has none. */
export function startingState(design: Design, ladder: LoadedLadder, circuit: Circuit, grid: TimeGrid): State {
  const { unloaded, lightLoad, network, drive } = ladder;
  const point = workingPoint(ladder, design.load, design.output);
  const mostDroop = Number.isFinite(lightLoad.droop) ? closedFormAmps(ladder) / drive.frequencyHertz : 0;
  const scale = point ? point.droop.totalVolts / lightLoad.droop : mostDroop;
  const startDrive = grid.drive[grid.steps - 1];
  const amplitude = amplitudeVolts(drive);
  const centre = (drive.positivePeakVolts - drive.negativePeakVolts) / 2;
  const phase = (startDrive - centre) / amplitude - (2 * drive.duty - 1);
  const state = emptyState(circuit.names.length, circuit.windings.length);
  const { volts } = state;
  for (const { id } of freeNodes(network))
    volts[circuit.place.get(id)!] =
      unloaded.nodeVolts.get(id)! - scale * lightLoad.nodeDroops.get(id)! + phase * unloaded.nodeSwings.get(id)!;
  for (const { node, sign } of circuit.windings) volts[node] = sign * startDrive;
  const loadNode = circuit.place.get('load');
  if (loadNode !== undefined) volts[loadNode] = circuit.output >= 0 ? volts[circuit.output] : 0;
  new Stepper(circuit).chargeAt(volts, startDrive, state.charge);
  return state;
}

/** A period that has been measured, on the finer grid and, where that was done, on the coarser one. */
type MeasuredRun = {
  design: Design;
  ladder: LoadedLadder;
  circuit: Circuit;
  grid: TimeGrid;
  convergence: Convergence;
  rough: Measured | null;
  measured: Measured;
};

function figures({ design, ladder, circuit, grid, convergence, rough, measured }: MeasuredRun): Transient {
  const { network } = ladder;
  const best = (read: (from: Measured) => number) => extrapolated(rough, measured, read);
  const positive = (read: (from: Measured) => number) => Math.max(0, best(read));
  // A spike shorter than a step grows with every finer grid, or shrinks: it cannot be carried on, and the finer one stands.
  const rms = (read: (from: Measured) => number) => {
    const [carried, fine] = [best(read), read(measured)];
    return Math.sqrt(carried > fine / 2 && carried < 2 * fine ? carried : fine);
  };
  const meanVolts = best(({ load }) => load.mean);
  const minVolts = best(({ load }) => load.least);
  const maxVolts = Math.max(
    minVolts,
    best(({ load }) => load.most),
  );
  const watts = wattsOf(rough, measured);
  const at = (id: string) => circuit.place.get(id);
  return {
    converged: convergence.converged,
    reason: convergence.reason,
    periods: convergence.periods,
    stepsPerPeriod: grid.steps,
    ringing: hasInductance(circuit) ? circuit.ringing : 'none',
    error: {
      settlingVolts: convergence.outputErrorVolts,
      steppingVolts: rough ? Math.abs(measured.load.mean - rough.load.mean) : Math.abs(measured.load.mean),
      chargeResidue: convergence.chargeResidue,
      powerResidue: powerResidue(watts),
    },
    meanVolts,
    minVolts,
    maxVolts,
    ripplePeakToPeakVolts: maxVolts - minVolts,
    terminalMeanVolts: best(({ terminal }) => terminal.mean),
    amps: best(({ loadAmps }) => loadAmps),
    bleederAmps: best(({ bleederAmps }) => bleederAmps),
    capacitors: network.capacitors.map((part, index) => ({
      id: part.id,
      meanVolts: best(({ capacitors }) => capacitors[index].mean),
      ripplePeakToPeakVolts: positive(({ capacitors }) => capacitors[index].most - capacitors[index].least),
      rmsAmps: rms(({ capacitors }) => capacitors[index].meanSquareAmps),
    })),
    diodes: network.diodes.map((part, index) => ({
      id: part.id,
      reverseVolts: positive(({ diodes }) => diodes[index].reverseVolts),
      averageAmps: best(({ diodes }) => diodes[index].averageAmps),
      rmsAmps: rms(({ diodes }) => diodes[index].meanSquareAmps),
      peakAmps: positive(({ diodes }) => diodes[index].peakAmps),
      watts: best(({ diodes }) => diodes[index].watts),
    })),
    nodes: network.nodes.map(({ id }) => {
      const node = at(id);
      if (node === undefined) return { id, ...knownNode(ladder.drive, network.sources, id) };
      return {
        id,
        meanVolts: best(({ nodes }) => nodes.mean[node]),
        minVolts: best(({ nodes }) => nodes.least[node]),
        maxVolts: best(({ nodes }) => nodes.most[node]),
      };
    }),
    source: {
      rmsAmps: rms(({ windings }) => Math.max(...windings.map((one) => one.meanSquareAmps))),
      peakAmps: positive(({ windings }) => Math.max(...windings.map((one) => one.peakAmps))),
    },
    watts,
    efficiency: watts.in > 0 && watts.load > 0 ? watts.load / watts.in : null,
    gapStrikes: design.load.kind === 'gap' && maxVolts >= design.load.strikeVolts,
  };
}

/** A figure carried on from the coarse and the fine grid to steps of no length. */
function extrapolated(rough: Measured | null, fine: Measured, read: (from: Measured) => number): number {
  return rough ? 2 * read(fine) - read(rough) : read(fine);
}

function wattsOf(rough: Measured | null, fine: Measured): Transient['watts'] {
  const of = (name: keyof Transient['watts']) => extrapolated(rough, fine, ({ power }) => power[name]);
  return {
    in: of('in'),
    load: of('load'),
    bleeder: of('bleeder'),
    series: of('series'),
    source: of('source'),
    diodes: of('diodes'),
    edges: of('edges'),
    stored: of('stored'),
  };
}

function powerResidue({ in: input, ...taken }: Transient['watts']): number | null {
  const accounted = Object.values(taken).reduce((sum, one) => sum + one, 0);
  return input > 0 ? (input - accounted) / input : null;
}

/** Ground and stiff sources, which need no computing. */
function knownNode(drive: Drive, sources: LoadedLadder['network']['sources'], id: string) {
  const source = sources.find((one) => one.node === id);
  if (!source) return { meanVolts: 0, minVolts: 0, maxVolts: 0 };
  const [high, low] = [drive.positivePeakVolts, -drive.negativePeakVolts];
  const mean = drive.duty * high + (1 - drive.duty) * low;
  return source.sign === 1
    ? { meanVolts: mean, minVolts: low, maxVolts: high }
    : { meanVolts: -mean, minVolts: -high, maxVolts: -low };
}

/** Runs a computation to its end without looking at its progress. */
export function finish<T>(run: Generator<unknown, T>): T {
  let step = run.next();
  while (!step.done) step = run.next();
  return step.value;
}
