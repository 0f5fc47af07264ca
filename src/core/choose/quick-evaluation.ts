import { acrossOhms, currentsOf, ladderAmpsFor, outputCapacitors, outputElements } from '../output/elements';
import { rippleBehind, SAMPLES, smooths } from '../output/filter';
import type { Design } from '../design/design-schema';
import { amplitudeVolts, scaledDrive, type Drive } from '../drive/drive';
import { droopAt, hardLimitAmps, rippleAt, type DroopInputs, type RippleInputs } from '../ladder/loaded';
import { excess } from '../operating/operating-point';
import { sourceDemand, wattsInto } from '../operating/source-demand';
import type { LadderShape } from './ladder-shapes';
import type { ShapeResponse } from './shape-response';

/** What the closed form says of a candidate, near enough to choose by; SI base units. */
export type QuickEvaluation = {
  meanVolts: number;
  ripplePeakToPeakVolts: number;
  /** Without load, across one place. */
  workingVolts: number;
  reverseVolts: number;
  joules: number;
  watts: number;
  efficiency: number | null;
  diodeAmps: number;
  /** Fraction of the drive's peaks that its power leaves. */
  driveScale: number;
};

const MOST_TRIES = 12;
/** How near a drive's limit counts as at it. */
const NEAR_ENOUGH = 3e-3;
const LEAST_SCALE = 0.05;
const LEAST_SLOPE = 0.3;

/** A ladder as the search tries it: its shape with what that does, the capacitance of one multiple, string and bank as a whole, F, and the drop of a place's diodes, V. */
type QuickLadder = { shape: LadderShape; response: ShapeResponse; farads: number; forwardVolts: number };

/** What it is loaded with: a steady current, A, through the output's resistors. */
type QuickLoad = { amps: number; output: Design['output'] };

const noLoadVoltsOf = ({ response, forwardVolts }: Pick<QuickLadder, 'response' | 'forwardVolts'>, peakVolts: number) =>
  response.outputPerPeak * peakVolts - response.outputPerDrop * forwardVolts;

/**
 * A shape with values on a drive at a load current, by the same droop, ripple
 * and source formulas as the prediction, from a response known by proportion.
 *
 * @param drive as this ladder sees it, mirrored where it is negative
 * @returns null where the closed form does not hold or the drive cannot carry it
 */
export function evaluateQuickly(ladder: QuickLadder, drive: Drive, wanted: QuickLoad): QuickEvaluation | null {
  const { response, farads, forwardVolts } = ladder;
  const { amps, output } = wanted;
  const fullVolts = amplitudeVolts(drive);
  const noLoadVolts = noLoadVoltsOf(ladder, fullVolts);
  const told = (evaluation: NonNullable<ReturnType<typeof atScaleOf>>, driveScale: number): QuickEvaluation => ({
    meanVolts: evaluation.meanVolts,
    ripplePeakToPeakVolts: evaluation.ripplePeakToPeakVolts,
    workingVolts: response.workingPerPeak * fullVolts,
    reverseVolts: response.reversePerPeak * fullVolts,
    joules:
      response.energyPerSquare * farads * (fullVolts - forwardVolts) ** 2 +
      outputCapacitors(output).reduce((sum, one) => sum + (one.farads * noLoadVolts ** 2) / 2, 0),
    watts: evaluation.watts,
    efficiency: amps > 0 && evaluation.watts > 0 ? (evaluation.meanVolts * amps) / evaluation.watts : null,
    diodeAmps: evaluation.ladderAmps * response.chargeAtMost,
    driveScale,
  });
  let driveScale = 1;
  let above = 1;
  let below = LEAST_SCALE;
  let last: { driveScale: number; over: number } | null = null;
  for (let tries = 1; ; tries += 1) {
    const standing = driveScale === 1 ? drive : scaledDrive(drive, driveScale);
    const evaluation = atScaleOf(ladder, standing, wanted);
    if (!evaluation) return null;
    const over = excess(drive, { drive: standing }, { watts: evaluation.watts, amps: evaluation.rmsAmps }, driveScale);
    if ((driveScale === 1 ? over : Math.abs(over)) < NEAR_ENOUGH) return told(evaluation, driveScale);
    if (over > 0) above = driveScale;
    else below = driveScale;
    if (tries === MOST_TRIES || above - below < NEAR_ENOUGH * above)
      return below > LEAST_SCALE ? told(evaluation, driveScale) : null;
    // What a ladder takes goes about as a power of its peaks: in proportion at first, then as the last two tell.
    const slope = last ? Math.max(LEAST_SLOPE, (over - last.over) / Math.log(driveScale / last.driveScale)) : 1;
    last = { driveScale, over };
    driveScale *= Math.exp(-over / slope);
    // What gives all but nothing at its very top leads far out: the middle is as good a guess.
    if (!(driveScale > below && driveScale < above)) driveScale = (below + above) / 2;
  }
}

/** Tries at what stands across the terminal, and the part of its current by which two may still differ. */
const MOST_TRIES_ACROSS = 12;
const SETTLED_ACROSS = 2e-3;

function atScaleOf({ shape, response, farads, forwardVolts }: QuickLadder, drive: Drive, { amps, output }: QuickLoad) {
  const amplitude = amplitudeVolts(drive);
  const stepVolts = amplitude - forwardVolts;
  const noLoadVolts = noLoadVoltsOf({ response, forwardVolts }, amplitude);
  const idealVolts = response.idealPerPeak * amplitude - response.idealPerDrop * forwardVolts;
  if (!(stepVolts > 0 && noLoadVolts > 0)) return null;
  const feeding = response.feeding.map(({ peak, volts, jump, rise, steady }) => ({
    peak,
    volts: volts * amplitude,
    jump: jump / farads,
    rise: rise / farads,
    until: 0,
    steady: steady / farads,
  }));
  const ladder: DroopInputs & RippleInputs = {
    drive,
    stepVolts,
    steps: response.steps,
    strayFactor: idealVolts > 0 ? Math.min(1, noLoadVolts / idealVolts) : 0,
    hardLimitAmps: hardLimitAmps(drive, { droop: response.droop / farads }, feeding),
    // Nothing in a drawer says what a diode's on-resistance is.
    diodeOhms: 0,
    inputFarads: response.inputFarads.map((each) => each * farads),
    network: { topology: shape.topology, diodes: { length: shape.diodes } },
    lightLoad: {
      droop: response.droop / farads,
      ripple: response.ripple / farads,
      windingPulses: response.windingPulses,
      outputTurns: response.outputTurns,
    },
    unloaded: { outputVolts: noLoadVolts },
    feeding,
    // Every ladder that is chosen is driven from its foot.
    turnOn: { width: 1, inTurn: false },
    outputElastance: response.outputElastance / farads,
  };
  let ladderAmps = amps;
  let droop = droopAt(ladder, ladderAmps);
  // What stands across the output takes in proportion to what is left.
  for (let tries = 0; droop && acrossOhms(output) < Infinity && tries < MOST_TRIES_ACROSS; tries += 1) {
    const before = ladderAmps;
    ladderAmps = ladderAmpsFor(output, noLoadVolts - droop.totalVolts, amps);
    droop = droopAt(ladder, ladderAmps);
    if (Math.abs(ladderAmps - before) < SETTLED_ACROSS * ladderAmps) break;
  }
  if (!droop) return null;
  const terminalVolts = noLoadVolts - droop.totalVolts;
  const { peakToPeakVolts, chargingAngle } = rippleAt(ladder, ladderAmps, droop.sourceAngle);
  const demand = sourceDemand(ladder, ladderAmps, droop, chargingAngle);
  const meanVolts = currentsOf(output, terminalVolts, ladderAmps).loadVolts;
  const elements = outputElements(output, { kind: 'current', amps });
  const terminal = {
    ladder,
    amps: ladderAmps,
    sourceAngle: droop.sourceAngle,
    rippleVolts: peakToPeakVolts,
    swingVolts: response.feedthroughPerPeak * amplitude,
  };
  return {
    ladderAmps,
    meanVolts,
    ripplePeakToPeakVolts: smooths(elements)
      ? rippleBehind(elements, meanVolts, terminal, SAMPLES.each)
      : terminal.rippleVolts + terminal.swingVolts,
    rmsAmps: demand.rmsAmps,
    watts: wattsInto(
      terminalVolts,
      ladderAmps,
      { chargeInAll: response.chargeInAll, forwardVolts },
      demand.sourceWatts,
    ),
  };
}
