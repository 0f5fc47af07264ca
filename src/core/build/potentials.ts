import type { Design } from '../design/design-schema';
import { ladderOfDesign } from '../operating/ladder-of-design';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import type { LadderNetwork } from '../topology/network';

/** Where the nodes of a ladder stand without load, its drive at its highest, and what lies between any two. */
export type Potentials = {
  network: LadderNetwork;
  /** Frequency of what alternates, Hz. */
  hertz: number;
  /** The most that a node stands at against ground, V, a magnitude. */
  toGround: (node: string) => number;
  /** RMS of what it stands at, V, likewise. */
  rmsToGround: (node: string) => number;
  /** The most that lies between two nodes, V, a magnitude. */
  between: (one: string, other: string) => number;
  /** RMS of what lies between them, V; what alternates is counted as a sine. */
  rmsBetween: (one: string, other: string) => number;
};

/**
 * @param design with its drive as stated; the drive is taken as much higher as its tolerance says
 * @returns null for what does not rectify
 */
export function potentialsOf(design: Design): Potentials | null {
  const { network, unloaded, drive } = ladderOfDesign(design);
  if (network.diodes.length === 0) return null;
  const more = 1 + design.spread.peaks;
  const mean = (node: string) => more * (unloaded.nodeVolts.get(node) ?? 0);
  const swing = (node: string) => more * (unloaded.nodeSwings.get(node) ?? 0);
  const steady = (one: string, other: string) => Math.abs(mean(one) - mean(other));
  const alternating = (one: string, other: string) => Math.abs(swing(one) - swing(other));
  const between = (one: string, other: string) => steady(one, other) + alternating(one, other);
  const rmsBetween = (one: string, other: string) =>
    Math.hypot(steady(one, other), alternating(one, other) / Math.SQRT2);
  // A ladder that floats may be earthed at either end.
  const earths = TOPOLOGY_KINDS[design.ladder.topology].floats
    ? ['ground', network.output, network.return]
    : ['ground'];
  return {
    network,
    hertz: drive.frequencyHertz,
    toGround: (node) => Math.max(...earths.map((earth) => between(node, earth))),
    between,
    rmsToGround: (node) => Math.max(...earths.map((earth) => rmsBetween(node, earth))),
    rmsBetween,
  };
}
