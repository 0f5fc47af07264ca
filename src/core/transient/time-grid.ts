import type { CircuitEvent, CircuitPhase } from './circuit';
import { burstCycles } from '../drive/bursts';
import { amplitudeVolts, driveAt, edgeFraction, hasFastEdges, type Burst, type Drive } from '../drive/drive';

/** Steps of one period where nothing asks for more. */
export const USUAL_STEPS = 400;

/** One period cut into steps so that peaks and edges fall between steps, with the drive at the end of each. */
export type TimeGrid = {
  steps: number;
  /** Length of each step, s. */
  seconds: Float64Array;
  /** Start of each step from the start of the period, s, and the period's end. */
  times: Float64Array;
  /** Whether a step follows an edge of the drive. */
  afterEdge: Uint8Array;
  /** Drive at the end of each step, just before any edge there, V. */
  drive: Float64Array;
  /** Which switches are closed through each step, a bit for each. */
  closed: Uint8Array;
  /** Stretches of steps, each after the other. */
  phases: readonly Phase[];
};

/** Steps `first` to before `end`; with an event, as many of them as it takes, for so long at most, s. */
export type Phase = { first: number; end: number; until: CircuitEvent | null; mostSeconds: number };

/** Fraction of the steps that each edge takes which is no jump. */
const EDGE_SHARE = 0.15;

/**
 * The time grid of one period.
 *
 * A sine starts at its rising crossing of the middle; its peaks fall between
 * steps, which are short about the peaks, where charge flows, and grow away
 * from them by doubling. A square or pulse starts at its rising edge and has
 * its steps shared between its two levels, short after each edge and growing;
 * an edge that takes time has steps of its own.
 * A sampled waveform has even steps, its jumps taken as slopes between samples.
 * Of a drive in bursts the period is that of the bursts: their cycles one after
 * another, and what stands between them.
 *
 * @param steps in a period, at least 8; rounded up to a multiple of four
 * @throws RangeError for fewer steps, or a sampled waveform of fewer than two samples
 */
export function timeGrid(drive: Drive, steps: number): TimeGrid {
  if (!(steps >= 8)) throw new RangeError(`timeGrid: ${steps} steps; must be at least 8`);
  return drive.burst ? burstGrid(drive, drive.burst, steps) : cycleGrid(drive, steps);
}

/** Steps of each cycle of a burst, against one that stands alone; of many cycles fewer, down to the least. */
const BURST_SHARE = 1 / 2;
const BURST_STEPS = 100;
const LEAST_CYCLE_STEPS = 16;
/** The time between two bursts, in steps that double. */
const REST_STEPS = 40;
/** Part of the amplitude that a sine's end may be from nothing by rounding. */
const NO_JUMP = 1e-6;

function burstGrid(drive: Drive, burst: Burst, steps: number): TimeGrid {
  const cycles = burstCycles(drive, burst);
  const share = Math.min(BURST_SHARE, BURST_STEPS / cycles);
  const cycle = cycleGrid({ ...drive, burst: null }, Math.max(LEAST_CYCLE_STEPS, 4 * Math.round((share * steps) / 4)));
  const rest = doubling(REST_STEPS, 5, 1 / burst.hertz - cycles / drive.frequencyHertz);
  const grid = gridOf([...Array.from({ length: cycles }, () => [...cycle.seconds]).flat(), ...rest], () => 0);
  for (let at = 0; at < cycles * cycle.steps; at += 1) {
    grid.drive[at] = cycle.drive[at % cycle.steps];
    grid.afterEdge[at] = cycle.afterEdge[at % cycle.steps];
  }
  // What stops short of nothing jumps there.
  const left = Math.abs(cycle.drive[cycle.steps - 1]);
  if (left > NO_JUMP * amplitudeVolts(drive)) grid.afterEdge[cycles * cycle.steps] = 1;
  return grid;
}

function cycleGrid(drive: Drive, steps: number): TimeGrid {
  const period = 1 / drive.frequencyHertz;
  if (drive.samples) {
    if (drive.samples.length < 2) throw new RangeError('timeGrid: a sampled waveform needs two samples or more');
    return gridOf(new Array<number>(steps).fill(period / steps), (time) => driveAt(drive, time / period));
  }
  if (!hasFastEdges(drive)) {
    const outward = doubling(Math.ceil(steps / 4), 4, period / 4);
    const inward = [...outward].reverse();
    return gridOf([...inward, ...outward, ...inward, ...outward], (time) => {
      return driveAt(drive, time / period);
    });
  }
  const edge = edgeFraction(drive);
  if (edge > 0) {
    const sloped = Math.max(4, Math.round(steps * EDGE_SHARE));
    const high = Math.max(4, Math.round((steps - 2 * sloped) * drive.duty));
    const low = Math.max(4, steps - 2 * sloped - high);
    const slope = new Array<number>(sloped).fill((edge * period) / sloped);
    const standing = (count: number, fraction: number) => doubling(count, 6, (fraction - edge) * period);
    const lengths = [...slope, ...standing(high, drive.duty), ...slope, ...standing(low, 1 - drive.duty)];
    return gridOf(lengths, (time) => driveAt(drive, (time / period) % 1));
  }
  const high = Math.min(steps - 4, Math.max(4, Math.round(steps * drive.duty)));
  const lengths = [...doubling(high, 6, drive.duty * period), ...doubling(steps - high, 6, (1 - drive.duty) * period)];
  const grid = gridOf(lengths, () => 0);
  grid.drive.forEach((_, step) => {
    grid.drive[step] = step < high ? drive.positivePeakVolts : -drive.negativePeakVolts;
  });
  grid.afterEdge[0] = 1;
  grid.afterEdge[high] = 1;
  return grid;
}

/**
 * The grid of a driver run as a circuit: each phase has its own steps, even ones
 * or short ones first that double until they are as long as the even ones. A
 * phase that ends when something happens has its expected length.
 *
 * @param steps how fine, against `USUAL_STEPS`
 */
export function phasedGrid(phases: readonly CircuitPhase[], steps: number): TimeGrid {
  const fineness = steps / USUAL_STEPS;
  const spans = phases.map((phase) => phaseLengths(phase, fineness));
  const grid = gridOf(spans.flat(), () => 0);
  let first = 0;
  const laid = phases.map(({ seconds, until, closed }, index): Phase => {
    const end = first + spans[index].length;
    grid.closed.fill(closed, first, end);
    const phase = { first, end, until, mostSeconds: MOST_TIMES_EXPECTED * seconds };
    first = end;
    return phase;
  });
  return { ...grid, phases: laid };
}

const LEAST_PHASE_STEPS = 4;
/** Steps of each length while they grow. */
const GROWING_STEPS = 8;
/** How much later than expected a change over may come before none is taken to come. */
const MOST_TIMES_EXPECTED = 4;

function phaseLengths({ seconds, steps, first }: CircuitPhase, fineness: number): number[] {
  const even = seconds / Math.max(LEAST_PHASE_STEPS, steps * fineness);
  const lengths: number[] = [];
  let left = seconds;
  if (first) {
    const shortest = first.seconds / fineness;
    for (let length = shortest; length < even; length *= 2) {
      const wanted = (length === shortest ? first.steps : GROWING_STEPS) * fineness;
      const count = Math.min(Math.ceil(wanted), Math.floor(left / (2 * length)));
      for (let step = 0; step < count; step += 1) lengths.push(length);
      left -= count * length;
    }
  }
  const count = Math.max(LEAST_PHASE_STEPS, Math.ceil(left / even - 1e-9));
  for (let step = 0; step < count; step += 1) lengths.push(left / count);
  return lengths;
}

function gridOf(lengths: readonly number[], value: (time: number) => number): TimeGrid {
  const times = runningSum(lengths);
  return {
    steps: lengths.length,
    seconds: Float64Array.from(lengths),
    times,
    afterEdge: new Uint8Array(lengths.length),
    drive: Float64Array.from(lengths, (_, step) => value(times[step + 1])),
    closed: new Uint8Array(lengths.length),
    phases: [{ first: 0, end: lengths.length, until: null, mostSeconds: Infinity }],
  };
}

function runningSum(lengths: readonly number[]): Float64Array {
  const times = new Float64Array(lengths.length + 1);
  lengths.forEach((length, step) => (times[step + 1] = times[step] + length));
  return times;
}

/** Lengths in so many groups of like ones, each group twice as long as the one before. */
function doubling(count: number, groups: number, total: number): number[] {
  const shapes = Array.from({ length: count }, (_, step) => 2 ** Math.floor((step * groups) / count));
  const sum = shapes.reduce((a, b) => a + b, 0);
  return shapes.map((shape) => (shape / sum) * total);
}
