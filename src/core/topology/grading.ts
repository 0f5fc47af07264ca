import { eachFarads, topStage, type LadderNetwork } from './network';

/** How the capacitances of a ladder are spread over its stages. */
export const GRADINGS = ['equal', 'first-doubled', 'tapered'] as const;
export type Grading = (typeof GRADINGS)[number];

/**
 * A network with its capacitances graded or listed one by one.
 *
 * `first-doubled`: every coupling capacitor (one plate on a source) has twice
 * the rest. `tapered`: stage k from the foot of n has n + 1 - k times the top
 * one, in every column.
 *
 * @param network whose capacitors all have the capacitance of the top one, F
 * @param listed each capacitor in the network's order, F, at the ends of a winding one of the two; overrides the grading
 * @throws RangeError when the list is not as long as the ladder has capacitors
 */
export function gradedNetwork(
  network: LadderNetwork,
  grading: Grading,
  listed: readonly number[] | null,
): LadderNetwork {
  if (listed && listed.length !== network.capacitors.length)
    throw new RangeError(`gradedNetwork: ${listed.length} capacitances for ${network.capacitors.length} capacitors`);
  if (!listed && grading === 'equal') return network;
  const top = topStage(network);
  const sources = new Set(network.sources.map((source) => source.node));
  const multiple = (part: LadderNetwork['capacitors'][number]) => {
    if (grading === 'tapered') return top + 1 - part.stage;
    return grading === 'first-doubled' && (sources.has(part.lower) || sources.has(part.upper)) ? 2 : 1;
  };
  return {
    ...network,
    capacitors: network.capacitors.map((part, index) => ({
      ...part,
      farads: listed ? (listed[index] * part.farads) / eachFarads(part) : part.farads * multiple(part),
    })),
  };
}
