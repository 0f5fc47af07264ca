import type { Design } from '../design/design-schema';
import { amplitudeVolts, scaledDrive } from '../drive/drive';
import { withPeaksOf, type LoadedLadder } from '../ladder/loaded';
import { supplyCircuitOf } from '../drive/driver-kinds';
import type { FedNode, NoCircuit, SupplyCircuit } from '../drive/supply-circuit';
import { inputFaradsOf, sourceOf } from '../operating/ladder-of-design';
import { isMirrored, isStarved, type LadderInputs } from '../operating/ladder-inputs';
import { operatingPoint } from '../operating/operating-point';
import { outputElements, type OutputFields } from '../output/elements';
import { junctionByVoltage } from '../parts/junction';
import { transitOf } from '../stress/recovery';
import type { Circuit } from './circuit';
import { circuitOf, type CircuitParts } from './ladder-circuit';

/** What a winding that has come apart still lets through, Ω: next to nothing beside any bleeder. */
const APART_OHMS = 1e15;

/** The circuit a design describes and the ladder it stands for, optionally behind another output and load, or with its drive off. */
export function circuitOfDesign(
  design: Design,
  output: OutputFields = design.output,
  load: Design['load'] = design.load,
  off: { windingApart: boolean } | null = null,
): { ladder: LoadedLadder; circuit: Circuit } {
  const { ladder: settled, atFullDrive, inputs } = operatingPoint(design);
  const { lift, seriesHenries } = atFullDrive.drive;
  // What leakage lifts it does here by itself.
  const ladder =
    lift && seriesHenries > 0 ? withPeaksOf(atFullDrive, scaledDrive(atFullDrive.drive, lift.from)) : settled;
  const own = circuitParts(design, inputs, ladder);
  // What leaks may be less than it is said to be: nothing that is to be discharged is counted on to drain by it.
  const parts = off ? { ...own, leakSiemens: null } : own;
  const drive = off?.windingApart ? { ...ladder.drive, seriesOhms: APART_OHMS } : ladder.drive;
  return { ladder, circuit: circuitOf(ladder.network, drive, parts, outputElements(output, load)) };
}

/** A supply run as a circuit together with its ladder and load. */
export type WholeSupply = { ladder: LoadedLadder; circuit: Circuit; supply: SupplyCircuit };

/** The same with what makes the drive as part of the circuit; null where the drive is a circuit already. */
export function wholeSupplyOf(design: Design): WholeSupply | NoCircuit | null {
  if (isStarved(design.transformer, design.ladder.topology)) return { reason: 'a rectifier is inside the transformer' };
  const point = operatingPoint(design);
  const { ladder, inputs, demand, driveScale, atFullDrive } = point;
  const mirrored = isMirrored(design, ladder.network);
  const fed = ladder.network.sources.map(({ node, sign }): FedNode => {
    return { node, sign: mirrored ? (sign === 1 ? -1 : 1) : sign };
  });
  const result = sourceOf(design, atFullDrive, demand, driveScale);
  const supply = supplyCircuitOf(design, result, fed, inputFaradsOf(atFullDrive));
  if (!supply || 'reason' in supply) return supply;
  const parts = circuitParts(design, inputs, ladder);
  const elements = outputElements(design.output, design.load);
  return { ladder, supply, circuit: circuitOf(ladder.network, ladder.drive, parts, elements, supply) };
}

function circuitParts(
  { ladder }: Design,
  { parts: { diode } }: LadderInputs,
  { drive }: Pick<LoadedLadder, 'drive'>,
): CircuitParts {
  const { series, junctionFarads, junctionVolts, forwardVolts } = ladder.diode;
  const blockedVolts = (2 * amplitudeVolts(drive)) / series;
  const junction = junctionByVoltage(junctionFarads, junctionVolts, blockedVolts, forwardVolts);
  return {
    forwardVolts: diode.forwardVolts,
    strayFarads: ladder.strayFarads + junction.farads / series,
    junctionSteps: junction.steps.map(({ reverseVolts, farads }) => ({
      reverseVolts: reverseVolts * series,
      farads: farads / series,
    })),
    onOhms: diode.onOhms,
    leakSiemens: diode.peakInverseVolts === null ? 0 : diode.leakageAmps / diode.peakInverseVolts,
    transitSeconds: transitOf(ladder.diode.recoverySeconds),
  };
}
