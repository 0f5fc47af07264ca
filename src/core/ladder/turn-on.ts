import { sharedCoupling, type LadderNetwork } from '../topology/network';
import { capacitiveNetwork, capacitiveResponse, conductsAtPositivePeak, inputFarads } from './capacitive';
import type { LightLoad } from './charge-bookkeeping';

/**
 * How the diodes of a ladder start on a sine. Distances from a peak are of the
 * drive, V (1 - cos t), over the load charge of a cycle, 1/F.
 */
export type TurnOn = {
  /** Where each diode starts, in the network's order; zero or less for one that stays idle. */
  starts: number[];
  /** Where the output has risen as far as it will before the peak at which each diode conducts; zero where it rises to the peak. */
  ends: number[];
  /** How wide the winding's pulse is for its mean square, over the angle from where it starts. */
  width: number;
};

/**
 * When each diode starts to conduct on a sine, by the gap that it has to make
 * good. In a ladder driven from its foot the diodes before the output start
 * first, the output rises to the peak, and that gap is all there is to it. Where
 * one coupling feeds two sides, each start takes from the other side: there the
 * starts are followed one after another. Derived; the load's draw meanwhile is
 * left out.
 *
 * @param instants deviations of every node before either peak, 1/F
 * @param swings of the nodes for a drive of one
 */
export function turnOnOf(
  network: LadderNetwork,
  { beforePositive, beforeNegative }: LightLoad['instants'],
  swings: ReadonlyMap<string, number>,
  strayFarads: number,
): TurnOn {
  const shared = sharedCoupling(network) !== null;
  const found: TurnOn = { starts: network.diodes.map(() => 0), ends: network.diodes.map(() => 0), width: 1 };
  for (const [before, rising] of [
    [beforePositive, 1],
    [beforeNegative, -1],
  ] as const) {
    const set = network.diodes.flatMap((diode, at) =>
      conductsAtPositivePeak(diode, swings) === rising > 0 ? [at] : [],
    );
    if (!shared) {
      for (const at of set) found.starts[at] = startAlone(network, before, at, swings, rising);
      continue;
    }
    const pulse = inTurn(network, before, set, swings, strayFarads, rising);
    set.forEach((at, index) => {
      found.starts[at] = pulse.starts[index];
      found.ends[at] = pulse.end;
    });
    found.width = Math.min(found.width, pulse.width);
  }
  return found;
}

function startAlone(
  network: LadderNetwork,
  before: ReadonlyMap<string, number>,
  index: number,
  swings: ReadonlyMap<string, number>,
  rising: 1 | -1,
): number {
  const { anode, cathode } = network.diodes[index];
  return (before.get(anode)! - before.get(cathode)!) / (rising * (swings.get(anode)! - swings.get(cathode)!));
}

/** Part of the drive's own swing from which the output still counts as rising. */
const RISES = 1e-6;

/**
 * The starts of one set, one after another: from each on its ends move as one
 * node, and the rest follow the drive by what the capacitances make of that.
 */
function inTurn(
  network: LadderNetwork,
  before: ReadonlyMap<string, number>,
  set: readonly number[],
  swings: ReadonlyMap<string, number>,
  strayFarads: number,
  rising: 1 | -1,
): { starts: number[]; end: number; width: number } {
  const starts = new Map<number, number>();
  const joined = new Map<string, string>();
  const nodeOf = (id: string): string => {
    const next = joined.get(id);
    return next === undefined ? id : nodeOf(next);
  };
  // Where a node stands while the drive is so far from its peak: level less slope times that.
  let level = before;
  let slope = swings;
  const gap = (values: ReadonlyMap<string, number>, one: string, other: string) =>
    values.get(nodeOf(one))! - values.get(nodeOf(other))!;
  const segments: { from: number; farads: number }[] = [];
  let end = 0;
  for (let now = Infinity; ;) {
    const next = firstOf(set, (at) => {
      const { anode, cathode } = network.diodes[at];
      const closes = rising * gap(slope, anode, cathode);
      return starts.has(at) || !(closes > 0) ? 0 : gap(level, anode, cathode) / closes;
    });
    if (!next) break;
    now = Math.min(now, next.from);
    starts.set(next.at, now);
    const { anode, cathode } = network.diodes[next.at];
    join(joined, nodeOf(anode), nodeOf(cathode), network);
    const reduced = reducedBy(network, nodeOf);
    const turned = capacitiveResponse(reduced, capacitiveNetwork(reduced, strayFarads), strayFarads).swings;
    const [levelThere, slopeThere] = [level, slope];
    const at = now;
    level = new Map(
      [...turned].map(([id, swing]) => [id, levelThere.get(id)! - rising * (slopeThere.get(id)! - swing) * at]),
    );
    slope = turned;
    const rises = Math.abs(gap(slope, network.output, network.return)) > RISES;
    end = rises ? 0 : Math.max(end, now);
    segments.push({ from: now, farads: inputFarads(reduced, strayFarads, turned)[0] });
  }
  return { starts: set.map((at) => starts.get(at) ?? 0), end, width: widthOf(segments) };
}

/** The one that starts first, of those that start before the peak. */
function firstOf(set: readonly number[], startOf: (at: number) => number): { at: number; from: number } | null {
  return set.reduce<{ at: number; from: number } | null>((first, at) => {
    const from = startOf(at);
    return from > 0 && (first === null || from > first.from) ? { at, from } : first;
  }, null);
}

/**
 * Of a pulse whose capacitance changes on the way, the width that has its mean
 * square, over the angle that it takes: a current C sin t from a small angle c to
 * the peak has (4/3) / c for a charge of one.
 */
function widthOf(segments: readonly { from: number; farads: number }[]): number {
  let [charge, square] = [0, 0];
  segments.forEach(({ from, farads }, index) => {
    const [begin, end] = [from, segments[index + 1]?.from ?? 0].map((distance) => Math.sqrt(2 * distance));
    charge += (farads * (begin ** 2 - end ** 2)) / 2;
    square += (farads ** 2 * (begin ** 3 - end ** 3)) / 3;
  });
  if (!(square > 0)) return 1;
  return Math.min(1, (4 * charge ** 2) / (3 * square) / Math.sqrt(2 * segments[0].from));
}

/** Makes two nodes one, that of a known voltage standing for both. */
function join(joined: Map<string, string>, one: string, other: string, network: LadderNetwork): void {
  if (one === other) return;
  const isKnown = network.nodes.find(({ id }) => id === other)!.stage === 0;
  if (isKnown) joined.set(one, other);
  else joined.set(other, one);
}

/** A network in which joined nodes are one. */
function reducedBy(network: LadderNetwork, nodeOf: (id: string) => string): LadderNetwork {
  return {
    ...network,
    nodes: network.nodes.filter(({ id }) => nodeOf(id) === id),
    capacitors: network.capacitors
      .map((part) => ({ ...part, lower: nodeOf(part.lower), upper: nodeOf(part.upper) }))
      .filter(({ lower, upper }) => lower !== upper),
    diodes: network.diodes
      .map((part) => ({ ...part, anode: nodeOf(part.anode), cathode: nodeOf(part.cathode) }))
      .filter(({ anode, cathode }) => anode !== cathode),
    output: nodeOf(network.output),
    return: nodeOf(network.return),
  };
}
