import { halfWaveNetwork } from './half-wave';
import type { LadderNetwork } from './network';

/**
 * One diode from the winding, inside its transformer or outside, and one
 * capacitor: the winding's positive peak, and no multiplication. Where no
 * capacitor is fitted, what cable and load have stands in its place.
 *
 * @param farads of the capacitor, F
 */
export function rectifierNetwork(farads: number): LadderNetwork {
  return { ...halfWaveNetwork(0.5, farads), topology: 'rectifier' };
}
