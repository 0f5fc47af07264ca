import { sagVolts } from '../drive/sag';
import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { scaledDrive, wattsAtScale, type Drive } from '../drive/drive';
import { withPeaksOf, type LoadedLadder } from '../ladder/loaded';
import { alternatingPoint, type AlternatingPoint } from '../output/alternating';
import { outputElements, type OutputElement } from '../output/elements';
import { workingPoint, type WorkingPoint } from '../output/terminal';
import { isAlternating } from '../topology/network';
import { demandOf, type Demand } from './demand';
import type { LadderInputs } from './ladder-inputs';
import { ladderOn } from './ladder-of-design';

/** A ladder at its load, on a drive that gives what it can. */
export type LoadedState = {
  /** On the drive as it is before its power runs out. */
  atFullDrive: LoadedLadder;
  /** On the drive as the load leaves it; the same where power suffices. */
  ladder: LoadedLadder;
  /** Fraction of the full peaks that is left, 0..1. */
  driveScale: number;
  /** Null where the closed form gives none. */
  point: WorkingPoint | null;
  /** Of an output that alternates, in the place of a point; null also where the closed form gives none. */
  alternating: AlternatingPoint | null;
  demand: Demand | null;
};

/** A design at its working point: the one place where drive, ladder and output meet. */
export type OperatingPoint = LoadedState & { inputs: LadderInputs };

const MOST_TRIES = 40;
/** How near the limit counts as at it, as a fraction of it. */
const AT_THE_LIMIT = 1e-5;
/** Fraction of the peaks between too much demand and no state at all in which none is looked for any further. */
const NOWHERE = 1e-2;

/**
 * Where a design settles: at its drive's full peaks if they can be kept up,
 * else at the highest peaks at which the ladder takes no more power or current
 * than the drive gives, and the supply behind it can carry, sag and all. What
 * the ladder takes rises with the peaks, so the place is closed in on from both
 * sides. Steady states only: how a driver's own regulation gets there is not
 * modelled.
 *
 * @param stages another count than the design's own
 */
export function operatingPoint(design: Design, stages: number = design.ladder.stages): OperatingPoint {
  const { inputs, ladder } = ladderOn(
    stages === design.ladder.stages ? design : changeDesign(design, { path: '$.ladder.stages', value: stages }),
  );
  if (!isAlternating(ladder.network))
    return { inputs, ...settledFrom(design, ladder, (on) => workingPoint(on, design.load, design.output)) };
  const elements = outputElements(design.output, design.load);
  return { inputs, ...closedIn(ladder, ({ drive }) => alternatingAt(drive, elements)) };
}

/**
 * The same from the ladder on its full drive, where that is there already.
 *
 * @param workedAt where the ladder works on a drive of lower peaks
 */
export function settledFrom(
  design: Design,
  atFullDrive: LoadedLadder,
  workedAt: (ladder: LoadedLadder) => WorkingPoint | null,
): LoadedState {
  return closedIn(atFullDrive, (ladder, driveScale) => {
    const worked = workedAt(ladder);
    // Peaks that the diodes take whole give nothing to settle at.
    const point = driveScale < 1 && !(ladder.unloaded.outputVolts > 0) ? null : worked;
    return { point, alternating: null, demand: point && demandOf(design, ladder, point) };
  });
}

/** A winding straight onto its load; null where rings and pulses, or bursts, give the waveform a form that peaks do not tell. */
function alternatingAt(drive: Drive, elements: readonly OutputElement[]): Worked {
  const alternating = drive.rough || drive.burst ? null : alternatingPoint(drive, elements);
  const demand = alternating && {
    watts: alternating.sourceWatts,
    amps: alternating.sourceRmsAmps,
    efficiency: alternating.loadWatts > 0 ? alternating.loadWatts / alternating.sourceWatts : null,
  };
  return { point: null, alternating, demand };
}

/** What a ladder does on a drive of given peaks. */
type Worked = Pick<LoadedState, 'point' | 'alternating' | 'demand'>;

/** The highest part of the full peaks at which what is asked is no more than the drive gives. */
function closedIn(
  atFullDrive: LoadedLadder,
  workedAt: (ladder: LoadedLadder, driveScale: number) => Worked,
): LoadedState {
  const at = (driveScale: number) => {
    const ladder =
      driveScale === 1 ? atFullDrive : withPeaksOf(atFullDrive, scaledDrive(atFullDrive.drive, driveScale));
    const worked = workedAt(ladder, driveScale);
    const over = worked.demand && excess(atFullDrive.drive, ladder, worked.demand, driveScale);
    return { atFullDrive, ladder, driveScale, ...worked, excess: over };
  };
  const whole = at(1);
  if (whole.excess === null || whole.excess <= 0) return stateOf(whole);
  let above = { driveScale: 1, excess: whole.excess };
  let floor = 0;
  /** The last two scales tried whose demand is known. */
  let last = above;
  let before: typeof above | null = null;
  let found: LoadedState | null = null;
  for (
    let tries = 0;
    tries < MOST_TRIES && above.driveScale - floor > (found ? AT_THE_LIMIT : NOWHERE) * above.driveScale;
    tries += 1
  ) {
    // Demand goes about as a power of the peaks: in proportion at first, then along the line of the last two logarithms.
    const slope = before ? (last.excess - before.excess) / Math.log(last.driveScale / before.driveScale) : 1;
    let driveScale: number = last.driveScale * Math.exp(-last.excess / slope);
    // A line that leads out, or keeps coming from one side, is helped along by halving now and then.
    if (!(driveScale > floor && driveScale < above.driveScale) || tries % 5 === 4)
      driveScale = (floor + above.driveScale) / 2;
    const tried = at(driveScale);
    if (tried.excess !== null && Math.abs(tried.excess) < AT_THE_LIMIT) return stateOf(tried);
    if (tried.excess === null) {
      // Peaks too low for any state that the closed form knows.
      floor = driveScale;
      continue;
    }
    before = last;
    last = { driveScale, excess: tried.excess };
    if (tried.excess > 0) above = last;
    else {
      floor = driveScale;
      found = stateOf(tried);
    }
  }
  return (
    found ?? {
      atFullDrive,
      ladder: atFullDrive,
      driveScale: above.driveScale,
      point: null,
      alternating: null,
      demand: null,
    }
  );
}

const stateOf = ({ atFullDrive, ladder, driveScale, point, alternating, demand }: LoadedState): LoadedState => ({
  atFullDrive,
  ladder,
  driveScale,
  point,
  alternating,
  demand,
});

/**
 * How far a demand is over what the drive can give with its peaks at this scale:
 * the greatest logarithm of their ratios, below zero where there is enough.
 *
 * @param full the drive with its peaks whole
 * @param drive the same at this scale
 */
export function excess(
  full: Drive,
  { drive }: Pick<LoadedLadder, 'drive'>,
  { watts, amps }: Pick<Demand, 'watts' | 'amps'>,
  driveScale: number,
): number {
  let most = -Infinity;
  const compare = (demanded: number, given: number) => {
    most = Math.max(most, Math.log(demanded / given));
  };
  // Where only one peak gives way, the other's share of the power comes from the supply directly.
  const { positivePeakVolts, negativePeakVolts, collapsingPeak } = drive;
  const giving = { both: 1, positive: positivePeakVolts, negative: negativePeakVolts }[collapsingPeak];
  const share = collapsingPeak === 'both' ? 1 : giving / (positivePeakVolts + negativePeakVolts);
  const left = wattsAtScale(full, driveScale);
  if (left !== null) compare(watts * share, left);
  if (drive.maxAmps !== null && amps !== null) compare(amps, drive.maxAmps);
  if (!drive.supply || drive.supply.volts === 0) return most;
  const { volts, maxAmps, efficiency, idleWatts } = drive.supply;
  // The peaks are in proportion to the voltage the supply is left with, what it takes idle to their square.
  const supplyAmps = (watts / efficiency + idleWatts * driveScale ** 2) / (volts * driveScale);
  const sag = sagVolts(drive.supply, supplyAmps);
  if (sag > 0) compare(volts * driveScale + sag, volts);
  if (maxAmps !== null) compare(supplyAmps, maxAmps);
  return most;
}
