import type { Load } from '../design/design-schema';
import type { Drive } from '../drive/drive';
import type { LadderNetwork } from '../topology/network';
import { bandOrder } from '../numeric/ordering';

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

/**
 * What a load draws from `from` to `to` at a voltage between them: never
 * falling with voltage, so that every step has one answer. A steady current
 * cannot be drawn out of nothing: under `softVolts` it falls in proportion.
 */
export type CircuitLoad = { from: NodeIndex; to: NodeIndex } & (
  | { kind: 'current'; amps: number; softVolts: number }
  | { kind: 'corona'; onsetVolts: number; ampsPerSquareVolt: number }
  | { kind: 'gap'; strikeVolts: number; arcSiemens: number; quenchAmps: number }
);

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
  output: { seriesOhms: number; bleederOhms: number | null },
  load: Load,
): Circuit {
  const isStiff = drive.seriesOhms === 0 && drive.seriesHenries === 0;
  const sources = new Set(network.sources.map((source) => source.node));
  const stiffAt = new Map(network.sources.map((source, index) => [source.node, -2 - index]));
  const behindResistor = output.seriesOhms > 0 && load.kind !== 'open';
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
    ...(behindResistor
      ? ([
          ['load', network.output],
          ['load', network.return],
        ] as [string, string][])
      : []),
  ];
  const { names, place } = numbered(free, joined);
  const at = (id: string): NodeIndex => place.get(id) ?? (id === 'ground' ? -1 : stiffAt.get(id)!);
  const resistors: CircuitResistor[] = [];
  const resist = (from: string, to: string, ohms: number) =>
    resistors.push({ from: at(from), to: at(to), siemens: 1 / ohms });
  if (behindResistor) resist(network.output, 'load', output.seriesOhms);
  if (output.bleederOhms !== null) resist(network.output, network.return, output.bleederOhms);
  const loadNode = behindResistor ? 'load' : network.output;
  const loads: CircuitLoad[] = [];
  const across = { from: at(loadNode), to: at(network.return) };
  const peakVolts = drive.positivePeakVolts + drive.negativePeakVolts;
  if (load.kind === 'resistance' || load.kind === 'meter') resist(loadNode, network.return, load.ohms);
  if (load.kind === 'current')
    loads.push({ ...across, kind: 'current', amps: load.amps, softVolts: CURRENT_SOFTNESS * peakVolts });
  if (load.kind === 'corona')
    loads.push({
      ...across,
      kind: 'corona',
      onsetVolts: load.onsetVolts,
      ampsPerSquareVolt: load.ampsPerSquareVolt,
    });
  if (load.kind === 'gap')
    loads.push({
      ...across,
      kind: 'gap',
      strikeVolts: load.strikeVolts,
      arcSiemens: 1 / load.arcOhms,
      quenchAmps: load.quenchAmps,
    });
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
    load: at(loadNode),
    seriesOhms: behindResistor ? output.seriesOhms : 0,
    bleederSiemens: output.bleederOhms === null ? 0 : 1 / output.bleederOhms,
    loadSiemens: load.kind === 'resistance' || load.kind === 'meter' ? 1 / load.ohms : 0,
  };
}

/** Whether a winding has leakage inductance, so that the circuit may ring. */
export const hasInductance = ({ windings }: Pick<Circuit, 'windings'>) => windings.some(({ henries }) => henries > 0);

/** Conductance of a diode without on-resistance, in units of f C: its drop changes no output by 1e-4. */
const STIFFEST = 5e4;
/** Leakage of every diode, in units of f C: it makes the state without load unique. */
const LEAKIEST = 1e-7;
/** Part of the drive's peak-to-peak voltage under which a steady current gives way. */
const CURRENT_SOFTNESS = 1e-3;

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
