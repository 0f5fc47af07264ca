import type { Design } from '../design/design-schema';
import type { Part } from '../parts/part-schema';

type Ladder = Design['ladder'];

/** What the drawer knows of a capacitor, as a design has it. */
export function capacitorValues(part: Extract<Part, { kind: 'capacitor' }>) {
  const { farads, ratedVolts, tolerance, ratedAcVolts, ratedRmsAmps, lossTangent } = part;
  const { dcBiasDerating, lengthMetres, diameterMetres } = part;
  return {
    farads,
    ratedVolts,
    tolerance,
    ratedAcVolts,
    ratedRmsAmps,
    lossTangent,
    lengthMetres,
    diameterMetres,
    dcBiasDerating,
    leakageAmps: part.leakageAmps ?? 0,
  } satisfies Partial<Ladder['capacitor']>;
}

/** What the drawer knows of a diode, as a design has it. */
export function diodeValues(part: Extract<Part, { kind: 'diode' }>) {
  const { peakInverseVolts, forwardVolts, forwardAmps, averageAmps, surgeAmps } = part;
  const { recoverySeconds, junctionFarads, junctionVolts, leakageAmps } = part;
  return {
    peakInverseVolts,
    forwardVolts,
    forwardAmps,
    averageAmps,
    surgeAmps,
    recoverySeconds,
    junctionFarads,
    junctionVolts,
    leakageAmps,
  } satisfies Partial<Ladder['diode']>;
}
