import type { Build } from '../design/build-schema';
import { gapBetween } from './geometry';
import type { Insulation } from './insulation';
import type { Layout } from './layout';
import { neededBetween } from './needed';

/** How far a node's bare metal is from that of another, and how far it must be, m. */
export type Distance = {
  node: string;
  metres: number;
  neededMetres: number | null;
  isTooNear: boolean;
  volts: number;
};

/** Less than this is rounding, m. */
const ROUNDING = 1e-9;

const MOST = 6;

/** What bare metal of a node is nearest to, by what is left of the clearance there, tightest first. */
export function distancesFrom(
  layout: Layout,
  { around, potentials }: Insulation,
  held: Build['held'],
  node: string,
): Distance[] {
  const { conductors } = layout.arranged;
  const own = conductors.filter((one) => one.node === node);
  const needed = neededBetween(potentials, around, held);
  const nearest = new Map<string, { metres: number; neededMetres: number | null }>();
  const tightness = ({ metres, neededMetres }: { metres: number; neededMetres: number | null }) =>
    metres / (neededMetres ?? 1);
  for (const other of conductors) {
    if (other.node === node) continue;
    for (const one of own) {
      const found = { metres: gapBetween(one, other).metres, neededMetres: needed(one, other) };
      const known = nearest.get(other.node);
      if (!known || tightness(found) < tightness(known)) nearest.set(other.node, found);
    }
  }
  return [...nearest]
    .map(([other, found]): Distance => {
      const { metres, neededMetres } = found;
      const isTooNear = neededMetres !== null && metres < neededMetres - ROUNDING;
      return { node: other, ...found, isTooNear, volts: potentials.between(node, other) };
    })
    .toSorted((one, other) => tightness(one) - tightness(other))
    .slice(0, MOST);
}
