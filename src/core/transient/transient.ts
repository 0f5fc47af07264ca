import type { Design } from '../design/design-schema';
import { amplitudeVolts, type Drive } from '../drive/drive';
import { closedFormAmps, type LoadedLadder } from '../ladder/loaded';
import { freeNodes } from '../ladder/network';
import { workingPoint } from '../output/terminal';
import type { Circuit } from './circuit';
import { circuitOfDesign } from './circuit-of-design';
import { measurePeriod, type Measured, type Waveforms } from './measure';
import { copyOf, emptyState, type State } from './period';
import { settle, type Convergence, type SettleProgress } from './steady-state';
import { Stepper } from './stepper';
import { timeGrid, type TimeGrid } from './time-grid';

/** What the time domain says of a design in its steady state; magnitudes in V like the prediction beside it. */
export type Transient = {
  converged: boolean;
  /** Why there is no settled state, when there is none. */
  reason: string | null;
  periods: number;
  stepsPerPeriod: number;
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
  capacitors: { id: string; meanVolts: number; ripplePeakToPeakVolts: number }[];
  diodes: { id: string; reverseVolts: number; averageAmps: number; rmsAmps: number; peakAmps: number }[];
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
/** Remaining error at which a state counts as settled, as a part of the output without load. */
const SETTLED = 1e-6;
/** Periods at most, and to run plainly after them: fewer where each takes longer. */
const mostPlainPeriodsOf = (unknowns: number) => Math.min(6000, Math.round(60_000 / unknowns));
const mostPeriodsOf = (unknowns: number) => Math.max(160, Math.min(400, Math.round(20_000 / unknowns)));

/**
 * The steady state of a design in the time domain: settled on a grid of half
 * the steps, carried over to the full one and settled again. What the length of
 * the steps costs is of first order in it, so the difference between the two is
 * taken off once more, and reported as the estimate of what may remain
 * (L. Richardson, 1911, from memory).
 *
 * @param design complete, as `readDesign` returns it
 * @param steps of one period on the finer grid, at least 16
 * @yields the progress of settling
 * @returns figures and the waveforms of the last period; figures are those of
 *   the last state reached when it did not settle, and `converged` says so
 * @throws RangeError when a step of the last period has no solution, which no design is known to bring about
 */
export function* transientOf(design: Design, steps: number = USUAL_STEPS): Generator<SettleProgress, TransientRun> {
  const { ladder, circuit } = circuitOfDesign(design);
  const coarse = timeGrid(ladder.drive, Math.max(8, steps / 2));
  const fine = timeGrid(ladder.drive, steps);
  const options = {
    tolerance: SETTLED,
    scaleVolts: Math.max(ladder.unloaded.outputVolts, amplitudeVolts(ladder.drive)),
    mostPeriods: mostPeriodsOf(circuit.names.length),
    mostPlainPeriods: mostPlainPeriodsOf(circuit.names.length),
  };
  const state = startingState(design, ladder, circuit, fine);
  const first = yield* settle(circuit, coarse, state, options, false);
  const rough = measurePeriod(circuit, coarse, copyOf(state))?.measured ?? null;
  const second = first.converged ? yield* settle(circuit, fine, state, options, true) : first;
  const whole = measurePeriod(circuit, fine, state);
  const periods = first.periods + (second === first ? 0 : second.periods);
  if (!whole) throw new RangeError('transientOf: the last state cannot be run through a period');
  return {
    transient: figures(
      design,
      ladder,
      circuit,
      fine,
      { ...second, periods },
      second.converged ? rough : null,
      whole.measured,
    ),
    waveforms: whole.waveforms,
  };
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

function figures(
  design: Design,
  ladder: LoadedLadder,
  circuit: Circuit,
  grid: TimeGrid,
  convergence: Convergence,
  rough: Measured | null,
  measured: Measured,
): Transient {
  const { network } = ladder;
  /** Extrapolates a figure from the coarse and the fine grid. */
  const best = (read: (from: Measured) => number) => (rough ? 2 * read(measured) - read(rough) : read(measured));
  const positive = (read: (from: Measured) => number) => Math.max(0, best(read));
  const meanVolts = best(({ load }) => load.mean);
  const minVolts = best(({ load }) => load.least);
  const maxVolts = Math.max(
    minVolts,
    best(({ load }) => load.most),
  );
  const watts = {
    in: best(({ power }) => power.in),
    load: best(({ power }) => power.load),
    bleeder: best(({ power }) => power.bleeder),
    series: best(({ power }) => power.series),
    source: best(({ power }) => power.source),
    diodes: best(({ power }) => power.diodes),
    edges: best(({ power }) => power.edges),
    stored: best(({ power }) => power.stored),
  };
  const { in: input, ...taken } = watts;
  const accounted = Object.values(taken).reduce((sum, one) => sum + one, 0);
  const at = (id: string) => circuit.place.get(id);
  return {
    converged: convergence.converged,
    reason: convergence.reason,
    periods: convergence.periods,
    stepsPerPeriod: grid.steps,
    error: {
      settlingVolts: convergence.outputErrorVolts,
      steppingVolts: rough ? Math.abs(measured.load.mean - rough.load.mean) : Math.abs(measured.load.mean),
      chargeResidue: convergence.chargeResidue,
      powerResidue: input > 0 ? (input - accounted) / input : null,
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
    })),
    diodes: network.diodes.map((part, index) => ({
      id: part.id,
      reverseVolts: positive(({ diodes }) => diodes[index].reverseVolts),
      averageAmps: best(({ diodes }) => diodes[index].averageAmps),
      rmsAmps: Math.sqrt(positive(({ diodes }) => diodes[index].meanSquareAmps)),
      peakAmps: positive(({ diodes }) => diodes[index].peakAmps),
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
      rmsAmps: Math.sqrt(positive(({ windings }) => Math.max(...windings.map((one) => one.meanSquareAmps)))),
      peakAmps: positive(({ windings }) => Math.max(...windings.map((one) => one.peakAmps))),
    },
    watts,
    efficiency: input > 0 && watts.load > 0 ? watts.load / input : null,
    gapStrikes: design.load.kind === 'gap' && maxVolts >= design.load.strikeVolts,
  };
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
