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
  const { peakInverseVolts, forwardVolts, averageAmps, surgeAmps } = part;
  const { recoverySeconds, junctionFarads, leakageAmps } = part;
  return {
    peakInverseVolts,
    forwardVolts,
    // The drawer does not say at which current.
    forwardAmps: null,
    averageAmps,
    surgeAmps,
    recoverySeconds,
    // Nor at which voltage this.
    junctionVolts: null,
    junctionFarads,
    leakageAmps,
  } satisfies Partial<Ladder['diode']>;
}
