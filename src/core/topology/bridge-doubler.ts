import { GROUND, SOURCE, type LadderNetwork } from './network';

/**
 * Two diodes and two capacitors, each pair using one half-wave; the output is
 * taken across both capacitors. `ground` is the end of the winding that stands
 * between the capacitors: with a floating winding either terminal may be
 * earthed instead, and every voltage across a part stays what it is.
 *
 * @param farads of each capacitor, F
 */
export function bridgeDoublerNetwork(farads: number): LadderNetwork {
  return {
    topology: 'bridge-doubler',
    nodes: [
      GROUND,
      SOURCE,
      { id: 'B1', column: 'smoothing', stage: 1, side: 1 },
      { id: 'NB1', column: 'smoothing', stage: 1, side: -1 },
    ],
    capacitors: [
      { id: 'C1', column: 'smoothing', stage: 1, side: 1, lower: 'ground', upper: 'B1', farads },
      { id: 'C2', column: 'smoothing', stage: 1, side: -1, lower: 'NB1', upper: 'ground', farads },
    ],
    diodes: [
      { id: 'D1', stage: 1, side: 1, anode: 'source', cathode: 'B1' },
      { id: 'D2', stage: 1, side: -1, anode: 'NB1', cathode: 'source' },
    ],
    sources: [{ node: 'source', sign: 1 }],
    output: 'B1',
    return: 'NB1',
  };
}
