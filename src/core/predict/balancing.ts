import type { Design } from '../design/design-schema';
import { balancing, directRating } from '../parts/bank';
import type { Prediction } from './prediction';

/** Balancing resistors of the strings in the ladder's places. */
export function balancingOf(
  { ladder: { capacitor, diode } }: Design,
  capacitors: readonly { workingVolts: number }[],
  diodes: readonly { reverseVolts: number }[],
): Prediction['balancing'] {
  const of = (count: number, rated: number | null, volts: number, leakageAmps: number) =>
    count > 1 && rated !== null && leakageAmps > 0 ? balancing(count, rated, volts, leakageAmps) : null;
  const across = {
    capacitor: Math.max(0, ...capacitors.map(({ workingVolts }) => workingVolts)),
    diode: Math.max(0, ...diodes.map(({ reverseVolts }) => reverseVolts)),
  };
  return {
    capacitor: of(capacitor.series, directRating(capacitor), across.capacitor, capacitor.leakageAmps),
    diode: of(diode.series, diode.peakInverseVolts, across.diode, diode.leakageAmps),
  };
}
