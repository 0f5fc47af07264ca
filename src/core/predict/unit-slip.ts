import { formatQuantity } from '../quantity/format-quantity';

/**
 * A capacitance that is nearly always a slip of units, with what was likely
 * meant: a few picofarads, microfarads at tens of kilovolts, or a bare number
 * that was picofarads. Common practice, no source.
 *
 * @param farads each ladder capacitor, F
 * @param volts its rating or, without one, its working voltage, V
 * @returns the likely capacitance in F and why, or null when nothing looks wrong
 */
export function unitSlip(farads: number, volts: number): { likelyFarads: number; reason: string } | null {
  const value = formatQuantity(farads, 'F');
  if (farads >= 0.5)
    return {
      likelyFarads: farads * 1e-12,
      reason: `${value} cannot be a ladder capacitor; a bare number counts as farads`,
    };
  if (farads < 10e-12) {
    return { likelyFarads: farads * 1e3, reason: `${value} is hardly more than the strays of the wiring` };
  }
  if (volts >= 10_000 && farads >= 0.1e-6) {
    return {
      likelyFarads: farads * 1e-3,
      reason: `${value} at ${formatQuantity(volts, 'V')} would store ${formatQuantity((farads * volts ** 2) / 2, 'J')} in each capacitor, far past hobby parts`,
    };
  }
  return null;
}
