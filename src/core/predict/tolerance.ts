import type { Design } from '../design/design-schema';
import type { Drive } from '../drive/drive';
import { biasDerating } from '../ladder/bias';
import { elastancesOf, type Elastances } from '../ladder/elastances';
import { rippleAt, type LoadedLadder } from '../ladder/loaded';
import { seeded } from '../numeric/chance';
import { bandOf, variance, type Band } from '../numeric/statistics';
import { workingPoint, type WorkingPoint } from '../output/terminal';
import { operatingPoint, type OperatingPoint } from '../operating/operating-point';
import { predict, WITHOUT_OPTIMUM } from './predict';
import { targetOutcome } from './target';

/** What is sampled at random, each group by itself. */
export const SPREAD_GROUPS = ['capacitors', 'bias', 'peaks', 'frequency', 'forward', 'source'] as const;
export type SpreadGroup = (typeof SPREAD_GROUPS)[number];

export type Tolerance = {
  samples: number;
  /** Draws for which the closed form had no figure. */
  without: number;
  meanVolts: Band;
  ripplePeakToPeakVolts: Band;
  smallestMargin: Band | null;
  /** Fraction of the draws that meet the target; null without one. */
  chance: number | null;
  /** Share of the output's variance that each group brings by itself, greatest first; they need not add up to one. */
  shares: { group: SpreadGroup; share: number }[];
  /** Outputs of all draws, rising, V. */
  outputs: Float64Array;
  /** The mean output's band over the load's current; ends where most draws have no figure. */
  loadLine: { amps: number; low: number; high: number }[];
};

export const USUAL_SAMPLES = 5000;
const SAMPLES_A_GROUP = 400;
const SLICE = 500;
/** Far finer than what draws can tell. */
const ACCURACY = 1e-7;
const LINE_POINTS = 13;
const SAMPLES_A_POINT = 160;

/** The least that voltage is taken to leave of a capacitance at its rating. */
const LEAST_KEPT = 0.02;

/**
 * What other peaks, and another loss at voltage, leave of a class-2 ceramic that
 * stands at a voltage, as a fraction of what the design counts with.
 *
 * @param volts across the place without load
 */
function leftBy({ ladder: { capacitor } }: Design, volts: number, peaksFactor: number, lossFactor: number): number {
  const { dcBiasDerating, ratedVolts, series } = capacitor;
  if (dcBiasDerating === null || ratedVolts === null) return 1;
  const kept = Math.min(1, Math.max(LEAST_KEPT, 1 - lossFactor * (1 - dcBiasDerating)));
  const each = volts / series;
  return biasDerating(each * peaksFactor, ratedVolts, kept) / biasDerating(each, ratedVolts, dcBiasDerating);
}

/** One draw: the same ladder with its parts and drive a little off. */
function sampled(
  ladder: LoadedLadder,
  elastances: Elastances,
  standing: readonly number[],
  design: Design,
  random: () => number,
  groups: ReadonlySet<SpreadGroup>,
): { ladder: LoadedLadder; peaksFactor: number } {
  const { spread } = design;
  /** A factor within a tolerance either way, uniformly; one where its group is held. */
  const off = (group: SpreadGroup, tolerance: number) => (groups.has(group) ? 1 + tolerance * (2 * random() - 1) : 1);
  let droop = ladder.lightLoad.droop;
  let ripple = ladder.lightLoad.ripple;
  const peaksFactor = off('peaks', spread.peaks);
  const lossFactor = off('bias', spread.bias);
  if (groups.has('capacitors') || design.ladder.capacitor.dcBiasDerating !== null)
    elastances.farads.forEach((farads, at) => {
      const left = leftBy(design, standing[at], peaksFactor, lossFactor);
      const more = 1 / (off('capacitors', design.ladder.capacitor.tolerance) * left) - 1;
      droop += (elastances.droop[at] / farads) * more;
      ripple += (elastances.ripple[at] / farads) * more;
    });
  const drive: Drive = {
    ...ladder.drive,
    positivePeakVolts: ladder.drive.positivePeakVolts * peaksFactor,
    negativePeakVolts: ladder.drive.negativePeakVolts * peaksFactor,
    frequencyHertz: ladder.drive.frequencyHertz * off('frequency', spread.frequency),
    seriesOhms: ladder.drive.seriesOhms * off('source', spread.source),
  };
  const forwardVolts = ladder.forwardVolts * off('forward', spread.forward);
  const amplitude = ladder.stepVolts + ladder.forwardVolts;
  const stepVolts = Math.max(0, amplitude * peaksFactor - forwardVolts);
  const grown = ladder.stepVolts > 0 ? stepVolts / ladder.stepVolts : 0;
  return {
    peaksFactor,
    ladder: {
      ...ladder,
      drive,
      forwardVolts,
      stepVolts,
      lightLoad: { ...ladder.lightLoad, droop, ripple },
      unloaded: { ...ladder.unloaded, outputVolts: ladder.unloaded.outputVolts * grown },
      hardLimitAmps: (ladder.hardLimitAmps * grown * drive.frequencyHertz) / ladder.drive.frequencyHertz,
    },
  };
}

/**
 * What part tolerances and the drive's spread make of the output: draws at
 * random, the same for the same seed, each factor uniform within its limits and
 * all of them independent.
 *
 * Droop and ripple are sums over capacitors of a charge over capacitance, so
 * that each draw takes them anew exactly but for strays; everything else goes
 * through the same working point as the prediction. Where a drive gives way its
 * scale is held at the design's own.
 *
 * @param seed whole number
 * @param mostAmps how far the band over the load's current goes
 * @yields after each slice of draws, the fraction that is done
 * @returns null where the design itself has no working point
 */
export function* toleranceOf(
  design: Design,
  seed = 1,
  samples = USUAL_SAMPLES,
  mostAmps = 0,
): Generator<{ fraction: number }, Tolerance | null> {
  const operating = operatingPoint(design);
  if (!operating.point) return null;
  const draws = new Draws(design, operating, operating.point, seeded(seed));
  const all = yield* outputsOf(design, draws, samples);
  if (all.outputs.length === 0) return null;
  const shares = yield* sharesOf(draws, variance(all.outputs));
  const loadLine = yield* bandOver(draws, mostAmps);
  return {
    samples,
    without: samples - all.outputs.length,
    meanVolts: bandOf(all.outputs),
    ripplePeakToPeakVolts: bandOf(all.ripples),
    smallestMargin: all.margins.length > 0 ? bandOf(all.margins) : null,
    chance: design.target ? all.met / samples : null,
    shares: shares.sort((a, b) => b.share - a.share),
    outputs: Float64Array.from(all.outputs).sort(),
    loadLine,
  };
}

const ALL_GROUPS: ReadonlySet<SpreadGroup> = new Set(SPREAD_GROUPS);

/** Draws of one design, one after another from one stream of chance. */
class Draws {
  private readonly elastances: Elastances;
  private readonly standing: readonly number[];

  constructor(
    private readonly design: Design,
    { ladder, atFullDrive }: OperatingPoint,
    readonly point: WorkingPoint,
    private readonly random: () => number,
  ) {
    this.ladder = ladder;
    this.elastances = elastancesOf(ladder);
    this.standing = atFullDrive.unloaded.capacitorVolts;
  }

  readonly ladder: LoadedLadder;

  /** One draw with its working point at the design's load, or another; null where the closed form has none. */
  next(groups: ReadonlySet<SpreadGroup> = ALL_GROUPS, load: Design['load'] = this.design.load) {
    const draw = sampled(this.ladder, this.elastances, this.standing, this.design, this.random, groups);
    const settled = workingPoint(draw.ladder, load, this.design.output, ACCURACY);
    return settled && { ...draw, settled };
  }
}

/** What output, ripple and margin come to over all draws, and how many meet the target. */
function* outputsOf(design: Design, draws: Draws, samples: number) {
  const { margins: nominal, output } = predict(design, WITHOUT_OPTIMUM);
  // The drive at its highest is what the draws stand for.
  const smallest = nominal.find(({ condition }) => condition !== 'driveHigh')?.margin ?? null;
  const found = { outputs: [] as number[], ripples: [] as number[], margins: [] as number[], met: 0 };
  const { ladder, point } = draws;
  // A resistive load divides the ripple as it divides the mean, as in the prediction.
  const dividing = design.load.kind === 'current' ? 1 : point.loadVolts / point.terminalVolts || 1;
  const ownRipple = rippleAt(ladder, point.ladderAmps).peakToPeakVolts;
  const swing = ladder.unloaded.feedthroughPeakToPeakVolts;
  for (let sample = 0; sample < samples; sample += 1) {
    const draw = draws.next();
    if (draw) {
      const { loadVolts, ladderAmps, loadAmps } = draw.settled;
      // What the drive itself swings the output by goes with its peaks.
      const more = rippleAt(draw.ladder, ladderAmps).peakToPeakVolts - ownRipple + swing * (draw.peaksFactor - 1);
      const ripple = output.ripplePeakToPeakVolts! + dividing * more;
      found.outputs.push(loadVolts);
      found.ripples.push(ripple);
      if (smallest !== null) found.margins.push((1 + smallest) / draw.peaksFactor - 1);
      const reached = { meanVolts: loadVolts, amps: loadAmps, rippleFraction: ripple / loadVolts };
      if (design.target && targetOutcome(design.target, reached).met) found.met += 1;
    }
    if (sample % SLICE === SLICE - 1) yield { fraction: (0.6 * sample) / samples };
  }
  return found;
}

/** Share of the whole variance that each group brings by itself. */
function* sharesOf(draws: Draws, whole: number) {
  const shares: Tolerance['shares'] = [];
  for (const group of SPREAD_GROUPS) {
    const only = new Set([group]);
    const alone: number[] = [];
    for (let sample = 0; sample < SAMPLES_A_GROUP; sample += 1) {
      const draw = draws.next(only);
      if (draw) alone.push(draw.settled.loadVolts);
    }
    shares.push({ group, share: whole > 0 ? variance(alone) / whole : 0 });
    yield { fraction: 0.6 + (0.2 * shares.length) / SPREAD_GROUPS.length };
  }
  return shares;
}

/** The output's band over the load's current. */
function* bandOver(draws: Draws, mostAmps: number) {
  const loadLine: Tolerance['loadLine'] = [];
  for (let place = 0; place < LINE_POINTS && mostAmps > 0; place += 1) {
    const amps = (mostAmps * place) / (LINE_POINTS - 1);
    const volts: number[] = [];
    for (let sample = 0; sample < SAMPLES_A_POINT; sample += 1) {
      const draw = draws.next(ALL_GROUPS, { kind: 'current', amps });
      if (draw) volts.push(draw.settled.loadVolts);
    }
    if (volts.length < 0.95 * SAMPLES_A_POINT) break;
    const { low, high } = bandOf(volts);
    loadLine.push({ amps, low, high });
    yield { fraction: 0.8 + (0.2 * place) / LINE_POINTS };
  }
  return loadLine;
}
