import { driveAt, edgeFraction, hasFastEdges, type Drive } from '../drive/drive';

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
};

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
 *
 * @param steps in a period, at least 8; rounded up to a multiple of four
 * @throws RangeError for fewer steps, or a sampled waveform of fewer than two samples
 */
export function timeGrid(drive: Drive, steps: number): TimeGrid {
  if (!(steps >= 8)) throw new RangeError(`timeGrid: ${steps} steps; must be at least 8`);
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

function gridOf(lengths: readonly number[], value: (time: number) => number): TimeGrid {
  const times = runningSum(lengths);
  return {
    steps: lengths.length,
    seconds: Float64Array.from(lengths),
    times,
    afterEdge: new Uint8Array(lengths.length),
    drive: Float64Array.from(lengths, (_, step) => value(times[step + 1])),
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
