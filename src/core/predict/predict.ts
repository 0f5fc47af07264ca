import type { Design } from '../design/design-schema';
import { amplitudeVolts } from '../drive/drive';
import { closedFormAmps, idealVolts, rippleAt, type LoadedLadder } from '../ladder/loaded';
import { bleedSeconds, storedCharge } from '../output/discharge';
import { workingPoint, type WorkingPoint } from '../output/terminal';
import { marginOf } from '../stress/margin';
import { findingsOf } from './findings';
import { ladderOfDesign } from './ladder-of-design';
import { optimumStages } from './optimum-stages';
import {
  PREDICTION_FORMAT,
  PREDICTION_VERSION,
  type NodePrediction,
  type OutputPrediction,
  type Prediction,
  type TargetPrediction,
} from './prediction';
import { sourceDemand } from './source-demand';

/** Droop past which the closed form is called rough: a heuristic joins source and capacitors there. */
const ROUGH_DROOP_FRACTION = 0.3;

/**
 * The prediction of a design: the one pass from design document to every
 * figure on screen, in files and on paper.
 *
 * @param design complete, as `readDesign` returns it
 * @returns SI base units; the mean output is what a dc meter shows. Where the
 *   closed form does not hold, loaded figures are null and a finding says so.
 *   Never throws for a design that passed the schema.
 * @remarks Equations, sources and valid ranges: docs/physics.md.
 */
export function predict(design: Design): Prediction {
  const ladder = ladderOfDesign(design);
  const point = workingPoint(ladder, design.load, design.output);
  const { unloaded, network } = ladder;
  const stored = storedCharge(network, unloaded.capacitorVolts, unloaded.outputVolts);
  const ripple = point ? rippleAt(ladder, point.ladderAmps) : null;
  const output = outputOf(design, ladder, point, ripple?.peakToPeakVolts ?? null);
  const scale = point ? meanDroopPerLightLoad(ladder, point) : null;

  const capacitors = network.capacitors.map((part, index) => ({
    id: part.id,
    column: part.column,
    stage: part.stage,
    lower: part.lower,
    upper: part.upper,
    farads: part.farads,
    workingVolts: unloaded.capacitorVolts[index],
    loadedMeanVolts:
      scale === null ? null : unloaded.capacitorVolts[index] - scale * ladder.lightLoad.capacitorDroops[index],
    ratedVolts: design.ladder.capacitor.ratedVolts,
    margin: marginOf(design.ladder.capacitor.ratedVolts, unloaded.capacitorVolts[index]),
  }));
  const diodes = network.diodes.map((part, index) => ({
    ...part,
    reverseVolts: unloaded.reverseVolts[index],
    ratedVolts: design.ladder.diode.peakInverseVolts,
    averageAmps: point ? point.ladderAmps : null,
    margin: marginOf(design.ladder.diode.peakInverseVolts, unloaded.reverseVolts[index]),
  }));
  const margins = [...capacitors, ...diodes].flatMap((part) => (part.margin === null ? [] : [part.margin]));
  const prediction: Prediction = {
    format: PREDICTION_FORMAT,
    version: PREDICTION_VERSION,
    name: design.name,
    drive: ladder.drive,
    output,
    target: targetOf(design, output),
    input: inputOf(ladder, point, ripple?.chargingAngle ?? 0),
    optimumStages: optimumStages(design),
    textbookOptimumStages: textbookOptimum(ladder, design, point),
    smallestMargin: margins.length ? Math.min(...margins) : null,
    capacitors,
    diodes,
    nodes: nodesOf(ladder, scale, point),
    energy: {
      ...stored,
      bleedSeconds:
        design.output.bleederOhms === null
          ? null
          : bleedSeconds(network, unloaded.capacitorVolts, unloaded.outputVolts, design.output.bleederOhms),
    },
    findings: [],
  };
  prediction.findings = findingsOf(design, prediction);
  return prediction;
}

/** Mean droop in V for each 1/F of light-load droop, so that every part shares the total in the light-load proportion. */
function meanDroopPerLightLoad(ladder: LoadedLadder, point: WorkingPoint): number {
  return point.droop.totalVolts / ladder.lightLoad.droop;
}

function outputOf(
  design: Design,
  ladder: LoadedLadder,
  point: WorkingPoint | null,
  rippleVolts: number | null,
): OutputPrediction {
  const noLoadVolts = ladder.unloaded.outputVolts;
  const fixed = {
    polarity: design.target?.polarity ?? 'positive',
    idealNoLoadVolts: idealVolts(ladder.network, ladder.drive, 0),
    noLoadVolts,
    closedFormAmps: closedFormAmps(ladder),
    chargeLimitAmps: Number.isFinite(ladder.chargeLimitAmps) ? ladder.chargeLimitAmps : null,
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
  // A resistive load divides the ripple as it divides the mean; a current load takes none of it.
  const dividing =
    design.load.kind === 'resistance' && point.terminalVolts > 0 ? point.loadVolts / point.terminalVolts : 1;
  const ripplePeakToPeakVolts = dividing * (rippleVolts + ladder.unloaded.feedthroughPeakToPeakVolts);
  const meanVolts = point.loadVolts;
  const droopVolts = noLoadVolts - meanVolts;
  const droopFraction = noLoadVolts > 0 ? droopVolts / noLoadVolts : 0;
  const ladderDroopFraction = noLoadVolts > 0 ? point.droop.totalVolts / noLoadVolts : 0;
  return {
    ...fixed,
    validity: ladderDroopFraction > ROUGH_DROOP_FRACTION ? 'rough' : 'good',
    meanVolts,
    minVolts: meanVolts - ripplePeakToPeakVolts / 2,
    maxVolts: meanVolts + ripplePeakToPeakVolts / 2,
    ripplePeakToPeakVolts,
    ripplePeakToPeakFraction: meanVolts > 0 ? ripplePeakToPeakVolts / meanVolts : null,
    droopVolts,
    droopFraction,
    droopByCapacitorsVolts: point.droop.capacitorVolts,
    droopBySourceVolts: point.droop.sourceVolts,
    droopBySeriesResistorVolts: point.loadAmps * design.output.seriesOhms,
    textbookDroopVolts: charge * ladder.lightLoad.textbookDroop,
    textbookRipplePeakToPeakVolts: charge * ladder.lightLoad.ripple,
    regulation: meanVolts > 0 ? droopVolts / meanVolts : null,
    amps: point.loadAmps,
    bleederAmps: point.bleederAmps,
    watts: point.loadAmps * meanVolts,
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

/** Power in by conservation: what leaves the terminal, the diodes' drops and the source's own loss. */
function inputOf(ladder: LoadedLadder, point: WorkingPoint | null, chargingAngle: number): Prediction['input'] {
  if (!point) return { watts: null, amps: null, efficiency: null };
  const demand = sourceDemand(ladder, point.ladderAmps, point.droop, chargingAngle);
  const diodeWatts = ladder.network.diodes.length * ladder.forwardVolts * point.ladderAmps;
  const watts = point.terminalVolts * point.ladderAmps + diodeWatts + demand.sourceWatts;
  return {
    watts,
    amps: demand.rmsAmps,
    efficiency: watts > 0 && point.loadAmps > 0 ? (point.loadVolts * point.loadAmps) / watts : null,
  };
}

function textbookOptimum(ladder: LoadedLadder, design: Design, point: WorkingPoint | null): number | null {
  const amps = point?.ladderAmps ?? (design.load.kind === 'current' ? design.load.amps : 0);
  if (amps === 0) return null;
  const { frequencyHertz } = ladder.drive;
  return Math.sqrt((amplitudeVolts(ladder.drive) * frequencyHertz * design.ladder.capacitor.farads) / amps);
}

/** Nodes with the range each swings through: an oscillating node meets its smoothing neighbours at the peaks, a diode drop apart. */
function nodesOf(ladder: LoadedLadder, scale: number | null, point: WorkingPoint | null): NodePrediction[] {
  const { network, unloaded, lightLoad, forwardVolts, drive } = ladder;
  const none = { meanVolts: null, minVolts: null, maxVolts: null };
  const rungs = new Map<string, { meanVolts: number; minVolts: number; maxVolts: number }>();
  if (scale !== null && point) {
    const whole = rippleAt(ladder, point.ladderAmps).peakToPeakVolts;
    const climbed = { oscillating: 0, smoothing: 0 };
    network.capacitors.forEach((part, index) => {
      climbed[part.column] += unloaded.capacitorVolts[index] - scale * lightLoad.capacitorDroops[index];
      if (part.column !== 'smoothing') return;
      const share = lightLoad.ripple > 0 ? lightLoad.nodeRipples.get(part.upper)! / lightLoad.ripple : 0;
      const half = (whole * share) / 2 + unloaded.nodeSwings.get(part.upper)!;
      const meanVolts = climbed.smoothing;
      rungs.set(part.upper, { meanVolts, minVolts: meanVolts - half, maxVolts: meanVolts + half });
    });
    rungs.set('ground', { meanVolts: 0, minVolts: 0, maxVolts: 0 });
    rungs.set('source', {
      meanVolts: (drive.positivePeakVolts - drive.negativePeakVolts) / 2,
      minVolts: -drive.negativePeakVolts,
      maxVolts: drive.positivePeakVolts,
    });
    for (const node of network.nodes) {
      if (node.column !== 'oscillating') continue;
      const below = network.diodes.find((diode) => diode.cathode === node.id)!;
      const above = network.diodes.find((diode) => diode.anode === node.id)!;
      const minVolts = rungs.get(below.anode)!.minVolts - forwardVolts;
      const maxVolts = rungs.get(above.cathode)!.maxVolts + forwardVolts;
      rungs.set(node.id, { meanVolts: (minVolts + maxVolts) / 2, minVolts, maxVolts });
    }
  }
  return network.nodes.map((node) => ({
    id: node.id,
    column: node.column,
    stage: node.stage,
    noLoadVolts: unloaded.nodeVolts.get(node.id)!,
    ...(rungs.get(node.id) ?? none),
  }));
}
