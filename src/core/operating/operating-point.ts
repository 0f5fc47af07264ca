import type { Design } from '../design/design-schema';
import { atLevel, wattsAtLevel, type Drive } from '../drive/drive';
import { withPeaksOf, type LoadedLadder } from '../ladder/loaded';
import { workingPoint, type WorkingPoint } from '../output/terminal';
import { demandOf, type Demand } from './demand';
import { ladderOfDesign } from './ladder-of-design';

/** A design at its load, on a drive that gives what it can. */
export type LoadedDesign = {
  /** On the drive as it is before its power runs out. */
  full: LoadedLadder;
  /** On the drive as the load leaves it; the same where power suffices. */
  ladder: LoadedLadder;
  /** Part of the full peak that is left, 0..1. */
  level: number;
  /** Null where the closed form gives none. */
  point: WorkingPoint | null;
  demand: Demand | null;
};

const MOST_TRIES = 40;
/** How near the limit counts as at it, in parts of it. */
const AT_THE_LIMIT = 1e-5;
/** Part of the peaks between too much asked and no state at all in which none is looked for any further. */
const NOWHERE = 1e-2;

/**
 * Where a design settles: at its drive's full peaks if they can be kept up,
 * else at the highest peaks at which the ladder takes no more power or current
 * than the drive gives, and the supply behind it can carry, sag and all. What
 * the ladder takes rises with the peaks, so the place is closed in on from both
 * sides. Steady states only: how a driver's own regulation gets there is not
 * looked at.
 *
 * @param stages another count than the design's own
 */
export function loadedDesign(design: Design, stages?: number): LoadedDesign {
  return settledFrom(design, ladderOfDesign(design, stages), (ladder) =>
    workingPoint(ladder, design.load, design.output),
  );
}

/**
 * The same from the ladder on its full drive, where that is there already.
 *
 * @param workedAt where the ladder works on a drive of lower peaks
 */
export function settledFrom(
  design: Design,
  full: LoadedLadder,
  workedAt: (ladder: LoadedLadder) => WorkingPoint | null,
): LoadedDesign {
  const at = (level: number) => {
    const ladder = level === 1 ? full : withPeaksOf(full, atLevel(full.drive, level));
    const worked = workedAt(ladder);
    // Peaks that the diodes take whole give nothing to settle at.
    const point = level < 1 && !(ladder.unloaded.outputVolts > 0) ? null : worked;
    const demand = point && demandOf(design, ladder, point);
    return { full, ladder, level, point, demand, excess: demand && excess(full.drive, ladder, demand, level) };
  };
  const whole = at(1);
  if (whole.excess === null || whole.excess <= 0) return whole;
  let above = { level: 1, excess: whole.excess };
  let floor = 0;
  /** The last two peaks looked at whose demand is known. */
  let last = above;
  let before: typeof above | null = null;
  let found: LoadedDesign | null = null;
  for (
    let tries = 0;
    tries < MOST_TRIES && above.level - floor > (found ? AT_THE_LIMIT : NOWHERE) * above.level;
    tries += 1
  ) {
    // Demand goes about as a power of the peaks: in proportion at first, then along the line of the last two logarithms.
    const slope = before ? (last.excess - before.excess) / Math.log(last.level / before.level) : 1;
    let level: number = last.level * Math.exp(-last.excess / slope);
    // A line that leads out, or keeps coming from one side, is helped along by halving now and then.
    if (!(level > floor && level < above.level) || tries % 5 === 4) level = (floor + above.level) / 2;
    const tried = at(level);
    if (tried.excess !== null && Math.abs(tried.excess) < AT_THE_LIMIT) return tried;
    if (tried.excess === null) {
      // Peaks too low for any state that the closed form knows.
      floor = level;
      continue;
    }
    before = last;
    last = { level, excess: tried.excess };
    if (tried.excess > 0) above = last;
    else {
      floor = level;
      found = tried;
    }
  }
  return found ?? { full, ladder: full, level: above.level, point: null, demand: null };
}

/**
 * How far a demand is over what the drive can give with its peaks at this level:
 * the greatest logarithm of their ratios, below zero where there is enough.
 *
 * @param full the drive with its peaks whole
 * @param drive the same at this level
 */
export function excess(
  full: Drive,
  { drive }: Pick<LoadedLadder, 'drive'>,
  { watts, amps }: Pick<Demand, 'watts' | 'amps'>,
  level: number,
): number {
  let most = -Infinity;
  const compare = (asked: number, given: number) => {
    most = Math.max(most, Math.log(asked / given));
  };
  // Where only one peak gives way, the other's share of the power comes from the supply directly.
  const { positivePeakVolts, negativePeakVolts, yields } = drive;
  const giving = { both: 1, positive: positivePeakVolts, negative: negativePeakVolts }[yields];
  const share = yields === 'both' ? 1 : giving / (positivePeakVolts + negativePeakVolts);
  const left = wattsAtLevel(full, level);
  if (left !== null) compare(watts * share, left);
  if (drive.maxAmps !== null && amps !== null) compare(amps, drive.maxAmps);
  if (!drive.supply || drive.supply.volts === 0) return most;
  const { volts, seriesOhms, maxAmps, efficiency } = drive.supply;
  // The peaks are in proportion to the voltage the supply is left with.
  const drawn = watts / efficiency / (volts * level);
  if (seriesOhms > 0) compare(volts * level + drawn * seriesOhms, volts);
  if (maxAmps !== null) compare(drawn, maxAmps);
  return most;
}
