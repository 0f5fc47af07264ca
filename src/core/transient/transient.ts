import type { Design } from '../design/design-schema';
import { runningPart } from '../drive/bursts';
import { meanDriveVolts, type Drive } from '../drive/drive';
import { directFeed } from '../drive/feed';
import type { DriveFigures } from '../drive/figures';
import { withSwitching } from '../drive/driver-kinds';
import { turnedDown } from '../drive/supply';
import type { NoCircuit } from '../drive/supply-circuit';
import type { LoadedLadder } from '../ladder/loaded';
import { hasInductance, type Circuit } from './circuit';
import { circuitOfDesign, wholeSupplyOf, type WholeSupply } from './circuit-of-design';
import { powerResidue, type Measured, type Waveforms } from './measure';
import { carriedOn, settledNearby, settledOnDrive, settledSupply, wattsOf, type Settled } from './settled';
import type { SettleProgress } from './steady-state';
import { USUAL_STEPS } from './time-grid';

/** What the time domain says of a design in its steady state; magnitudes in V like the prediction beside it. */
export type Transient = {
  converged: boolean;
  /** What its driver was run as. */
  driver: DriverRun;
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
  /** RMS at the load: what counts of an output that alternates. */
  rmsVolts: number;
  rmsAmps: number;
  acrossAmps: number;
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
  watts: Measured['power'];
  efficiency: number | null;
  /** Whether the load's gap would strike at this output. */
  gapStrikes: boolean;
};

/**
 * A driver as part of the circuit, with its own figures; or only as the drive that the closed form makes of it, and why,
 * where that is not all there is to it.
 */
type DriverRun =
  | {
      kind: 'circuit';
      figures: DriveFigures;
      /** Where no cycle repeats: how many were averaged, and how far the output strays from their mean, V. */
      wandering: Settled['wandering'];
      /** What the supply's limit of current leaves of its voltage, V; null where it is not reached. */
      limitedVolts: number | null;
    }
  | { kind: 'drive'; reason: string | null };

export type TransientRun = { transient: Transient; waveforms: Waveforms };

/**
 * The steady state of a design in the time domain: settled on a grid of half
 * the steps, carried over to the full one and settled again. What the length of
 * the steps costs is of first order in it, so the difference between the two is
 * taken off once more, and reported as the estimate of what may remain
 * (L. Richardson, 1911, from memory).
 *
 * A driver of known parts runs as one circuit with its ladder and load, at the
 * voltage that its supply's limit of current leaves; where it
 * cannot, or does not settle, its ladder runs on the drive that the closed form
 * makes of it, and `driver` says why.
 *
 * @param design complete, as `readDesign` returns it
 * @param steps of one period on the finer grid, at least 16; more where needed
 * @yields the progress of settling
 * @returns figures and the waveforms of the last period; figures are those of
 *   the last state reached when it did not settle, and `converged` says so
 * @throws RangeError when a step of the last period has no solution, which no design is known to bring about
 */
export function* transientOf(design: Design, steps: number = USUAL_STEPS): Generator<SettleProgress, TransientRun> {
  const whole = wholeSupplyOf(design);
  let reason: string | null = null;
  if (whole && 'circuit' in whole) {
    const settled = yield* settledWithin(design, whole, steps);
    if ('circuit' in settled)
      return { transient: figures(design, settled, 'circuit'), waveforms: settled.fine.waveforms };
    ({ reason } = settled);
  } else if (whole) reason = whole.reason;
  const settled = yield* settledOnDrive(design, circuitOfDesign(design), steps);
  if (!settled) throw new RangeError('transientOf: the last state cannot be run through a period');
  return { transient: figures(design, settled, { reason }), waveforms: settled.fine.waveforms };
}

/**
 * The steady state of a circuit that differs from its design's, on the design's drive.
 *
 * @param design of which it has the load, and the parts' names
 * @param nearVolts an estimate of its nodes' voltages, in the circuit's order, V
 * @returns null where it does not settle from there
 */
export function* transientNearby(
  design: Design,
  ladder: LoadedLadder,
  circuit: Circuit,
  nearVolts: ArrayLike<number>,
): Generator<SettleProgress, TransientRun | null> {
  const settled = yield* settledNearby(ladder, circuit, nearVolts, USUAL_STEPS);
  return settled && { transient: figures(design, settled, { reason: null }), waveforms: settled.fine.waveforms };
}

/** How near to its limit a supply's current is brought, and how often that is tried. */
const AT_THE_LIMIT = 0.01;
const MOST_TRIES = 10;

type Limited = Settled & { limitedVolts: number };

/**
 * A whole supply settled within what its direct supply gives: one that limits its
 * current holds a reservoir at the voltage at which its driver draws just that,
 * found by the supply turned down.
 */
function* settledWithin(
  design: Design,
  whole: WholeSupply,
  steps: number,
): Generator<SettleProgress, Settled | Limited | NoCircuit> {
  const { supply } = design;
  const whether = yield* settledSupply(design, whole, steps);
  const limit = supply && supply.kind !== 'mains' ? directFeed(supply).maxAmps : null;
  if (limit === null || !('circuit' in whether)) return whether;
  const over = (settled: Settled) => Math.log(drawnBy(settled) / limit);
  let above = { log: 0, over: over(whether) };
  if (!(above.over > AT_THE_LIMIT)) return whether;
  let below: typeof above | null = null;
  for (let tries = 0; tries < MOST_TRIES; tries += 1) {
    const log = nextDown(above, below, tries);
    const turned: Design = { ...design, supply: turnedDown(supply!, Math.exp(log)) };
    const again = wholeSupplyOf(turned);
    const settled = again && 'circuit' in again ? yield* settledSupply(turned, again, steps) : again;
    if (!settled || !('circuit' in settled))
      return { reason: 'at the current that its supply is limited to it does not run' };
    const found = { log, over: over(settled) };
    // A clamp that begins to hold may raise the current steeply: then the voltage is near enough.
    if (Math.abs(found.over) <= AT_THE_LIMIT || (below && above.log - below.log < AT_THE_LIMIT))
      return { ...settled, limitedVolts: Math.exp(log) * directFeed(supply!).volts };
    if (found.over > 0) above = found;
    else below = found;
  }
  return { reason: 'no voltage was found at which it draws what its supply is limited to' };
}

/** The next voltage to try, as a logarithm: in proportion to the current at first, then between the two nearest, now and then halfway. */
function nextDown(
  above: { log: number; over: number },
  below: { log: number; over: number } | null,
  tries: number,
): number {
  if (!below) return above.log - above.over;
  const part = tries % 3 === 2 ? 1 / 2 : above.over / (above.over - below.over);
  return above.log + part * (below.log - above.log);
}

const drawnBy = ({ circuit, fine }: Settled): number => driverFigures(circuit, fine.measured).supplyAmps ?? 0;

function figures(design: Design, settled: Settled | Limited, driver: 'circuit' | { reason: string | null }): Transient {
  const { ladder, circuit, grid, convergence, rough } = settled;
  const { measured } = settled.fine;
  const { network } = ladder;
  const best = (read: (from: Measured) => number) => carriedOn(settled, read);
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
  const watts = wattsOf(settled);
  const at = (id: string) => circuit.place.get(id);
  return {
    driver:
      driver === 'circuit'
        ? {
            kind: 'circuit',
            figures: withSwitching(design.driver, driverFigures(circuit, measured)),
            wandering: settled.wandering,
            limitedVolts: 'limitedVolts' in settled ? settled.limitedVolts : null,
          }
        : { kind: 'drive', ...driver },
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
    rmsVolts: rms(({ loadSquares }) => loadSquares.volts),
    rmsAmps: rms(({ loadSquares }) => loadSquares.amps),
    acrossAmps: best(({ acrossAmps }) => acrossAmps),
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
    gapStrikes: design.load.kind === 'gap' && Math.max(maxVolts, -minVolts) >= design.load.strikeVolts,
  };
}

/** What the driver's probes read. */
function driverFigures({ supply }: Circuit, { seconds, probes }: Measured): DriveFigures {
  const figures: DriveFigures = { frequencyHertz: 1 / seconds };
  supply!.probes.forEach(({ figure }, index) => {
    figures[figure] = probes[index];
  });
  return figures;
}

/** Ground and stiff sources, which need no computing. */
function knownNode(drive: Drive, sources: LoadedLadder['network']['sources'], id: string) {
  const source = sources.find((one) => one.node === id);
  if (!source) return { meanVolts: 0, minVolts: 0, maxVolts: 0 };
  const [high, low] = [drive.positivePeakVolts, -drive.negativePeakVolts];
  const mean = runningPart(drive) * meanDriveVolts(drive);
  return source.sign === 1
    ? { meanVolts: mean, minVolts: low, maxVolts: high }
    : { meanVolts: -mean, minVolts: -high, maxVolts: -low };
}
