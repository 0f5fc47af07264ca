import { GROUND, SOURCE, type LadderNetwork } from './network';

/**
 * One capacitor and one diode: the winding's voltage shifted so that its lower
 * peak rests on ground. The output pulses by the drive's whole peak-to-peak
 * voltage; its mean is one peak.
 *
 * @param farads of the capacitor, F
 */
export function clampNetwork(farads: number): LadderNetwork {
  return {
    topology: 'clamp',
    nodes: [GROUND, SOURCE, { id: 'A1', column: 'oscillating', stage: 1, side: 1 }],
    capacitors: [{ id: 'C1', column: 'oscillating', stage: 1, side: 1, lower: 'source', upper: 'A1', farads }],
    diodes: [{ id: 'D1', stage: 1, side: 1, anode: 'ground', cathode: 'A1' }],
    sources: [{ node: 'source', sign: 1 }],
    output: 'A1',
    return: 'ground',
  };
}
