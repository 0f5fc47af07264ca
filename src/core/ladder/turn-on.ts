import { sharedCoupling, type LadderNetwork } from '../topology/network';
import { capacitanceSolver, conductsAtPositivePeak, type CapacitiveNetwork } from './capacitive';
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
  /** Whether each start takes from those before it. */
  inTurn: boolean;
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
  capacitive: CapacitiveNetwork,
  { beforePositive, beforeNegative }: LightLoad['instants'],
  swings: ReadonlyMap<string, number>,
  strayFarads: number,
): TurnOn {
  const shared = sharedCoupling(network) !== null;
  const found: TurnOn = {
    starts: network.diodes.map(() => 0),
    ends: network.diodes.map(() => 0),
    inTurn: shared,
    width: 1,
  };
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
    const pulse = inTurn(network, capacitive, before, set, swings, strayFarads, rising);
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
/** Of the drive's own swing: ends that part by no more move as one. */
const ROUNDING = 1e-12;

/**
 * The starts of one set, one after another: from each on its ends keep level,
 * and the rest follow the drive by what the capacitances make of that.
 */
function inTurn(
  network: LadderNetwork,
  capacitive: CapacitiveNetwork,
  before: ReadonlyMap<string, number>,
  set: readonly number[],
  swings: ReadonlyMap<string, number>,
  strayFarads: number,
  rising: 1 | -1,
): { starts: number[]; end: number; width: number } {
  const solve = capacitanceSolver(capacitive);
  if (!solve) return { starts: set.map(() => 0), end: 0, width: 1 };
  const at = new Map(network.nodes.map(({ id }, index) => [id, index]));
  const pair = (one: string, other: string): Pair => ({ one: at.get(one)!, other: at.get(other)! });
  const inOrder = (values: ReadonlyMap<string, number>) =>
    Float64Array.from(network.nodes, ({ id }) => values.get(id)!);
  const diodes = network.diodes.map(({ anode, cathode }) => pair(anode, cathode));
  const branches = [
    ...network.capacitors.map(({ lower, upper, farads }) => ({ ...pair(lower, upper), farads })),
    ...diodes.map((ends) => ({ ...ends, farads: strayFarads })),
  ];
  const terminals = pair(network.output, network.return);
  const places = network.nodes.map(({ id }) => capacitive.place.get(id) ?? -1);
  const turn = levelling(places, capacitive.size, solve);

  const starts = new Map<number, number>();
  // Where a node stands while the drive is so far from its peak: level less slope times that.
  const level = inOrder(before);
  const slope = inOrder(swings);
  const segments: { from: number; farads: number }[] = [];
  let end = 0;
  for (let now = Infinity; ;) {
    const next = firstOf(set, (diode) => {
      const closes = rising * across(slope, diodes[diode]);
      return starts.has(diode) || !(closes > ROUNDING) ? 0 : across(level, diodes[diode]) / closes;
    });
    if (!next) break;
    now = Math.min(now, next.from);
    starts.set(next.at, now);
    const slopeBefore = slope.slice();
    turn(slope, diodes[next.at]);
    for (let node = 0; node < level.length; node += 1) level[node] -= rising * (slopeBefore[node] - slope[node]) * now;
    end = Math.abs(across(slope, terminals)) > RISES ? 0 : Math.max(end, now);
    segments.push({ from: now, farads: drivenFarads(branches, slope) });
  }
  return { starts: set.map((diode) => starts.get(diode) ?? 0), end, width: widthOf(segments) };
}

/** Two nodes, by their places in the network's order. */
type Pair = { one: number; other: number };

const across = (values: Float64Array, { one, other }: Pair) => values[one] - values[other];

/**
 * Diodes that start to conduct one after another: each keeps its ends level from
 * then on by the charge that this takes, which moves all other nodes too.
 *
 * @param places of the nodes in the elimination order, below zero where known
 * @returns turns the nodes' swings into what they become by the next diode, those before it level already
 */
function levelling(places: readonly number[], size: number, solve: (charge: Float64Array) => void) {
  const brought: { diode: Pair; by: Float64Array }[] = [];
  return (swings: Float64Array, diode: Pair): void => {
    const charge = new Float64Array(size);
    if (places[diode.one] >= 0) charge[places[diode.one]] -= 1;
    if (places[diode.other] >= 0) charge[places[diode.other]] += 1;
    solve(charge);
    const by = new Float64Array(places.length);
    for (let node = 0; node < by.length; node += 1) by[node] = places[node] < 0 ? 0 : charge[places[node]];
    for (const before of brought) keepLevel(by, before.diode, before.by);
    brought.push({ diode, by });
    keepLevel(swings, diode, by);
  };
}

/** Moves all nodes by as much of what a diode's charge does as makes its ends level. */
function keepLevel(values: Float64Array, diode: Pair, by: Float64Array): void {
  const share = across(values, diode) / across(by, diode);
  for (let node = 0; node < values.length; node += 1) values[node] -= share * by[node];
}

/** Capacitance that a drive sees while the nodes move so, by the energy in the field, F. */
const drivenFarads = (branches: readonly (Pair & { farads: number })[], swings: Float64Array): number =>
  branches.reduce((sum, branch) => sum + branch.farads * across(swings, branch) ** 2, 0);

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
