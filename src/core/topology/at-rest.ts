import type { LadderNetwork } from './network';

/**
 * What a ladder's nodes stand at with its drive off: the winding is a short for
 * direct current, and every other node stands off it by the capacitors between.
 *
 * @param volts of each capacitor, in the network's order
 * @returns by node, against ground, V; a node that no capacitor leads to stands at 0
 */
export function atRest(network: LadderNetwork, volts: readonly number[]): ReadonlyMap<string, number> {
  const at = new Map<string, number>(
    network.nodes.filter(({ column }) => column === 'ground' || column === 'source').map(({ id }) => [id, 0]),
  );
  // Each round reaches one capacitor further; a ladder has no more rounds than capacitors.
  for (let round = 0; round < network.capacitors.length; round += 1)
    network.capacitors.forEach(({ lower, upper }, index) => {
      const [low, high] = [at.get(lower), at.get(upper)];
      if (low !== undefined && high === undefined) at.set(upper, low + volts[index]);
      if (high !== undefined && low === undefined) at.set(lower, high - volts[index]);
    });
  for (const { id } of network.nodes) if (!at.has(id)) at.set(id, 0);
  return at;
}
