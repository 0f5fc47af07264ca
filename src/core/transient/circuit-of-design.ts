import type { Design } from '../design/design-schema';
import type { LoadedLadder } from '../ladder/loaded';
import { transitOf } from '../stress/recovery';
import { ladderParts } from '../stress/strings';
import { strayFaradsOf } from '../operating/ladder-of-design';
import { loadedDesign } from '../operating/operating-point';
import { circuitOf, type Circuit, type CircuitParts } from './circuit';

/** The circuit a design describes and the ladder it stands for, optionally behind another output and load. */
export function circuitOfDesign(
  design: Design,
  output: Design['output'] = design.output,
  load: Design['load'] = design.load,
): { ladder: LoadedLadder; circuit: Circuit } {
  const { ladder } = loadedDesign(design);
  return { ladder, circuit: circuitOf(ladder.network, ladder.drive, circuitParts(design), output, load) };
}

function circuitParts(design: Design): CircuitParts {
  const { recoverySeconds } = design.ladder.diode;
  const { diode } = ladderParts(design.ladder);
  return {
    forwardVolts: diode.forwardVolts,
    strayFarads: strayFaradsOf(design),
    onOhms: diode.onOhms,
    leakSiemens: diode.peakInverseVolts === null ? 0 : diode.leakageAmps / diode.peakInverseVolts,
    transitSeconds: transitOf(recoverySeconds),
  };
}
