import { GROUND, SOURCE, type LadderNetwork } from './network';

/** Nothing between winding and load: the output is the winding's own alternating voltage. */
export function noLadder(): LadderNetwork {
  return {
    topology: 'none',
    nodes: [GROUND, SOURCE],
    capacitors: [],
    diodes: [],
    sources: [{ node: 'source', sign: 1 }],
    output: 'source',
    return: 'ground',
  };
}
