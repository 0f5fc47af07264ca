import { hasFastEdges, type Drive } from '../drive/drive';
import { BandedMatrix } from '../numeric/banded-lu';
import { conductsAtPositivePeak, type CapacitiveNetwork, type CapacitiveResponse } from './capacitive';
import { isAlternating, type LadderDiode, type LadderNetwork } from '../topology/network';

/** Deviation of every node from its no-load voltage at the instants of a cycle, per coulomb of load charge, 1/F. */
type Instants = Record<'afterPositive' | 'beforeNegative' | 'afterNegative' | 'beforePositive', Map<string, number>>;

/**
 * What one cycle's load charge does to a ladder as the load goes to zero. All
 * coefficients are per coulomb of load charge q = I / f, in 1/F, so that a
 * voltage is a coefficient times q.
 */
export type LightLoad = {
  /** Droop of the mean output voltage. */
  droop: number;
  /** Half-wave ladders on a sine only: the textbooks' droop, to the peak if all load charge were drawn at one instant; else null. */
  textbookDroop: number | null;
  /** Ripple of the output, peak to peak, the drive's own swing apart and before charging time shortens it. */
  ripple: number;
  /** Droop of each capacitor's mean voltage, in the network's order. */
  capacitorDroops: number[];
  /** Droop of each node's mean voltage. */
  nodeDroops: Map<string, number>;
  /** Charge through each diode in a cycle, as a multiple of the load charge, in the network's order. */
  diodeCharges: number[];
  /**
   * Charge each winding gives at either peak, as a multiple of the load charge: in
   * the pulse of a sine, all the time that a square stands there.
   */
  windingPulses: { positive: number; negative: number }[];
  instants: Instants;
  /** Of the output before and after either peak, the positive first, for each charge of the load. */
  outputTurns: readonly OutputTurn[];
};

/** Where an output stands before and after diodes conduct, 1/F. */
export type OutputTurn = { before: number; after: number };

/**
 * Charge bookkeeping of any ladder with arbitrary capacitors and strays.
 *
 * Two sets of diodes conduct in turn, one about the positive and one about the
 * negative peak of the drive, and leave the ends of every diode of the set
 * level. Between them the load draws its charge out of the capacitances alone.
 * Unknown are every node's voltage after either set has conducted and every
 * diode's charge; known are the capacitances, that charge is conserved at every
 * node, and that the cycle closes. The equations are linear and are solved as
 * one banded system.
 *
 * A sine conducts for an instant at its peak as the load goes to zero. A square
 * or pulse holds its diodes conducting while it stands at a peak, so that the
 * load is fed from the drive meanwhile: the means are then those between the
 * state just after the edge and the state before the next.
 *
 * @param network of any topology; farads above zero
 * @param capacitive the same network's capacitances, strays included
 * @param response of those capacitances
 * @param drive waveform and duty; its peaks do not matter here
 * @returns coefficients in 1/F; exact as load charge goes to zero for a drive
 *   of zero impedance. Of two diodes that feed a node, one stays idle where
 *   capacitances differ enough: its charge is zero. Null where capacitances
 *   differ by more than the precision of numbers
 * @remarks For a half-wave ladder of equal capacitors the droop is
 *   (2n^3/3 + n^2/2 + n/3) q/C and the ripple n(n+1)/2 q/C. The textbook droop
 *   2n^3/3 + n^2/2 - n/6 (Naidu and Kamaraju, High Voltage Engineering, chapter
 *   6, from memory) is returned in its general form, half the smoothing
 *   column's elastance below the true mean droop. Source: derived; checked
 *   against independent integration.
 */
export function lightLoadBookkeeping(
  network: LadderNetwork,
  capacitive: CapacitiveNetwork,
  response: CapacitiveResponse,
  drive: Pick<Drive, 'waveform' | 'duty'>,
): LightLoad | null {
  if (isAlternating(network)) return nothingMoved(network);
  const { place } = capacitive;
  const { swings, discharge } = response;
  const positive = network.diodes.map((diode) => conductsAtPositivePeak(diode, swings));
  const share = { positive: drive.duty, negative: 1 - drive.duty };
  const scale = network.capacitors.reduce((sum, part) => sum + part.farads, 0) / network.capacitors.length;
  const diodesOf = (set: boolean) => positive.flatMap((is, diode) => (is === set ? [diode] : []));
  const sets = [diodesOf(true), diodesOf(false)];
  // While a drive stands at its peak a diode goes on conducting where the load draws its cathode down more than its anode.
  const drawnOn = ({ anode, cathode }: LadderDiode) => discharge.get(cathode)! > discharge.get(anode)!;
  const held = sets.map((set) => set.filter((diode) => drawnOn(network.diodes[diode])));
  const cycle = forwardCycle(
    network,
    capacitive,
    hasFastEdges(drive)
      ? [
          { level: sets[0], drawn: 0 },
          { level: held[0], drawn: share.positive },
          { level: sets[1], drawn: 0 },
          { level: held[1], drawn: share.negative },
        ]
      : [
          { level: sets[0], drawn: share.negative },
          { level: sets[1], drawn: share.positive },
        ],
    scale,
  );
  if (!cycle) return null;
  const states = cycle.states.map(
    (values) =>
      new Map([
        ...[...capacitive.known.keys()].map((id): [string, number] => [id, 0]),
        ...[...place].map(([id, at]): [string, number] => [id, values[at] / scale]),
      ]),
  );
  const less = (from: Map<string, number>, fraction: number) =>
    new Map([...from].map(([id, volts]) => [id, volts - fraction * discharge.get(id)!]));
  const instants: Instants = hasFastEdges(drive)
    ? {
        afterPositive: states[0],
        beforeNegative: states[1],
        afterNegative: states[2],
        beforePositive: states[3],
      }
    : {
        afterPositive: states[0],
        beforeNegative: less(states[0], share.positive),
        afterNegative: states[1],
        beforePositive: less(states[1], share.negative),
      };
  const { afterPositive, beforeNegative, afterNegative, beforePositive } = instants;
  const nodeDroops = new Map(
    [...afterPositive.keys()].map((id) => [
      id,
      (-share.positive * (afterPositive.get(id)! + beforeNegative.get(id)!) -
        share.negative * (afterNegative.get(id)! + beforePositive.get(id)!)) /
        2,
    ]),
  );
  const acrossOutput = (at: ReadonlyMap<string, number>) => at.get(network.output)! - at.get(network.return)!;
  const outputTurns = [
    { before: acrossOutput(beforePositive), after: acrossOutput(afterPositive) },
    { before: acrossOutput(beforeNegative), after: acrossOutput(afterNegative) },
  ];
  const stands = outputTurns.flatMap(({ before, after }) => [before, after]);
  const droop = nodeDroops.get(network.output)! - nodeDroops.get(network.return)!;
  const smoothing = discharge.get(network.output)! - discharge.get(network.return)!;
  if (!(droop > 0 && droop < Infinity)) return null;
  return {
    droop,
    textbookDroop: network.topology === 'half-wave' && !hasFastEdges(drive) ? droop - smoothing / 2 : null,
    ripple: Math.max(...stands) - Math.min(...stands),
    capacitorDroops: network.capacitors.map((part) => nodeDroops.get(part.upper)! - nodeDroops.get(part.lower)!),
    nodeDroops,
    diodeCharges: cycle.charges,
    windingPulses: windingPulses(network, positive, cycle.charges, instants, hasFastEdges(drive)),
    instants,
    outputTurns,
  };
}

/** Of an output that nothing is known to move. */
export const LEVEL_TURNS: readonly OutputTurn[] = [
  { before: 0, after: 0 },
  { before: 0, after: 0 },
];

/** Of a winding straight onto its load: no charge is kept from one peak to the other. */
function nothingMoved(network: LadderNetwork): LightLoad {
  const level = new Map(network.nodes.map(({ id }) => [id, 0]));
  return {
    droop: 0,
    textbookDroop: null,
    ripple: 0,
    capacitorDroops: [],
    nodeDroops: level,
    diodeCharges: [],
    windingPulses: network.sources.map(() => ({ positive: 0, negative: 0 })),
    instants: { afterPositive: level, beforeNegative: level, afterNegative: level, beforePositive: level },
    outputTurns: LEVEL_TURNS,
  };
}

/** One moment of the cycle: diodes whose ends are level then, and the load charge drawn since the moment before. */
type Moment = { level: readonly number[]; drawn: number };

/** Of a coulomb of load charge: less than this backwards through a diode is rounding. */
const ROUNDING = 1e-9;
/** Diodes left out and taken back at most: some ten stages of unlike capacitors take no more. */
const MOST_CHANGES = 40;

/**
 * The closed cycle in which every diode's charge is forward. Where capacitances
 * differ, one of two diodes that feed a node may stay idle: which do is found by
 * leaving out the one that would pass most backwards, and taking back one whose
 * anode would come to stand above its cathode, until neither is left.
 *
 * @returns null where no such set is found within a time that a keystroke allows
 */
function forwardCycle(
  network: LadderNetwork,
  capacitive: CapacitiveNetwork,
  moments: readonly Moment[],
  scale: number,
): { states: Float64Array[]; charges: number[] } | null {
  const idle = new Set<Passing>();
  const all = moments.flatMap(({ level }, moment) => level.map((diode): Passing => ({ diode, moment })));
  for (let tries = 0; tries <= MOST_CHANGES; tries += 1) {
    const passing = all.filter((one) => !idle.has(one));
    const cycle = closedCycle(network, capacitive, moments, passing, scale);
    if (!cycle) return null;
    const charges = network.diodes.map(() => 0);
    passing.forEach(({ diode }, index) => (charges[diode] += cycle.charges[index]));
    const backwards = charges.map((charge) => !(charge > -ROUNDING));
    const volts = (node: string, moment: number) => cycle.states[moment][capacitive.place.get(node) ?? -1] ?? 0;
    const over = ({ diode, moment }: Passing) => {
      const { anode, cathode } = network.diodes[diode];
      return volts(anode, moment) - volts(cathode, moment);
    };
    const least = leastOf(passing, (one, index) => (backwards[one.diode] ? cycle.charges[index] : 0));
    if (least !== null) {
      idle.add(least);
      continue;
    }
    const most = Math.max(...cycle.states.flatMap((state) => [...state].map(Math.abs)));
    const back = leastOf([...idle], (one) => Math.min(0, -over(one) + ROUNDING * most));
    if (back === null) return { states: cycle.states, charges: charges.map((charge) => Math.max(0, charge)) };
    idle.delete(back);
  }
  return null;
}

/** The one whose value is least of those below zero; null where none is. */
function leastOf<Of>(all: readonly Of[], value: (one: Of, index: number) => number): Of | null {
  let least = 0;
  let found: Of | null = null;
  all.forEach((one, index) => {
    if (!(value(one, index) < least)) return;
    least = value(one, index);
    found = one;
  });
  return found;
}

/** A diode that has its ends level at a moment. */
type Passing = { diode: number; moment: number };

/**
 * Node voltages at successive moments of a closed cycle and the charge that
 * passes each diode at its moment, for capacitances that hold their charge but for what diodes
 * bring and the load draws.
 *
 * @returns voltages times the scale of capacitance, for each moment in the
 *   elimination order; null when the equations are singular
 */
function closedCycle(
  network: LadderNetwork,
  { place, size, branches }: CapacitiveNetwork,
  moments: readonly { drawn: number }[],
  level: readonly Passing[],
  scale: number,
): { states: Float64Array[]; charges: number[] } | null {
  const count = moments.length;
  const passing = level.map(({ diode, moment }) => {
    const { anode, cathode } = network.diodes[diode];
    return { moment, to: place.get(cathode) ?? -1, from: place.get(anode) ?? -1, at: 0 };
  });
  // The states of a node stand together, each diode's charge behind the later of its ends.
  const behind: (typeof passing)[] = Array.from({ length: size }, () => []);
  for (const passed of passing) behind[Math.max(passed.to, passed.from)].push(passed);
  const nodeAt = new Int32Array(size);
  let unknowns = 0;
  for (let node = 0; node < size; node += 1) {
    nodeAt[node] = unknowns;
    unknowns += count;
    for (const passed of behind[node]) passed.at = unknowns++;
  }
  let reach = count;
  for (const { from, to } of branches)
    if (from >= 0 && to >= 0) reach = Math.max(reach, Math.abs(nodeAt[from] - nodeAt[to]) + count - 1);
  for (const { moment, to, from, at } of passing)
    for (const node of [to, from]) if (node >= 0) reach = Math.max(reach, Math.abs(nodeAt[node] + moment - at));

  const matrix = new BandedMatrix(unknowns, reach);
  const right = new Float64Array(unknowns);
  /** A capacitance has the charge it had the moment before, but for what the diodes bring. */
  const hold = (end: number, other: number, farads: number) => {
    if (end < 0) return;
    for (let moment = 0; moment < count; moment += 1) {
      const row = nodeAt[end] + moment;
      const before = (moment + count - 1) % count;
      matrix.add(row, row, farads);
      matrix.add(row, nodeAt[end] + before, -farads);
      if (other < 0) continue;
      matrix.add(row, nodeAt[other] + moment, -farads);
      matrix.add(row, nodeAt[other] + before, farads);
    }
  };
  for (const { from, to, farads } of branches) {
    hold(from, to, farads / scale);
    hold(to, from, farads / scale);
  }
  const pass = (node: number, moment: number, charge: number, sign: 1 | -1) => {
    if (node < 0) return;
    matrix.add(nodeAt[node] + moment, charge, -sign);
    matrix.add(charge, nodeAt[node] + moment, sign);
  };
  for (const { moment, to, from, at } of passing) {
    pass(to, moment, at, 1);
    pass(from, moment, at, -1);
  }
  const [output, back] = [place.get(network.output), place.get(network.return)];
  moments.forEach(({ drawn }, moment) => {
    if (output !== undefined) right[nodeAt[output] + moment] -= drawn;
    if (back !== undefined) right[nodeAt[back] + moment] += drawn;
  });
  if (!matrix.solve(right)) return null;
  return {
    states: moments.map((_, moment) => Float64Array.from(nodeAt, (at) => right[at + moment])),
    charges: passing.map(({ at }) => right[at]),
  };
}

/** What each winding gives at either peak: through its capacitors and the diodes that stand on it. */
function windingPulses(
  network: LadderNetwork,
  positive: readonly boolean[],
  charges: ArrayLike<number>,
  { afterPositive, beforeNegative, afterNegative, beforePositive }: Instants,
  allTheTime: boolean,
): LightLoad['windingPulses'] {
  return network.sources.map(({ node }) => {
    const pulse = { positive: 0, negative: 0 };
    for (const part of network.capacitors) {
      const far = part.lower === node ? part.upper : part.upper === node ? part.lower : null;
      if (far === null) continue;
      const [endOfPositive, endOfNegative] = allTheTime
        ? [beforeNegative, beforePositive]
        : [afterPositive, afterNegative];
      pulse.positive -= part.farads * (endOfPositive.get(far)! - beforePositive.get(far)!);
      pulse.negative -= part.farads * (endOfNegative.get(far)! - beforeNegative.get(far)!);
    }
    network.diodes.forEach((diode, index) => {
      const sign = diode.anode === node ? 1 : diode.cathode === node ? -1 : 0;
      pulse[positive[index] ? 'positive' : 'negative'] += sign * charges[index];
    });
    return { positive: Math.abs(pulse.positive), negative: Math.abs(pulse.negative) };
  });
}
