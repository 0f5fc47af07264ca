import { LOAD_KINDS, loadOhms } from '../load/load-kinds';
import type { LoadBranch } from '../load/load-kind';
import type { Drive } from '../drive/drive';
import type { LadderNetwork } from '../topology/network';
import { bandOrder } from '../numeric/ordering';
import type { OutputElement, OutputNode } from '../output/elements';

/** A node: zero or more is free, below zero is known: -1 ground, -2 and on a stiff source. */
type NodeIndex = number;

type CircuitCapacitor = { from: NodeIndex; to: NodeIndex; farads: number };
type CircuitResistor = { from: NodeIndex; to: NodeIndex; siemens: number };

/**
 * A diode: nothing but leakage below its forward voltage, a straight line above
 * it. While it conducts it stores the charge that recovery must take out again:
 * transit time times its current.
 */
type CircuitDiode = {
  anode: NodeIndex;
  cathode: NodeIndex;
  forwardVolts: number;
  onSiemens: number;
  leakSiemens: number;
  transitSeconds: number;
  /** The greater of the capacitances it joins, for judging what is stiff, F. */
  nearFarads: number;
};

/** The drive behind the resistance and leakage inductance of a winding, feeding a free node. */
type CircuitWinding = { node: NodeIndex; sign: 1 | -1; ohms: number; henries: number };

/** What a load draws from `from` to `to`, by its kind's law. */
type CircuitLoad = { from: NodeIndex; to: NodeIndex; law: LoadBranch };

/** Elements between numbered nodes; `names` are the free nodes in elimination order. */
export type Circuit = {
  hertz: number;
  names: string[];
  place: Map<string, NodeIndex>;
  capacitors: CircuitCapacitor[];
  resistors: CircuitResistor[];
  diodes: CircuitDiode[];
  windings: CircuitWinding[];
  /** Whether leakage inductance rings as it will, or every step lets its ringing die. */
  ringing: 'followed' | 'damped';
  /** Signs of the stiff sources, nodes -2, -3 and on. */
  stiff: (1 | -1)[];
  loads: CircuitLoad[];
  /** The ladder's own capacitors and diodes stand first in their lists, this many of each. */
  ladderCapacitors: number;
  ladderDiodes: number;
  output: NodeIndex;
  return: NodeIndex;
  /** Where the load stands, behind the series resistor. */
  load: NodeIndex;
  seriesOhms: number;
  bleederSiemens: number;
  /** Conductance of a resistive load; it stands among the resistors as well. */
  loadSiemens: number;
};

/** What the parts of a ladder are like beyond its network. */
export type CircuitParts = {
  forwardVolts: number;
  strayFarads: number;
  onOhms: number;
  leakSiemens: number;
  transitSeconds: number;
};

/**
 * A ladder with its drive, output and load as elements, nodes numbered so that
 * elements join near numbers.
 */
export function circuitOf(
  network: LadderNetwork,
  drive: Drive,
  parts: CircuitParts,
  elements: readonly OutputElement[],
): Circuit {
  const isStiff = drive.seriesOhms === 0 && drive.seriesHenries === 0;
  const sources = new Set(network.sources.map((source) => source.node));
  const stiffAt = new Map(network.sources.map((source, index) => [source.node, -2 - index]));
  const loadElement = elements.find((element) => element.kind === 'load')!;
  const behindResistor = loadElement.from === 'load';
  const nodeOf: Record<OutputNode, string> = { terminal: network.output, load: 'load', return: network.return };
  const free = [
    ...network.nodes
      .filter((node) => node.column !== 'ground' && !(isStiff && sources.has(node.id)))
      .map((node) => node.id),
    ...(behindResistor ? ['load'] : []),
  ];
  const joined: [string, string][] = [
    ...network.capacitors.map(({ lower, upper }): [string, string] => [lower, upper]),
    ...network.diodes.map(({ anode, cathode }): [string, string] => [anode, cathode]),
    [network.output, network.return],
    ...elements.map(({ from, to }): [string, string] => [nodeOf[from], nodeOf[to]]),
  ];
  const { names, place } = numbered(free, joined);
  const at = (id: string): NodeIndex => place.get(id) ?? (id === 'ground' ? -1 : stiffAt.get(id)!);
  const peakToPeakVolts = drive.positivePeakVolts + drive.negativePeakVolts;
  const resistors: CircuitResistor[] = [];
  const loads: CircuitLoad[] = [];
  for (const element of elements) {
    const ends = { from: at(nodeOf[element.from]), to: at(nodeOf[element.to]) };
    const ohms = element.kind === 'resistor' ? element.ohms : loadOhms(element.load);
    if (ohms !== null) resistors.push({ ...ends, siemens: 1 / ohms });
    if (element.kind === 'resistor') continue;
    const law = LOAD_KINDS[element.load.kind].branch(element.load, peakToPeakVolts);
    if (law) loads.push({ ...ends, law });
  }
  const resistorOf = (id: 'bleeder' | 'series') =>
    elements.find((element) => element.kind === 'resistor' && element.id === id) as { ohms: number } | undefined;
  const resistiveLoad = loadOhms(loadElement.load);
  return {
    hertz: drive.frequencyHertz,
    names,
    place,
    capacitors: [
      ...network.capacitors.map(({ lower, upper, farads }) => ({ from: at(lower), to: at(upper), farads })),
      ...(parts.strayFarads > 0
        ? network.diodes.map(({ anode, cathode }) => ({
            from: at(anode),
            to: at(cathode),
            farads: parts.strayFarads,
          }))
        : []),
    ],
    resistors,
    diodes: network.diodes.map(({ anode, cathode }) => {
      const near = nearestFarads(network, [anode, cathode]);
      return {
        anode: at(anode),
        cathode: at(cathode),
        forwardVolts: parts.forwardVolts,
        onSiemens: Math.min(1 / parts.onOhms, near * drive.frequencyHertz * STIFFEST),
        leakSiemens: Math.max(parts.leakSiemens, LEAKIEST * near * drive.frequencyHertz),
        transitSeconds: parts.transitSeconds,
        nearFarads: near,
      };
    }),
    windings: isStiff
      ? []
      : network.sources.map(({ node, sign }) => ({
          node: at(node),
          sign,
          ohms: Math.max(drive.seriesOhms, 0),
          henries: drive.seriesHenries,
        })),
    ringing: 'followed',
    stiff: isStiff ? network.sources.map(({ sign }) => sign) : [],
    loads,
    ladderCapacitors: network.capacitors.length,
    ladderDiodes: network.diodes.length,
    output: at(network.output),
    return: at(network.return),
    load: at(nodeOf[loadElement.from]),
    seriesOhms: resistorOf('series')?.ohms ?? 0,
    bleederSiemens: 1 / (resistorOf('bleeder')?.ohms ?? Infinity),
    loadSiemens: resistiveLoad === null ? 0 : 1 / resistiveLoad,
  };
}

/** Whether a winding has leakage inductance, so that the circuit may ring. */
export const hasInductance = ({ windings }: Pick<Circuit, 'windings'>) => windings.some(({ henries }) => henries > 0);

/** Conductance of a diode without on-resistance, in units of f C: its drop changes no output by 1e-4. */
const STIFFEST = 5e4;
/** Leakage of every diode, in units of f C: it makes the state without load unique. */
const LEAKIEST = 1e-7;

function nearestFarads(network: LadderNetwork, ends: string[]): number {
  const near = network.capacitors.filter((part) => ends.includes(part.lower) || ends.includes(part.upper));
  return Math.max(...near.map((part) => part.farads));
}

function numbered(free: string[], joined: readonly [string, string][]): Pick<Circuit, 'names' | 'place'> {
  const index = new Map(free.map((id, at) => [id, at]));
  const neighbours: number[][] = free.map(() => []);
  for (const [one, other] of joined) {
    const a = index.get(one);
    const b = index.get(other);
    if (a === undefined || b === undefined || a === b || neighbours[a].includes(b)) continue;
    neighbours[a].push(b);
    neighbours[b].push(a);
  }
  const names = bandOrder(neighbours).map((at) => free[at]);
  return { names, place: new Map(names.map((id, at) => [id, at])) };
}
