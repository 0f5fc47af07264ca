import type { Design } from '../design/design-schema';
import type { LoadedLadder } from '../ladder/loaded';
import type { LadderInputs } from '../operating/ladder-inputs';
import { operatingPoint } from '../operating/operating-point';
import { outputElements } from '../output/elements';
import { transitOf } from '../stress/recovery';
import { circuitOf, type Circuit, type CircuitParts } from './circuit';

/** The circuit a design describes and the ladder it stands for, optionally behind another output and load. */
export function circuitOfDesign(
  design: Design,
  output: Design['output'] = design.output,
  load: Design['load'] = design.load,
): { ladder: LoadedLadder; circuit: Circuit } {
  const { ladder, inputs } = operatingPoint(design);
  const parts = circuitParts(design, inputs);
  return { ladder, circuit: circuitOf(ladder.network, ladder.drive, parts, outputElements(output, load)) };
}

function circuitParts({ ladder }: Design, { parts: { diode }, strayFarads }: LadderInputs): CircuitParts {
  return {
    forwardVolts: diode.forwardVolts,
    strayFarads,
    onOhms: diode.onOhms,
    leakSiemens: diode.peakInverseVolts === null ? 0 : diode.leakageAmps / diode.peakInverseVolts,
    transitSeconds: transitOf(ladder.diode.recoverySeconds),
  };
}
