import { halfWaveParts } from './half-wave';
import { GROUND, SOURCE, type LadderNetwork } from './network';

/**
 * One half-wave ladder driven in its middle by a floating winding, with a
 * coupling capacitor at each end of it; the load stands across both terminals.
 *
 * Nothing else joins winding and ladder, so that the two coupling capacitors
 * carry the same charge and count as one of half their value, which stands here
 * between `source` and the first oscillating node. `ground` is then the smoothing
 * node that the winding's other end drives: which node of the ladder is earthed,
 * if any, does not matter to what stands across its parts.
 *
 * @param stages of each side, a positive whole number
 * @param farads each capacitor, F, those at the winding included
 * @returns the positive side's parts first, C1 standing for the two at the winding
 * @throws RangeError when stages is not a positive whole number
 */
export function twoEndedNetwork(stages: number, farads: number): LadderNetwork {
  if (!Number.isInteger(stages) || stages < 1)
    throw new RangeError(`twoEndedNetwork: ${stages} stages; must be a positive whole number`);
  const up = halfWaveParts(stages, farads, 1, 0);
  const [coupling, ...further] = up.capacitors;
  const down = halfWaveParts(stages, farads, -1, up.diodes.length, coupling.upper);
  return {
    topology: 'two-ended',
    nodes: [GROUND, SOURCE, ...up.nodes, ...down.nodes],
    capacitors: [{ ...coupling, farads: farads / 2, atBothEnds: true }, ...further, ...down.capacitors],
    diodes: [...up.diodes, ...down.diodes],
    sources: [{ node: 'source', sign: 1 }],
    output: up.output,
    return: down.output,
  };
}
