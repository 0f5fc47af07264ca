import type { Design } from '../design/design-schema';
import { amplitudeVolts } from '../drive/drive';
import { rippleAt } from '../ladder/loaded';
import { steadyAmpsOf } from '../load/load-kinds';
import { inputFaradsOf, sourceOf } from '../operating/ladder-of-design';
import { swingVariance } from '../operating/demand';
import { operatingPoint, type OperatingPoint } from '../operating/operating-point';
import { dividerFigures } from '../output/divider';
import { contactOf } from '../output/contact';
import { frontFarads, outputCapacitors } from '../output/elements';
import { bleedSeconds } from '../output/bleed';
import { storedCharge } from '../output/discharge';
import { sparksOf } from '../output/sparks';
import { marginsOf } from '../stress/margins';
import { balancingOf } from './balancing';
import { beforePower } from './before-power';
import { farEndOf } from './far-end';
import { findingsOf } from './findings';
import { nodesUnderLoad } from './nodes-under-load';
import { optimumStages } from './optimum-stages';
import { outputFigures } from './output-figures';
import { partsUnderLoad } from './parts-under-load';
import { PREDICTION_FORMAT, PREDICTION_VERSION, type Prediction } from './prediction';
import { highestOf, reachedBy } from './reached';
import { targetOutcome } from './target';

/** The best number of stages where it is known already: the search for it takes most of a prediction's time. */
export type PredictOptions = { optimum: number | null };

/** For whoever asks for many designs, or for nothing that the optimum tells. */
export const WITHOUT_OPTIMUM: PredictOptions = { optimum: null };

/**
 * The prediction of a design: the one pass from design document to every
 * figure on screen, in files and on paper, stage by stage.
 *
 * @param design complete, as `readDesign` returns it
 * @param known what is not to be searched for
 * @returns SI base units; the mean output is what a dc meter shows. Where the
 *   closed form does not hold, loaded figures are null and a finding says so.
 *   Never throws for a design that passed the schema.
 * @remarks Equations, sources and valid ranges: docs/physics.md.
 */
export function predict(design: Design, known?: PredictOptions): Prediction {
  const operating = operatingPoint(design);
  const { atFullDrive, ladder, point, demand, inputs, driveScale } = operating;
  const ripple = point && rippleAt(ladder, point.ladderAmps, point.droop.sourceAngle).peakToPeakVolts;
  const scale = meanDroopPerLightLoad(operating);
  const nodes = nodesUnderLoad(atFullDrive, ladder, scale, ripple ?? 0);
  const output = outputFigures(design, operating, nodes, ripple);
  const { capacitors, diodes } = partsUnderLoad(design, operating, scale);
  const energy = energyOf(design, operating);
  const source = sourceOf(design, atFullDrive, demand, driveScale);
  const input = demand ?? { watts: null, amps: null, efficiency: null };
  const noLoadRmsVolts = output.alternating
    ? (output.alternating.noLoadRmsVolts ?? output.noLoadPeakVolts)
    : Math.hypot(output.noLoadVolts, Math.sqrt(swingVariance(atFullDrive)));
  const divider =
    design.output.divider &&
    dividerFigures(design.output.divider, output.smoothedMeanVolts, output.noLoadPeakVolts, noLoadRmsVolts);
  const margins = marginsOf(design, {
    atFullDrive,
    capacitors,
    diodes,
    noLoadPeakVolts: output.noLoadPeakVolts,
    noLoadRmsVolts,
    divider,
    loadAmps: reachedBy(output).amps,
    windingAmps: input.amps,
    stored: energy,
    source: source.stresses,
  });
  const { network } = atFullDrive;
  const prediction: Prediction = {
    format: PREDICTION_FORMAT,
    version: PREDICTION_VERSION,
    name: design.name,
    drive: source.drive,
    source: { driveScale, figures: source.figures, ladderFarads: inputFaradsOf(atFullDrive) },
    topology: network.topology,
    places: inputs.parts,
    balancing: balancingOf(design, capacitors, diodes),
    terminals: { output: network.output, return: network.return },
    coefficients: coefficientsOf(operating),
    output,
    target: design.target && targetOutcome(design.target, reachedBy(output)),
    input,
    optimumStages: known ? known.optimum : optimumStages(design),
    textbookOptimumStages: textbookOptimum(design, operating),
    smallestMargin: margins.length ? margins[0].margin : null,
    margins,
    capacitors,
    diodes,
    nodes,
    energy,
    farEnd: farEndOf(design, point),
    divider,
    contact: contactOf(
      output.noLoadPeakVolts,
      // What stands in front is told apart.
      energy.joules - (frontFarads(design.output) * operating.atFullDrive.unloaded.outputVolts ** 2) / 2,
      { seriesOhms: design.output.seriesOhms, count: design.resistors.series.count },
      reachedBy(output).amps,
      frontFarads(design.output),
    ),
    sparks: sparksOf(design, output.noLoadVolts, highestOf(output)),
    findings: [],
    beforePower: [],
  };
  prediction.beforePower = beforePower(design, prediction);
  prediction.findings = findingsOf(design, prediction, source.findings);
  return prediction;
}

/** Mean droop in V for each 1/F of light-load droop, so that every part shares the total in the light-load proportion. */
function meanDroopPerLightLoad({ ladder, point }: OperatingPoint): number | null {
  const { droop } = ladder.lightLoad;
  if (!point) return null;
  return droop === Infinity ? 0 : point.droop.totalVolts / droop;
}

/** What is stored without load, by capacitances as they are marked, so never too little; and how long a bleeder takes. */
function energyOf({ output }: Design, { atFullDrive, inputs }: OperatingPoint): Prediction['energy'] {
  const { capacitorVolts, outputVolts } = atFullDrive.unloaded;
  const behind = outputCapacitors(output);
  return {
    ...storedCharge(
      inputs.marked,
      capacitorVolts,
      outputVolts,
      behind.map(({ farads }) => ({ farads, volts: outputVolts })),
    ),
    bleedSeconds:
      output.bleederOhms === null
        ? null
        : bleedSeconds(inputs.marked, capacitorVolts, outputVolts, output.bleederOhms, behind),
  };
}

function coefficientsOf({ ladder }: OperatingPoint): Prediction['coefficients'] {
  const { droop, ripple, windingPulses } = ladder.lightLoad;
  return {
    steps: ladder.steps,
    droop: Number.isFinite(droop) ? droop : null,
    ripple,
    pulses: windingPulses[0],
    diodeOhms: ladder.diodeOhms,
  };
}

/** sqrt(V f C / I), the published rule for half-wave ladders. */
function textbookOptimum(design: Design, { ladder, point, inputs }: OperatingPoint): number | null {
  const amps = point?.ladderAmps ?? steadyAmpsOf(design.load) ?? 0;
  if (amps === 0 || ladder.network.topology !== 'half-wave') return null;
  const { frequencyHertz } = ladder.drive;
  return Math.sqrt((amplitudeVolts(ladder.drive) * frequencyHertz * inputs.parts.capacitor.farads) / amps);
}
