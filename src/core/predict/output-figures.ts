import type { Design } from '../design/design-schema';
import { hasFastEdges, type Drive } from '../drive/drive';
import { closedFormAmps, swingsWhole, type LoadedLadder } from '../ladder/loaded';
import { idealVolts } from '../ladder/unloaded';
import { steadyAmpsOf } from '../load/load-kinds';
import { swingWatts } from '../operating/demand';
import { polarityOf } from '../operating/ladder-inputs';
import type { OperatingPoint } from '../operating/operating-point';
import { alternatingPoint } from '../output/alternating';
import { outputElements } from '../output/elements';
import { rippleBehind, smoothedValidity, smooths } from '../output/filter';
import { isAlternating } from '../topology/network';
import type { AlternatingOutput, NodePrediction, OutputPrediction } from './prediction';

/** Droop past which the closed form is called rough: a heuristic joins source and capacitors there. */
const ROUGH_DROOP_FRACTION = 0.3;

const NO_FIGURES = {
  validity: 'beyond',
  meanVolts: null,
  minVolts: null,
  maxVolts: null,
  ripplePeakToPeakVolts: null,
  ripplePeakToPeakFraction: null,
  terminalRipplePeakToPeakVolts: null,
  droopVolts: null,
  droopFraction: null,
  droopByCapacitorsVolts: null,
  droopBySourceVolts: null,
  droopOfSourceAloneVolts: null,
  droopBySmoothingVolts: null,
  droopBySeriesResistorVolts: null,
  droopByDriveVolts: null,
  textbookDroopVolts: null,
  textbookRipplePeakToPeakVolts: null,
  regulation: null,
  amps: null,
  bleederAmps: null,
  dividerAmps: null,
  watts: null,
  terminalMeanVolts: null,
  smoothedMeanVolts: null,
  alternating: null,
} as const;

/**
 * The output's figures at an operating point.
 *
 * @param rippleVolts of the ladder's terminal, peak to peak; null where there is no point
 */
export function outputFigures(
  design: Design,
  operating: OperatingPoint,
  nodes: readonly NodePrediction[],
  rippleVolts: number | null,
): OutputPrediction {
  const { atFullDrive, ladder, point } = operating;
  const noLoadVolts = atFullDrive.unloaded.outputVolts;
  const { network, drive, diode } = atFullDrive;
  const idealNoLoadVolts = idealVolts(network, drive, 0);
  const withoutStrays = idealVolts(network, drive, diode.forwardVolts);
  const fixed = {
    polarity: polarityOf(design),
    smoothedValidity: smoothedValidity(outputElements(design.output, design.load), atFullDrive),
    idealNoLoadVolts,
    noLoadVolts,
    lostToDiodesVolts: idealNoLoadVolts - withoutStrays,
    lostToStraysVolts: withoutStrays - noLoadVolts,
    noLoadPeakVolts: isAlternating(network)
      ? Math.max(drive.positivePeakVolts, drive.negativePeakVolts)
      : atFullDrive.unloaded.outputPeakVolts,
    closedFormAmps: closedFormAmps(atFullDrive),
    chargeLimitAmps: Number.isFinite(atFullDrive.chargeLimitAmps) ? atFullDrive.chargeLimitAmps : null,
  };
  if (isAlternating(network)) {
    const { alternating } = operating;
    return {
      ...fixed,
      ...NO_FIGURES,
      validity: alternating ? 'good' : 'beyond',
      alternating: alternatingFigures(drive, alternating),
    };
  }
  if (!point || rippleVolts === null) return { ...fixed, ...NO_FIGURES };
  const charge = point.ladderAmps / ladder.drive.frequencyHertz;
  const range = rangeAtLoad(design, ladder, point, nodes, rippleVolts);
  const meanVolts = point.loadVolts;
  const droopVolts = noLoadVolts - meanVolts;
  const scaledVolts = ladder.unloaded.outputVolts;
  const ladderDroopFraction = scaledVolts > 0 ? point.droop.totalVolts / scaledVolts : 0;
  return {
    ...fixed,
    validity:
      ladderDroopFraction > ROUGH_DROOP_FRACTION ||
      point.droop.rough ||
      ladder.drive.rough ||
      rings(ladder.drive) ||
      fixed.smoothedValidity === 'rough'
        ? 'rough'
        : 'good',
    meanVolts,
    ...range,
    ripplePeakToPeakFraction: meanVolts > 0 ? range.ripplePeakToPeakVolts / meanVolts : null,
    terminalRipplePeakToPeakVolts: swungBy(ladder, nodes, rippleVolts),
    droopVolts,
    droopFraction: noLoadVolts > 0 ? droopVolts / noLoadVolts : 0,
    droopByCapacitorsVolts: point.droop.capacitorVolts,
    droopBySourceVolts: point.droop.totalVolts - point.droop.capacitorVolts,
    droopOfSourceAloneVolts: point.droop.sourceVolts,
    droopBySmoothingVolts: point.terminalVolts - point.smoothedVolts,
    droopBySeriesResistorVolts: point.loadAmps * design.output.seriesOhms,
    droopByDriveVolts: noLoadVolts - scaledVolts,
    textbookDroopVolts: ladder.lightLoad.textbookDroop === null ? null : charge * ladder.lightLoad.textbookDroop,
    textbookRipplePeakToPeakVolts: charge * ladder.lightLoad.ripple,
    regulation: meanVolts > 0 ? droopVolts / meanVolts : null,
    amps: point.loadAmps,
    bleederAmps: point.bleederAmps,
    dividerAmps: point.dividerAmps,
    watts: point.loadAmps * meanVolts + swingWatts(design, ladder).load,
    terminalMeanVolts: point.terminalVolts,
    smoothedMeanVolts: point.smoothedVolts,
    alternating: null,
  };
}

/** An output that nothing rectifies: without load it is the drive's own waveform. */
function alternatingFigures(drive: Drive, point: OperatingPoint['alternating']): AlternatingOutput {
  const open = drive.rough ? null : alternatingPoint(drive, outputElements({ seriesOhms: 0, bleederOhms: null }, OPEN));
  return {
    noLoadRmsVolts: open && open.rmsVolts,
    rmsVolts: point && point.rmsVolts,
    peakVolts: point && point.peakVolts,
    rmsAmps: point && point.rmsAmps,
    watts: point && point.loadWatts,
  };
}

const OPEN = { kind: 'open' } as const;

/** Whether leakage inductance behind a square rings, which the closed form leaves out. */
const rings = (drive: Drive) => hasFastEdges(drive) && drive.seriesHenries > 0;

/** Least, most and ripple at the load: about the mean, or the drive's own range where nothing smooths it. */
function rangeAtLoad(
  design: Design,
  ladder: LoadedLadder,
  point: NonNullable<OperatingPoint['point']>,
  nodes: readonly NodePrediction[],
  rippleVolts: number,
): { minVolts: number; maxVolts: number; ripplePeakToPeakVolts: number } {
  // A resistive load divides the ripple as it divides the mean; a steady current takes none of it.
  const isCurrent = design.load.kind !== 'open' && steadyAmpsOf(design.load) !== null;
  const dividing = !isCurrent && point.terminalVolts > 0 ? point.loadVolts / point.terminalVolts : 1;
  const across = rangeAcross(ladder, nodes);
  const terminalRipple = swungBy(ladder, nodes, rippleVolts);
  const dropped = isCurrent ? point.terminalVolts - point.loadVolts : 0;
  // An output that the drive swings as a whole is not smoothed: its range is the drive's, not a ripple about the mean.
  const smoothed = !swingsWhole(ladder);
  const elements = outputElements(design.output, design.load);
  if (smooths(elements)) {
    const ripplePeakToPeakVolts = rippleBehind(elements, point.loadVolts, {
      ladder,
      amps: point.ladderAmps,
      sourceAngle: point.droop.sourceAngle,
      rippleVolts: smoothed ? rippleVolts : 0,
      swingVolts: smoothed ? terminalRipple - rippleVolts : terminalRipple,
    });
    return {
      minVolts: point.loadVolts - ripplePeakToPeakVolts / 2,
      maxVolts: point.loadVolts + ripplePeakToPeakVolts / 2,
      ripplePeakToPeakVolts,
    };
  }
  const ripplePeakToPeakVolts = dividing * terminalRipple;
  return {
    minVolts: smoothed ? point.loadVolts - ripplePeakToPeakVolts / 2 : dividing * across.minVolts - dropped,
    maxVolts: smoothed ? point.loadVolts + ripplePeakToPeakVolts / 2 : dividing * across.maxVolts - dropped,
    ripplePeakToPeakVolts,
  };
}

/** Peak to peak at the ladder's terminal, V: its ripple with what the drive passes on, or all that the drive swings it by. */
function swungBy(ladder: LoadedLadder, nodes: readonly NodePrediction[], rippleVolts: number): number {
  if (!swingsWhole(ladder)) return rippleVolts + ladder.unloaded.feedthroughPeakToPeakVolts;
  const { minVolts, maxVolts } = rangeAcross(ladder, nodes);
  return maxVolts - minVolts;
}

/** Least and most between output and return, for a ladder whose nodes are known. */
function rangeAcross(
  { network }: LoadedLadder,
  nodes: readonly NodePrediction[],
): { minVolts: number; maxVolts: number } {
  const find = (id: string) => nodes.find((node) => node.id === id)!;
  const [output, back] = [find(network.output), find(network.return)];
  return {
    minVolts: (output.minVolts ?? 0) - (back.maxVolts ?? 0),
    maxVolts: (output.maxVolts ?? 0) - (back.minVolts ?? 0),
  };
}
