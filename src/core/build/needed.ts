import type { Build } from '../design/build-schema';
import type { Conductor } from './arranged';
import { clearanceFor, creepageFor, type Surrounded } from './distances';
import type { Potentials } from './potentials';

/** How far two bare conductors must be apart, m; null where there is no figure. */
export type Needed = (one: Conductor, other: Conductor) => number | null;

/** On one board: no surface leads from one board to the next. */
const areOnOneBoard = (one: Conductor, other: Conductor): boolean =>
  one.from[2] === one.to[2] && other.from[2] === other.to[2] && one.from[2] === other.from[2];

/** By the clearance between their nodes, and the creepage as well where a surface holds both. */
export function neededBetween(
  { between, rmsBetween, hertz }: Potentials,
  around: Surrounded,
  held: Build['held'],
): Needed {
  const known = new Map<string, Map<string, { clearance: number | null; creepage: number | null }>>();
  const found = (one: string, other: string) => {
    let row = known.get(one);
    if (!row) known.set(one, (row = new Map()));
    let pair = row.get(other);
    if (!pair) {
      const peakVolts = between(one, other);
      const clearance = clearanceFor(peakVolts, around, hertz);
      pair = { clearance, creepage: creepageFor(rmsBetween(one, other), peakVolts, around) };
      row.set(other, pair);
    }
    return pair;
  };
  return (one, other) => {
    const { clearance, creepage } = found(one.node, other.node);
    if (held === 'free' || clearance === null || !areOnOneBoard(one, other)) return clearance;
    return creepage === null ? null : Math.max(clearance, creepage);
  };
}
