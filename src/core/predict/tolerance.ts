import type { Design } from '../design/design-schema';
import type { Drive } from '../drive/drive';
import { biasDerating } from '../ladder/bias';
import { elastancesOf, type Elastances } from '../ladder/elastances';
import { rippleAt, type LoadedLadder } from '../ladder/loaded';
import { seeded } from '../numeric/chance';
import { bandOf, variance, type Band } from '../numeric/statistics';
import { outputElements } from '../output/elements';
import { smooths } from '../output/filter';
import { workingPoint, type WorkingPoint } from '../output/terminal';
import type { Demand } from '../operating/demand';
import { ladderOfDesign } from '../operating/ladder-of-design';
import { excess, operatingPoint, settledFrom, type OperatingPoint } from '../operating/operating-point';
import { predict, WITHOUT_OPTIMUM } from './predict';
import { targetOutcome } from './target';

/** What is sampled at random, each group by itself. */
export const SPREAD_GROUPS = ['capacitors', 'bias', 'peaks', 'frequency', 'forward', 'source', 'strays'] as const;
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

/** What other strays make of a ladder, each over what it is, by the logarithm of a factor. */
type StrayKnot = { log: number; output: number; droop: number; ripple: number };

/** Factors at which the ladder is worked out with other strays, as powers of the greatest. */
const STRAY_POWERS = [-1, -0.5, 0, 0.5, 1];

/** Output, droop and ripple with other strays; none where there are none, or they are known. */
function strayKnots(design: Design, { lightLoad, unloaded }: LoadedLadder): StrayKnot[] {
  const { ladder, spread } = design;
  if (spread.strays === 1 || ladder.strayFarads + ladder.diode.junctionFarads === 0) return [];
  return STRAY_POWERS.map((power) => {
    const times = spread.strays ** power;
    const diode = { ...ladder.diode, junctionFarads: times * ladder.diode.junctionFarads };
    const other = ladderOfDesign({
      ...design,
      ladder: { ...ladder, strayFarads: times * ladder.strayFarads, diode },
    });
    return {
      log: Math.log(times),
      output: over(other.unloaded.outputVolts, unloaded.outputVolts),
      droop: over(other.lightLoad.droop, lightLoad.droop),
      ripple: over(other.lightLoad.ripple, lightLoad.ripple),
    };
  });
}

const over = (value: number, present: number) =>
  present > 0 && Number.isFinite(present) && Number.isFinite(value) ? value / present : 1;

const AS_IT_IS: StrayKnot = { log: 0, output: 1, droop: 1, ripple: 1 };

/** Between two knots, evenly over the logarithm. */
function straysAt(knots: readonly StrayKnot[], log: number): StrayKnot {
  if (knots.length === 0) return AS_IT_IS;
  const above = Math.min(
    knots.length - 1,
    Math.max(
      1,
      knots.findIndex((knot) => knot.log >= log),
    ),
  );
  const [low, high] = [knots[above - 1], knots[above]];
  const part = (log - low.log) / (high.log - low.log);
  const mix = (id: 'output' | 'droop' | 'ripple') => low[id] + part * (high[id] - low[id]);
  return { log, output: mix('output'), droop: mix('droop'), ripple: mix('ripple') };
}

/** A ladder with other strays. */
const strayed = (ladder: LoadedLadder, { output, droop, ripple }: StrayKnot): LoadedLadder => ({
  ...ladder,
  strayFactor: ladder.strayFactor * output,
  lightLoad: { ...ladder.lightLoad, droop: ladder.lightLoad.droop * droop, ripple: ladder.lightLoad.ripple * ripple },
  unloaded: { ...ladder.unloaded, outputVolts: ladder.unloaded.outputVolts * output },
});

/** One draw: the same ladder with its parts and drive a little off. */
function sampled(
  ladder: LoadedLadder,
  elastances: Elastances,
  standing: readonly number[],
  design: Design,
  random: () => number,
  groups: ReadonlySet<SpreadGroup>,
): { ladder: LoadedLadder; peaksFactor: number; strayLog: number } {
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
  const forwardVolts = ladder.diode.forwardVolts * off('forward', spread.forward);
  const amplitude = ladder.stepVolts + ladder.diode.forwardVolts;
  const stepVolts = Math.max(0, amplitude * peaksFactor - forwardVolts);
  const grown = ladder.stepVolts > 0 ? stepVolts / ladder.stepVolts : 0;
  // Drawn last, so that what was drawn before it stays as it was.
  const strayLog = groups.has('strays') ? Math.log(spread.strays) * (2 * random() - 1) : 0;
  return {
    peaksFactor,
    strayLog,
    ladder: {
      ...ladder,
      drive,
      diode: { ...ladder.diode, forwardVolts },
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
 * that each draw takes them anew exactly; everything else goes
 * through the same working point as the prediction. Strays are worked out at five
 * factors, and between them evenly over the logarithm. Where a drive gives way,
 * or is near it, each draw finds how far by itself; where it only sags a little
 * that is held at the design's own.
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
  if (draws.limited) samples = Math.min(samples, LIMITED_SAMPLES);
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

/** Share of its full peaks under which a drive gives way, and of what it can give from which a draw may make it do so. */
const GIVES_WAY = 0.98;
const NEAR_ITS_LIMIT = 0.7;
/** Draws where each has to find how far the drive gives way. */
const LIMITED_SAMPLES = 1500;

/** Draws of one design, one after another from one stream of chance. */
class Draws {
  readonly ladder: LoadedLadder;
  /** Whether each draw has to find by itself how far the drive gives way. */
  readonly limited: boolean;
  private readonly elastances: Elastances;
  private readonly standing: readonly number[];
  private readonly knots: StrayKnot[];

  constructor(
    private readonly design: Design,
    { ladder, atFullDrive, driveScale, demand }: OperatingPoint,
    readonly point: WorkingPoint,
    private readonly random: () => number,
  ) {
    const { drive } = atFullDrive;
    this.limited =
      driveScale < GIVES_WAY || (demand !== null && excessOfLimits(drive, demand) > Math.log(NEAR_ITS_LIMIT));
    this.ladder = this.limited ? atFullDrive : ladder;
    this.elastances = elastancesOf(ladder);
    this.standing = atFullDrive.unloaded.capacitorVolts;
    this.knots = strayKnots(design, atFullDrive);
  }

  /** One draw with its working point at the design's load, or another; null where the closed form has none. */
  next(groups: ReadonlySet<SpreadGroup> = ALL_GROUPS, load: Design['load'] = this.design.load) {
    const { design } = this;
    const draw = sampled(this.ladder, this.elastances, this.standing, design, this.random, groups);
    const strays = straysAt(this.knots, draw.strayLog);
    const worked = (ladder: LoadedLadder) => workingPoint(strayed(ladder, strays), load, design.output, ACCURACY);
    if (!this.limited) {
      const settled = worked(draw.ladder);
      return settled && { ...draw, ladder: strayed(draw.ladder, strays), settled };
    }
    const { point, ladder } = settledFrom({ ...design, load }, draw.ladder, worked);
    return point && { ...draw, ladder: strayed(ladder, strays), settled: point };
  }
}

/** How far a demand is over what a drive can give, its supply's sag apart. */
function excessOfLimits(drive: Drive, demand: Demand): number {
  const stiff: Drive = { ...drive, supply: drive.supply && { ...drive.supply, seriesOhms: 0, rectified: null } };
  return excess(stiff, { drive: stiff }, demand, 1);
}

/** What output, ripple and margin come to over all draws, and how many meet the target. */
function* outputsOf(design: Design, draws: Draws, samples: number) {
  const { margins: nominal, output } = predict(design, WITHOUT_OPTIMUM);
  // The drive at its highest is what the draws stand for.
  const smallest = nominal.find(({ condition }) => condition !== 'driveHigh')?.margin ?? null;
  const found = { outputs: [] as number[], ripples: [] as number[], margins: [] as number[], met: 0 };
  const { ladder, point } = draws;
  // A resistive load divides the ripple as it divides the mean, as in the prediction; smoothing as it does at the middle.
  const ownRipple = rippleAt(ladder, point.ladderAmps, point.droop.sourceAngle).peakToPeakVolts;
  const swing = ladder.unloaded.feedthroughPeakToPeakVolts;
  const dividing = smooths(outputElements(design.output, design.load))
    ? output.ripplePeakToPeakVolts! / (ownRipple + swing || 1)
    : design.load.kind === 'current'
      ? 1
      : point.loadVolts / point.terminalVolts || 1;
  for (let sample = 0; sample < samples; sample += 1) {
    const draw = draws.next();
    if (draw) {
      const { loadVolts, ladderAmps, loadAmps, droop } = draw.settled;
      // What the drive itself swings the output by goes with its peaks.
      const more =
        rippleAt(draw.ladder, ladderAmps, droop.sourceAngle).peakToPeakVolts -
        ownRipple +
        swing * (draw.peaksFactor - 1);
      const ripple = output.ripplePeakToPeakVolts! + dividing * more;
      found.outputs.push(loadVolts);
      found.ripples.push(ripple);
      if (smallest !== null) found.margins.push((1 + smallest) / draw.peaksFactor - 1);
      const reached = { volts: loadVolts, amps: loadAmps, rippleFraction: ripple / loadVolts };
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
