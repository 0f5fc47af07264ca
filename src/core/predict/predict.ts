import type { Design } from '../design/design-schema';
import { amplitudeVolts } from '../drive/drive';
import { closedFormAmps, rippleAt, type LoadedLadder } from '../ladder/loaded';
import { idealVolts } from '../ladder/unloaded';
import { bleedSeconds, storedCharge } from '../output/discharge';
import type { WorkingPoint } from '../output/terminal';
import { marginsOf } from '../stress/margins';
import { balancing, ladderParts } from '../stress/strings';
import { beforePower } from './before-power';
import { findingsOf } from './findings';
import { swingWatts } from '../operating/demand';
import { footFarads, networkOfDesign, polarityOf, sourceOf } from '../operating/ladder-of-design';
import { loadedDesign } from '../operating/operating-point';
import { optimumStages } from './optimum-stages';
import { partsUnderLoad } from './parts-under-load';
import {
  PREDICTION_FORMAT,
  PREDICTION_VERSION,
  type NodePrediction,
  type OutputPrediction,
  type Prediction,
  type TargetPrediction,
} from './prediction';

/** Droop past which the closed form is called rough: a heuristic joins source and capacitors there. */
const ROUGH_DROOP_FRACTION = 0.3;

/**
 * The prediction of a design: the one pass from design document to every
 * figure on screen, in files and on paper.
 *
 * @param design complete, as `readDesign` returns it
 * @param withOptimum whether to look for the best number of stages, which takes
 *   most of the time; without, it is null and not a finding
 * @returns SI base units; the mean output is what a dc meter shows. Where the
 *   closed form does not hold, loaded figures are null and a finding says so.
 *   Never throws for a design that passed the schema.
 * @remarks Equations, sources and valid ranges: docs/physics.md.
 */
export function predict(design: Design, withOptimum = true): Prediction {
  const { full, ladder, level, point, demand } = loadedDesign(design);
  // What parts must stand is what the drive gives before its power runs out.
  const { unloaded, network } = full;
  // What is stored, and lasts, counts with the capacitances as they are marked: never too little.
  const marked = networkOfDesign(design);
  const stored = storedCharge(marked, unloaded.capacitorVolts, unloaded.outputVolts);
  const ripple = point ? rippleAt(ladder, point.ladderAmps) : null;
  const scale = point ? meanDroopPerLightLoad(ladder, point) : null;
  const nodes = nodesOf(full, ladder, scale, ripple?.peakToPeakVolts ?? 0);
  const output = outputOf(design, full, ladder, point, nodes, ripple?.peakToPeakVolts ?? null);

  const parts = ladderParts(design.ladder);
  const { capacitors, diodes } = partsUnderLoad(design, { full, ladder, point, demand }, marked, scale);
  const made = sourceOf(design, full, demand?.watts ?? null, level);
  const source = { level, figures: made.figures, ladderFarads: footFarads(full) };
  const input = demand ?? { watts: null, amps: null, efficiency: null };
  const margins = marginsOf(design, full, { capacitors, diodes, output, source, input, energy: stored });
  const prediction: Prediction = {
    format: PREDICTION_FORMAT,
    version: PREDICTION_VERSION,
    name: design.name,
    drive: made.drive,
    source,
    topology: network.topology,
    places: parts,
    balancing: balancingOf(design, capacitors, diodes),
    terminals: { output: network.output, return: network.return },
    output,
    target: targetOf(design, output),
    input,
    optimumStages: withOptimum ? optimumStages(design) : null,
    textbookOptimumStages: textbookOptimum(ladder, design, point),
    smallestMargin: margins.length ? margins[0].margin : null,
    margins,
    capacitors,
    diodes,
    nodes,
    energy: {
      ...stored,
      bleedSeconds:
        design.output.bleederOhms === null
          ? null
          : bleedSeconds(marked, unloaded.capacitorVolts, unloaded.outputVolts, design.output.bleederOhms),
    },
    findings: [],
    beforePower: [],
  };
  prediction.beforePower = beforePower(design, prediction);
  prediction.findings = findingsOf(design, prediction, made.findings);
  return prediction;
}

/** Balancing resistors of the strings in the ladder's places. */
function balancingOf(
  { ladder: { capacitor, diode } }: Design,
  capacitors: readonly { workingVolts: number }[],
  diodes: readonly { reverseVolts: number }[],
): Prediction['balancing'] {
  const across = { capacitor: 0, diode: 0 };
  for (const { workingVolts } of capacitors) across.capacitor = Math.max(across.capacitor, workingVolts);
  for (const { reverseVolts } of diodes) across.diode = Math.max(across.diode, reverseVolts);
  const of = (count: number, rated: number | null, volts: number, leakageAmps: number) =>
    count > 1 && rated !== null && leakageAmps > 0 ? balancing(count, rated, volts, leakageAmps) : null;
  return {
    capacitor: of(capacitor.series, capacitor.ratedVolts, across.capacitor, capacitor.leakageAmps),
    diode: of(diode.series, diode.peakInverseVolts, across.diode, diode.leakageAmps),
  };
}

/** Mean droop in V for each 1/F of light-load droop, so that every part shares the total in the light-load proportion. */
function meanDroopPerLightLoad(ladder: LoadedLadder, point: WorkingPoint): number {
  const { droop } = ladder.lightLoad;
  return droop === Infinity ? 0 : point.droop.totalVolts / droop;
}

function outputOf(
  design: Design,
  full: LoadedLadder,
  ladder: LoadedLadder,
  point: WorkingPoint | null,
  nodes: readonly NodePrediction[],
  rippleVolts: number | null,
): OutputPrediction {
  const noLoadVolts = full.unloaded.outputVolts;
  const fixed = {
    polarity: polarityOf(design),
    idealNoLoadVolts: idealVolts(full.network, full.drive, 0),
    noLoadVolts,
    closedFormAmps: closedFormAmps(full),
    chargeLimitAmps: Number.isFinite(full.chargeLimitAmps) ? full.chargeLimitAmps : null,
  };
  if (!point || rippleVolts === null) {
    return {
      ...fixed,
      validity: 'beyond',
      meanVolts: null,
      minVolts: null,
      maxVolts: null,
      ripplePeakToPeakVolts: null,
      ripplePeakToPeakFraction: null,
      droopVolts: null,
      droopFraction: null,
      droopByCapacitorsVolts: null,
      droopBySourceVolts: null,
      droopBySeriesResistorVolts: null,
      droopByDriveVolts: null,
      textbookDroopVolts: null,
      textbookRipplePeakToPeakVolts: null,
      regulation: null,
      amps: null,
      bleederAmps: null,
      watts: null,
      terminalMeanVolts: null,
    };
  }
  const charge = point.ladderAmps / ladder.drive.frequencyHertz;
  // A resistive load divides the ripple as it divides the mean; a steady current takes none of it.
  const dividing =
    design.load.kind !== 'current' && point.terminalVolts > 0 ? point.loadVolts / point.terminalVolts : 1;
  const across = rangeAcross(ladder, nodes);
  // An output that the drive swings as a whole is not smoothed: its range is the drive's, not a ripple about the mean.
  const smoothed = ladder.unloaded.feedthroughPeakToPeakVolts < amplitudeVolts(ladder.drive);
  const ripplePeakToPeakVolts =
    dividing *
    (smoothed ? rippleVolts + ladder.unloaded.feedthroughPeakToPeakVolts : across.maxVolts - across.minVolts);
  const meanVolts = point.loadVolts;
  const droopVolts = noLoadVolts - meanVolts;
  const droopFraction = noLoadVolts > 0 ? droopVolts / noLoadVolts : 0;
  const levelVolts = ladder.unloaded.outputVolts;
  const ladderDroopFraction = levelVolts > 0 ? point.droop.totalVolts / levelVolts : 0;
  return {
    ...fixed,
    validity: ladderDroopFraction > ROUGH_DROOP_FRACTION ? 'rough' : 'good',
    meanVolts,
    minVolts: smoothed ? meanVolts - ripplePeakToPeakVolts / 2 : dividing * across.minVolts,
    maxVolts: smoothed ? meanVolts + ripplePeakToPeakVolts / 2 : dividing * across.maxVolts,
    ripplePeakToPeakVolts,
    ripplePeakToPeakFraction: meanVolts > 0 ? ripplePeakToPeakVolts / meanVolts : null,
    droopVolts,
    droopFraction,
    droopByCapacitorsVolts: point.droop.capacitorVolts,
    droopBySourceVolts: point.droop.sourceVolts,
    droopBySeriesResistorVolts: point.loadAmps * design.output.seriesOhms,
    droopByDriveVolts: noLoadVolts - ladder.unloaded.outputVolts,
    textbookDroopVolts: ladder.lightLoad.textbookDroop === null ? null : charge * ladder.lightLoad.textbookDroop,
    textbookRipplePeakToPeakVolts: charge * ladder.lightLoad.ripple,
    regulation: meanVolts > 0 ? droopVolts / meanVolts : null,
    amps: point.loadAmps,
    bleederAmps: point.bleederAmps,
    watts: point.loadAmps * meanVolts + swingWatts(design, ladder).load,
    terminalMeanVolts: point.terminalVolts,
  };
}

function targetOf(design: Design, output: OutputPrediction): TargetPrediction | null {
  const { target } = design;
  if (!target) return null;
  const voltsMet = output.meanVolts !== null && output.meanVolts >= target.volts;
  // A resistance draws a hair less than asked when the output is a hair low; half a percent is not a different load.
  const ampsMet = output.amps !== null && output.amps >= target.amps * 0.995;
  const rippleMet =
    target.ripplePeakToPeakFraction === null || output.ripplePeakToPeakFraction === null
      ? null
      : output.ripplePeakToPeakFraction <= target.ripplePeakToPeakFraction;
  return {
    met: voltsMet && ampsMet && rippleMet !== false,
    voltsExcess: output.meanVolts === null ? null : output.meanVolts / target.volts - 1,
    voltsMet,
    ampsMet,
    rippleMet,
  };
}

function textbookOptimum(ladder: LoadedLadder, design: Design, point: WorkingPoint | null): number | null {
  const amps = point?.ladderAmps ?? (design.load.kind === 'current' ? design.load.amps : 0);
  if (amps === 0 || ladder.network.topology !== 'half-wave') return null;
  const { frequencyHertz } = ladder.drive;
  const { farads } = ladderParts(design.ladder).capacitor;
  return Math.sqrt((amplitudeVolts(ladder.drive) * frequencyHertz * farads) / amps);
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

/** Nodes with the range each swings through: what the drive passes on and what the charges of a cycle move it by. */
function nodesOf(
  full: LoadedLadder,
  ladder: LoadedLadder,
  scale: number | null,
  rippleVolts: number,
): NodePrediction[] {
  const { network, unloaded, lightLoad, drive } = ladder;
  const { afterPositive, beforeNegative, afterNegative, beforePositive } = lightLoad.instants;
  // Charging time shortens every node's ripple in the proportion of the output's.
  const rippleScale = scale === null || lightLoad.ripple === 0 ? 0 : rippleVolts / lightLoad.ripple;
  const nodes = network.nodes.map((node) => {
    const { id, column, stage, side } = node;
    const noLoadVolts = full.unloaded.nodeVolts.get(id)!;
    const levelVolts = unloaded.nodeVolts.get(id)!;
    const whole = { id, column, stage, side, noLoadVolts };
    if (column === 'ground') return { ...whole, meanVolts: 0, minVolts: 0, maxVolts: 0 };
    if (column === 'source') {
      const { sign } = network.sources.find((source) => source.node === id)!;
      const [minVolts, maxVolts] =
        sign === 1
          ? [-drive.negativePeakVolts, drive.positivePeakVolts]
          : [-drive.positivePeakVolts, drive.negativePeakVolts];
      return { ...whole, meanVolts: levelVolts, minVolts, maxVolts };
    }
    if (scale === null) return { ...whole, meanVolts: null, minVolts: null, maxVolts: null };
    const meanVolts = levelVolts - scale * lightLoad.nodeDroops.get(id)!;
    const swing = unloaded.nodeSwings.get(id)!;
    const deviations = (at: ReadonlyMap<string, number>) => at.get(id)! + lightLoad.nodeDroops.get(id)!;
    if (Math.abs(swing) < amplitudeVolts(drive) / 2) {
      const about = [afterPositive, beforeNegative, afterNegative, beforePositive].map(deviations);
      const half = (rippleScale * (Math.max(...about) - Math.min(...about))) / 2 + Math.abs(swing);
      return { ...whole, meanVolts, minVolts: meanVolts - half, maxVolts: meanVolts + half };
    }
    // Its highest and lowest are where its diodes hold it at the peaks of the drive.
    const lean = unloaded.nodeVolts.get(id)! - (2 * drive.duty - 1) * swing;
    const atPositive = lean + swing + scale * afterPositive.get(id)!;
    const atNegative = lean - swing + scale * afterNegative.get(id)!;
    return {
      ...whole,
      meanVolts,
      minVolts: Math.min(atPositive, atNegative),
      maxVolts: Math.max(atPositive, atNegative),
    };
  });
  return scale === null ? nodes : meetingAtThePeaks(ladder, nodes);
}

/** A swinging node is held at either peak by a diode to a steady one: it ends where that one does, a drop apart. */
function meetingAtThePeaks({ network, forwardVolts }: LoadedLadder, nodes: NodePrediction[]): NodePrediction[] {
  const steady = new Map(
    nodes.filter(({ column }) => column !== 'oscillating' && column !== 'antiphase').map((node) => [node.id, node]),
  );
  return nodes.map((node) => {
    if (steady.has(node.id)) return node;
    const above = network.diodes.flatMap(({ anode, cathode }) =>
      anode === node.id && steady.has(cathode) ? [steady.get(cathode)!.maxVolts! + forwardVolts] : [],
    );
    const below = network.diodes.flatMap(({ anode, cathode }) =>
      cathode === node.id && steady.has(anode) ? [steady.get(anode)!.minVolts! - forwardVolts] : [],
    );
    return above.length && below.length
      ? { ...node, minVolts: Math.max(...below), maxVolts: Math.min(...above) }
      : node;
  });
}
