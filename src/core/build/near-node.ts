import { clearanceFor } from './distances';
import { gapBetween } from './geometry';
import type { Insulation } from './insulation';
import type { Layout } from './layout';

/** How far a node's bare metal is from that of another, and how far it must be, m. */
export type Distance = { node: string; metres: number; neededMetres: number | null; volts: number };

const MOST = 6;

/** What bare metal of a node is nearest to, by what is left of the clearance there, tightest first. */
export function distancesFrom(layout: Layout, { around, potentials }: Insulation, node: string): Distance[] {
  const own = layout.arranged.conductors.filter((one) => one.node === node);
  const nearest = new Map<string, number>();
  for (const other of layout.arranged.conductors) {
    if (other.node === node) continue;
    for (const one of own) {
      const { metres } = gapBetween(one, other);
      nearest.set(other.node, Math.min(metres, nearest.get(other.node) ?? Infinity));
    }
  }
  return [...nearest]
    .map(([other, metres]): Distance => {
      const volts = potentials.between(node, other);
      return { node: other, metres, neededMetres: clearanceFor(volts, around, potentials.hertz), volts };
    })
    .toSorted((one, other) => one.metres / (one.neededMetres ?? 1) - other.metres / (other.neededMetres ?? 1))
    .slice(0, MOST);
}
