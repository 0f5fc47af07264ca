import type { Design } from '../design/design-schema';
import type { Drive } from '../drive/drive';
import { keptAt } from '../ladder/bias';
import { elastancesOf, type Elastances } from '../ladder/elastances';
import { rippleAt, type LoadedLadder } from '../ladder/loaded';
import { workingPoint } from '../output/terminal';
import { loadedDesign } from '../operating/operating-point';
import { predict } from './predict';

/** What is drawn at random, each group by itself. */
export const SPREAD_GROUPS = ['capacitors', 'bias', 'peaks', 'frequency', 'forward', 'source'] as const;
export type SpreadGroup = (typeof SPREAD_GROUPS)[number];

/** 5, 50 and 95 of a hundred lie below. */
export type Band = { low: number; middle: number; high: number };

export type Tolerance = {
  samples: number;
  /** Draws for which the closed form had no figure. */
  without: number;
  meanVolts: Band;
  ripplePeakToPeakVolts: Band;
  smallestMargin: Band | null;
  /** Part of the draws that meet target volts, and ripple where that is asked; null without a target. */
  chance: number | null;
  /** Part of the output's variance that each group brings by itself, greatest first; they need not add up to one. */
  shares: { group: SpreadGroup; part: number }[];
  /** Outputs drawn, rising, V. */
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

/** A stream of numbers in 0..1, the same for the same seed (mulberry32, public domain; from memory). */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

/** The least that voltage is taken to leave of a capacitance at its rating. */
const LEAST_KEPT = 0.02;

/**
 * What other peaks, and another loss at voltage, leave of a class-2 ceramic that
 * stands at a voltage, as a part of what the design counts with.
 *
 * @param volts across the place without load
 */
function leftBy({ ladder: { capacitor } }: Design, volts: number, peaksPart: number, lossPart: number): number {
  const { keptAtRating, ratedVolts, series } = capacitor;
  if (keptAtRating === null || ratedVolts === null) return 1;
  const kept = Math.min(1, Math.max(LEAST_KEPT, 1 - lossPart * (1 - keptAtRating)));
  const each = volts / series;
  return keptAt(each * peaksPart, ratedVolts, kept) / keptAt(each, ratedVolts, keptAtRating);
}

/** One draw: the same ladder with its parts and drive a little off. */
function drawn(
  ladder: LoadedLadder,
  elastances: Elastances,
  standing: readonly number[],
  design: Design,
  random: () => number,
  groups: ReadonlySet<SpreadGroup>,
): { ladder: LoadedLadder; peaksPart: number } {
  const { spread } = design;
  /** A factor within a tolerance either way, all alike likely; one where its group is held. */
  const off = (group: SpreadGroup, part: number) => (groups.has(group) ? 1 + part * (2 * random() - 1) : 1);
  let droop = ladder.lightLoad.droop;
  let ripple = ladder.lightLoad.ripple;
  const peaksPart = off('peaks', spread.peaks);
  const lossPart = off('bias', spread.bias);
  if (groups.has('capacitors') || design.ladder.capacitor.keptAtRating !== null)
    elastances.farads.forEach((farads, at) => {
      const left = leftBy(design, standing[at], peaksPart, lossPart);
      const more = 1 / (off('capacitors', design.ladder.capacitor.tolerance) * left) - 1;
      droop += (elastances.droop[at] / farads) * more;
      ripple += (elastances.ripple[at] / farads) * more;
    });
  const drive: Drive = {
    ...ladder.drive,
    positivePeakVolts: ladder.drive.positivePeakVolts * peaksPart,
    negativePeakVolts: ladder.drive.negativePeakVolts * peaksPart,
    frequencyHertz: ladder.drive.frequencyHertz * off('frequency', spread.frequency),
    seriesOhms: ladder.drive.seriesOhms * off('source', spread.source),
  };
  const forwardVolts = ladder.forwardVolts * off('forward', spread.forward);
  const amplitude = ladder.stepVolts + ladder.forwardVolts;
  const stepVolts = Math.max(0, amplitude * peaksPart - forwardVolts);
  const grown = ladder.stepVolts > 0 ? stepVolts / ladder.stepVolts : 0;
  return {
    peaksPart,
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
 * random, the same for the same seed, each factor evenly within its limits and
 * all of them independent.
 *
 * Droop and ripple are sums over capacitors of a charge over capacitance, so
 * that each draw takes them anew exactly but for strays; everything else goes
 * through the same working point as the prediction. Where a drive gives way its
 * level is held at the design's own.
 *
 * @param seed whole number
 * @param mostAmps how far the band over the load's current goes
 * @yields after each slice of draws, the part that is done
 * @returns null where the design itself has no working point
 */
export function* toleranceOf(
  design: Design,
  seed = 1,
  samples = USUAL_SAMPLES,
  mostAmps = 0,
): Generator<{ part: number }, Tolerance | null> {
  const { ladder, point, full } = loadedDesign(design);
  if (!point) return null;
  const standing = full.unloaded.capacitorVolts;
  const { margins: nominal, output } = predict(design);
  // The drive at its highest is what the draws stand for.
  const smallest = nominal.find(({ case: when }) => when !== 'drive high')?.margin ?? null;
  const elastances = elastancesOf(ladder);
  const random = seeded(seed);
  const settle = (groups: ReadonlySet<SpreadGroup>) => {
    const draw = drawn(ladder, elastances, standing, design, random, groups);
    const settled = workingPoint(draw.ladder, design.load, design.output, ACCURACY);
    return settled && { ...draw, settled };
  };
  const all = new Set(SPREAD_GROUPS);
  const outputs: number[] = [];
  const ripples: number[] = [];
  const margins: number[] = [];
  let met = 0;
  const { target } = design;
  // A resistive load divides the ripple as it divides the mean, as in the prediction.
  const dividing = design.load.kind === 'current' ? 1 : point.loadVolts / point.terminalVolts || 1;
  const ownRipple = rippleAt(ladder, point.ladderAmps).peakToPeakVolts;
  const swing = ladder.unloaded.feedthroughPeakToPeakVolts;
  for (let sample = 0; sample < samples; sample += 1) {
    const draw = settle(all);
    if (draw) {
      const { loadVolts, ladderAmps } = draw.settled;
      // What the drive itself swings the output by goes with its peaks.
      const more = rippleAt(draw.ladder, ladderAmps).peakToPeakVolts - ownRipple + swing * (draw.peaksPart - 1);
      const ripple = output.ripplePeakToPeakVolts! + dividing * more;
      outputs.push(loadVolts);
      ripples.push(ripple);
      if (smallest !== null) margins.push((1 + smallest) / draw.peaksPart - 1);
      const wanted = target?.ripplePeakToPeakFraction ?? null;
      if (target && loadVolts >= target.volts && (wanted === null || ripple <= wanted * loadVolts)) met += 1;
    }
    if (sample % SLICE === SLICE - 1) yield { part: (0.6 * sample) / samples };
  }
  if (outputs.length === 0) return null;
  const whole = variance(outputs);
  const shares: Tolerance['shares'] = [];
  for (const group of SPREAD_GROUPS) {
    const only = new Set([group]);
    const alone: number[] = [];
    for (let sample = 0; sample < SAMPLES_A_GROUP; sample += 1) {
      const draw = settle(only);
      if (draw) alone.push(draw.settled.loadVolts);
    }
    shares.push({ group, part: whole > 0 ? variance(alone) / whole : 0 });
    yield { part: 0.6 + (0.2 * shares.length) / SPREAD_GROUPS.length };
  }
  const loadLine: Tolerance['loadLine'] = [];
  for (let place = 0; place < LINE_POINTS && mostAmps > 0; place += 1) {
    const amps = (mostAmps * place) / (LINE_POINTS - 1);
    const volts: number[] = [];
    for (let sample = 0; sample < SAMPLES_A_POINT; sample += 1) {
      const draw = drawn(ladder, elastances, standing, design, random, all);
      const settled = workingPoint(draw.ladder, { kind: 'current', amps }, design.output, ACCURACY);
      if (settled) volts.push(settled.loadVolts);
    }
    if (volts.length < 0.95 * SAMPLES_A_POINT) break;
    const { low, high } = bandOf(volts);
    loadLine.push({ amps, low, high });
    yield { part: 0.8 + (0.2 * place) / LINE_POINTS };
  }
  return {
    samples,
    without: samples - outputs.length,
    meanVolts: bandOf(outputs),
    ripplePeakToPeakVolts: bandOf(ripples),
    smallestMargin: margins.length > 0 ? bandOf(margins) : null,
    chance: target ? met / samples : null,
    shares: shares.sort((a, b) => b.part - a.part),
    outputs: Float64Array.from(outputs).sort(),
    loadLine,
  };
}

function variance(values: readonly number[]): number {
  if (values.length === 0) return 0;
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length;
}

/** Bars of equal width over rising values, each with the part of all that fall into it. */
export function histogramOf(rising: ArrayLike<number>, bars: number): { from: number; to: number; part: number }[] {
  const [least, most] = [rising[0], rising[rising.length - 1]];
  const width = (most - least) / bars || 1;
  const counts = new Array<number>(bars).fill(0);
  for (let at = 0; at < rising.length; at += 1)
    counts[Math.min(bars - 1, Math.floor((rising[at] - least) / width))] += 1;
  return counts.map((count, bar) => ({
    from: least + bar * width,
    to: least + (bar + 1) * width,
    part: count / rising.length,
  }));
}

function bandOf(values: readonly number[]): Band {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (part: number) => sorted[Math.min(sorted.length - 1, Math.floor(part * sorted.length))];
  return { low: at(0.05), middle: at(0.5), high: at(0.95) };
}
