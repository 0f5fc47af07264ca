import { halfWaveParts } from './half-wave';
import { GROUND, SOURCE, type LadderNetwork } from './network';

/**
 * A positive and a negative half-wave ladder on one winding; the load stands
 * across both terminals.
 *
 * @param stages of each side, a positive multiple of one half
 * @param farads each capacitor, F
 * @returns the positive side's parts first, then the negative side's, whose
 *   nodes are `NA1, NB1, ...`
 * @throws RangeError when stages is not a positive multiple of one half
 */
export function bipolarNetwork(stages: number, farads: number): LadderNetwork {
  const up = halfWaveParts(stages, farads, 1, 0);
  const down = halfWaveParts(stages, farads, -1, up.diodes.length);
  return {
    topology: 'bipolar',
    nodes: [GROUND, SOURCE, ...up.nodes, ...down.nodes],
    capacitors: [...up.capacitors, ...down.capacitors],
    diodes: [...up.diodes, ...down.diodes],
    sources: [{ node: 'source', sign: 1 }],
    output: up.output,
    return: down.output,
  };
}
