import { designSchema, type MeasuredDesign } from './design-schema';
import { DESIGN_FORMAT, DESIGN_VERSION } from './upgrade';

/**
 * The design a new sheet starts from: a small, complete two-stage ladder whose
 * every value a beginner can change, open at the output.
 *
 * @param name the name it is filed under
 */
export function newDesign(name: string): MeasuredDesign {
  return designSchema.parse({
    format: DESIGN_FORMAT,
    version: DESIGN_VERSION,
    name,
    driver: { kind: 'measured', positivePeakVolts: 1000, frequencyHertz: 20_000, seriesOhms: 1000 },
    ladder: {
      stages: 2,
      capacitor: { farads: 1e-9, ratedVolts: 3000 },
      diode: {
        peakInverseVolts: 3000,
        forwardVolts: 3,
        averageAmps: 0.005,
        recoverySeconds: 100e-9,
        junctionFarads: 1e-12,
      },
    },
  }) as MeasuredDesign;
}
