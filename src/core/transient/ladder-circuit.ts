import type { Drive } from '../drive/drive';
import type { SupplyCircuit } from '../drive/supply-circuit';
import { LOAD_KINDS, loadOhms } from '../load/load-kinds';
import { bandOrder } from '../numeric/ordering';
import { isOnTheWay, type OutputElement, type OutputNode } from '../output/elements';
import { LEAST_OHMS } from '../drive/supply-circuit';
import type { LoadBranch } from '../load/load-kind';
import type { JunctionStep } from '../parts/junction';
import { isAlternating, type LadderNetwork } from '../topology/network';
import type { Circuit, CircuitCapacitor, CircuitInductor, CircuitLoad, CircuitResistor, NodeIndex } from './circuit';
import { joinedBy, nodesOf, RAIL, RAIL_NODE, suppliedBy } from './circuit-supply';

/** What the parts of a ladder are like beyond its network. */
export type CircuitParts = {
  forwardVolts: number;
  strayFarads: number;
  /** What junctions hold more below a reverse voltage: see {@link junctionByVoltage}. */
  junctionSteps: readonly JunctionStep[];
  onOhms: number;
  /** Of each diode, S; null lets none through, not even what makes a state without load unique. */
  leakSiemens: number | null;
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
  supply: SupplyCircuit | null = null,
): Circuit {
  const alternating = isAlternating(network);
  // A winding straight onto its load leaves no other node to be found.
  const feeds = supply ? null : feedsThrough(network, drive);
  const isStiff = !supply && drive.seriesOhms === 0 && drive.seriesHenries === 0 && !alternating && !feeds;
  const sources = new Set(network.sources.map((source) => source.node));
  const stiffAt = new Map(network.sources.map((source, index) => [source.node, -2 - index]));
  const loadElement = elements.find((element) => element.kind === 'load')!;
  const nodeOf = (node: OutputNode): string =>
    node === 'terminal' ? network.output : node === 'return' ? network.return : node;
  const free = [
    ...network.nodes
      .filter((node) => node.column !== 'ground' && !(isStiff && sources.has(node.id)))
      .map((node) => node.id),
    ...elements.filter(isOnTheWay).map(({ to }) => to),
    ...(feeds ? feeds.map(({ id }) => id) : []),
    ...(supply ? nodesOf(supply).filter((id) => !network.nodes.some((node) => node.id === id)) : []),
  ];
  const joined: [string, string][] = [
    ...network.capacitors.map(({ lower, upper }): [string, string] => [lower, upper]),
    ...network.diodes.map(({ anode, cathode }): [string, string] => [anode, cathode]),
    [network.output, network.return],
    ...elements.map(({ from, to }): [string, string] => [nodeOf(from), nodeOf(to)]),
    ...(feeds ?? []).map(({ id, node }): [string, string] => [id, node]),
    ...(supply ? joinedBy(supply) : []),
  ];
  const { names, place } = numbered(free, joined);
  const at = (id: string): NodeIndex =>
    place.get(id) ?? (id === 'ground' ? -1 : id === RAIL ? RAIL_NODE : stiffAt.get(id)!);
  const peakToPeakVolts = drive.positivePeakVolts + drive.negativePeakVolts;
  const resistors: CircuitResistor[] = (feeds ?? []).map(({ id, node, farads }) => ({
    from: at(id),
    to: at(node),
    siemens: FEED_LEAK * 2 * Math.PI * drive.frequencyHertz * farads,
  }));
  const loads: CircuitLoad[] = [];
  const hanging: CircuitCapacitor[] = [];
  const onTheWay: CircuitResistor[] = [];
  const across: CircuitResistor[] = [];
  const chokes: CircuitInductor[] = [];
  for (const element of elements) {
    const ends = { from: at(nodeOf(element.from)), to: at(nodeOf(element.to)) };
    if (element.kind === 'capacitor') hanging.push({ ...ends, farads: element.farads });
    if (element.kind === 'choke') chokes.push(chokeBetween(ends, element));
    if (element.kind === 'resistor') {
      const resistor = { ...ends, siemens: 1 / element.ohms };
      resistors.push(resistor);
      (isOnTheWay(element) ? onTheWay : across).push(resistor);
    }
    if (element.kind !== 'load') continue;
    const ohms = loadOhms(element.load);
    if (ohms !== null) resistors.push({ ...ends, siemens: 1 / ohms });
    const law = LOAD_KINDS[element.load.kind].branch(element.load, peakToPeakVolts);
    if (law) loads.push({ ...ends, law: alternating ? bothWays(law) : law });
  }
  const resistiveLoad = loadOhms(loadElement.load);
  const circuit: Circuit = {
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
      ...(feeds ?? []).map(({ id, node, farads }) => ({ from: at(id), to: at(node), farads })),
      ...hanging,
    ],
    resistors,
    diodes: network.diodes.map(({ anode, cathode }) => {
      const near = nearestFarads(network, [anode, cathode]);
      return {
        anode: at(anode),
        cathode: at(cathode),
        forwardVolts: parts.forwardVolts,
        onSiemens: Math.min(1 / parts.onOhms, near * drive.frequencyHertz * STIFFEST),
        leakSiemens:
          parts.leakSiemens === null ? 0 : Math.max(parts.leakSiemens, LEAKIEST * near * drive.frequencyHertz),
        transitSeconds: parts.transitSeconds,
        nearFarads: near,
      };
    }),
    junctions: network.diodes.flatMap(({ anode, cathode }) =>
      parts.junctionSteps.map((step) => ({ anode: at(anode), cathode: at(cathode), ...step })),
    ),
    inductors: [
      ...(isStiff ? [] : network.sources).map(({ node }, index) => ({
        terms: [
          { node: -2 - index, weight: 1 },
          { node: at(feeds ? feeds[index].id : node), weight: -1 },
        ],
        ohms: Math.max(drive.seriesOhms, alternating || feeds ? LEAST_OHMS : 0),
        henries: drive.seriesHenries,
        dampingSiemens: 0,
        saturation: null,
      })),
      ...chokes,
    ],
    switches: [],
    ringing: 'followed',
    known: network.sources.map(({ sign }) => ({ drive: sign, volts: 0 })),
    sources: { stiff: isStiff, count: network.sources.length },
    supply: null,
    loads,
    ladderCapacitors: network.capacitors.length,
    ladderDiodes: network.diodes.length,
    output: at(network.output),
    return: at(network.return),
    load: at(nodeOf(loadElement.from)),
    onTheWay,
    across,
    chokes: chokes.length,
    loadSiemens: resistiveLoad === null ? 0 : 1 / resistiveLoad,
  };
  return supply ? suppliedBy(circuit, supply, at, network.sources.length) : circuit;
}

/** A choke on the way to the load. */
function chokeBetween(
  { from, to }: { from: NodeIndex; to: NodeIndex },
  { ohms, henries }: { ohms: number; henries: number },
): CircuitInductor {
  const terms = [
    { node: from, weight: 1 },
    { node: to, weight: -1 },
  ];
  return { terms, ohms, henries, dampingSiemens: 0, saturation: null };
}

/** Capacitors in series with the windings, each from a node of its own to the ladder's; null without. */
function feedsThrough(network: LadderNetwork, { seriesFarads }: Drive) {
  if (seriesFarads === null) return null;
  return network.sources.map(({ node }, index) => ({ id: `feed ${index + 1}`, node, farads: seriesFarads }));
}

/** Part of its susceptance that leaks past such a capacitor: what it holds besides is settled by nothing else. */
const FEED_LEAK = 1e-5;

/** A load that draws alike whichever way its voltage stands. */
function bothWays({ amps, slope, pieceOf, gap }: LoadBranch): LoadBranch {
  return {
    amps: (volts, arc) => Math.sign(volts) * amps(Math.abs(volts), arc),
    slope: (volts, arc) => slope(Math.abs(volts), arc),
    pieceOf: pieceOf && ((volts) => Math.sign(volts) * pieceOf(Math.abs(volts))),
    gap,
  };
}

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
