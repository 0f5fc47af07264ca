import type { Design } from '../design/design-schema';
import { DRIVER_KINDS } from '../drive/driver-kinds';
import { SUPPLY_FIELDS, SUPPLY_NAMES, type SupplyKind } from '../drive/supply';
import { LOAD_KINDS } from '../load/load-kinds';
import { isMirrored, ladderInputs } from '../operating/ladder-inputs';
import { isOnTheWay, outputElements, type OutputElement, type OutputNode } from '../output/elements';
import type { FieldDescription } from '../quantity/field-description';
import { formatQuantity } from '../quantity/format-quantity';
import { eachFarads, sharedCoupling, type LadderNetwork, type LadderNode } from '../topology/network';
import { groundOf, type GroundKind } from './ground';
import { nodeName } from './node-name';

/** In the picture's own units, rightwards and downwards. */
export type Place = readonly [number, number];

/** A part between two places, as a symbol with its name and value. */
export type WiredPart = {
  id: string;
  /** A diode conducts from the first place to the second. */
  kind: 'capacitor' | 'diode' | 'resistor' | 'choke' | 'load' | 'switch' | 'fuse';
  /** Whether name and value stand under it rather than above. */
  isNamedUnder: boolean;
  from: Place;
  to: Place;
  name: string;
  value: string;
};
/** Drawn above the words of a box. */
export type BoxSymbol = 'battery' | 'direct' | 'alternating' | 'rectified' | 'transformer';
/** Something that stands as a box, with what is known of it: supply, driver, transformer. */
export type WiredBox = {
  id: string;
  at: Place;
  wide: number;
  high: number;
  symbol: BoxSymbol | null;
  name: string;
  lines: readonly string[];
};

/** A whole supply as a diagram, from the wall or battery to the load. */
export type Wiring = {
  parts: WiredPart[];
  boxes: WiredBox[];
  wires: (readonly [Place, Place])[];
  /** Named beside it: to the left of a foot, under the smoothing column, else above. */
  dots: { at: Place; name: string; beside: 'left' | 'under' | 'above' }[];
  /** Where the common conductor stands, whether that is earth, and what is to be said of it where it is not. */
  grounds: Place[];
  isEarthed: boolean;
  notes: readonly string[];
  /** Where a wire ends that goes on at another node. */
  ends: { at: Place; text: string }[];
  low: Place;
  high: Place;
};

/** From stage to stage and column to column. */
const STEP = 34;
const ROW = 46;
/** A box by its longest line and their number, and from one to the next, with what interrupts the supply between them or without. */
const BOX = { least: 46, letter: 2.2, line: 5.46, rim: 9 };
/** Height that a symbol takes in its box. */
export const SYMBOL_HIGH = 11;
const SUPPLY_SYMBOLS: Record<SupplyKind, BoxSymbol> = {
  battery: 'battery',
  dc: 'direct',
  'smoothed-mains': 'rectified',
  mains: 'alternating',
};
const BOX_GAP = { plain: 18, interrupted: 62 };
/** What of a supply or driver is written into its box. */
const MOST_LINES = 5;
/** From what stands across the output to the next of it. */
const ACROSS_STEP = 20;
/** How far above the ladder the boxes stand. */
const ABOVE = 50;
/** What stands under a diagram whose common conductor is not earth. */
const NOTES: Record<GroundKind, readonly string[]> = {
  secondary: [],
  floating: [],
  line: ['Triangles are one conductor of the line:', 'joined to neither earth nor enclosure.'],
  source: ['Triangles are the low end of the source:', 'not earth unless that is measured.'],
};
/** Room that a line of words takes. */
const NOTE = { letter: 2.2, line: 6 };
/** From the ladder's ground to its symbol. */
const FOOT = 22;

/**
 * The wiring of a design: supply, driver and transformer in a row, the ladder below in its columns, what is behind its terminal
 * to the right. Diodes stand as they really do.
 *
 * @returns null for what does not rectify
 */
export function wiringOf(design: Design): Wiring | null {
  const { marked: network } = ladderInputs(design);
  if (network.diodes.length === 0) return null;
  const at = new Map(network.nodes.map((node) => [node.id, placeOf(node, network)]));
  const ground = groundOf(design);
  const isBothWays = [...at.values()].some(([x]) => x < 0);
  const wiring: Wiring = {
    parts: [],
    boxes: [],
    wires: [],
    dots: network.nodes.map(({ id, column }) => ({
      at: at.get(id)!,
      name: id === 'ground' ? '' : nodeName(id),
      // On a ladder that goes both ways a wire comes from the left.
      beside: column === 'source' && !isBothWays ? 'left' : column === 'smoothing' ? 'under' : 'above',
    })),
    grounds: ground === 'floating' ? [] : [down(at.get('ground')!, FOOT)],
    isEarthed: ground === 'secondary',
    notes: NOTES[ground],
    ends: ground === 'floating' ? [{ at: down(at.get('ground')!, FOOT), text: 'from C1’s other half' }] : [],
    low: [0, 0],
    high: [0, 0],
  };
  wiring.wires.push([at.get('ground')!, down(at.get('ground')!, FOOT)]);
  wireLadder(design, network, at, wiring);
  wireChain(design, network, at, wiring);
  wireOutput(design, network, at, wiring);
  return { ...wiring, ...boundsOf(wiring) };
}

const down = ([x, y]: Place, by: number): Place => [x, y + by];
const right = ([x, y]: Place, by: number): Place => [x + by, y];

function placeOf({ id, column, stage, side }: LadderNode, network: LadderNetwork): Place {
  if (id === 'source' && sharedCoupling(network)) return [STEP, -ROW];
  const x = side * stage * STEP;
  if (column === 'ground') return [0, ROW];
  const source = network.sources.find(({ node }) => node === id);
  const isOther = column === 'antiphase' || source?.sign === -1;
  return [x, column === 'smoothing' ? ROW : isOther ? 2 * ROW : 0];
}

function wireLadder(design: Design, network: LadderNetwork, at: ReadonlyMap<string, Place>, { parts }: Wiring): void {
  const { capacitor, diode } = design.ladder;
  const isTurned = isMirrored(design, network);
  for (const part of network.capacitors)
    parts.push({
      id: part.id,
      kind: 'capacitor',
      isNamedUnder: part.column === 'smoothing',
      from: at.get(part.lower)!,
      to: at.get(part.upper)!,
      name: part.atBothEnds ? `${part.id}, one at each end` : part.id,
      value: `${formatQuantity(eachFarads(part), 'F')}${capacitor.series * capacitor.parallel > 1 ? `, of ${capacitor.series * capacitor.parallel}` : ''}`,
    });
  for (const { id, anode, cathode } of network.diodes) {
    const [from, to] = [at.get(anode)!, at.get(cathode)!];
    parts.push({
      id,
      kind: 'diode',
      isNamedUnder: false,
      from: isTurned ? to : from,
      to: isTurned ? from : to,
      name: id,
      value: diode.series > 1 ? `${diode.series} in series` : '',
    });
  }
}

/** Values of a section of the document as lines, in the order of its form; what is nothing or not known is left out. */
function linesOf(section: object, fields: readonly FieldDescription[]): string[] {
  const values = section as Readonly<Record<string, unknown>>;
  return fields
    .flatMap((field) => {
      const value = values[field.name];
      if (field.as !== 'quantity' || field.more || typeof value !== 'number' || value === 0) return [];
      return [`${field.label} ${formatQuantity(value, field.unit)}`];
    })
    .slice(0, MOST_LINES);
}

/** Supply, driver and transformer of a design, first to last. */
function boxesOf({ supply, driver, transformer }: Design): Omit<WiredBox, 'at'>[] {
  const box = (id: string, name: string, lines: readonly string[], symbol: BoxSymbol | null = null) => ({
    id,
    symbol,
    name,
    lines,
    wide: Math.max(BOX.least, BOX.rim + BOX.letter * Math.max(...[name, ...lines].map(({ length }) => length))),
    high: BOX.rim + BOX.line * (1 + lines.length) + (symbol ? SYMBOL_HIGH : 0),
  });
  const driverLines =
    driver.kind === 'measured'
      ? [`${formatQuantity(driver.positivePeakVolts, 'V')} peak`, formatQuantity(driver.frequencyHertz, 'Hz')]
      : linesOf(driver, DRIVER_KINDS[driver.kind].fields);
  return [
    ...(supply
      ? [
          box(
            'supply',
            SUPPLY_NAMES[supply.kind],
            linesOf(supply, SUPPLY_FIELDS[supply.kind]),
            SUPPLY_SYMBOLS[supply.kind],
          ),
        ]
      : []),
    box('driver', DRIVER_KINDS[driver.kind].name, driverLines),
    ...(transformer
      ? [
          box(
            'transformer',
            'Transformer',
            [`${transformer.primaryTurns} to ${transformer.secondaryTurns} turns`],
            'transformer',
          ),
        ]
      : []),
  ];
}

/** Switch and fuse on the way between two places. */
function interrupters(from: Place, to: Place, isLine: boolean): WiredPart[] {
  const middle: Place = [(from[0] + to[0]) / 2, from[1]];
  const common = { isNamedUnder: false } as const;
  return [
    {
      ...common,
      id: 'switch',
      kind: 'switch',
      from,
      to: middle,
      name: 'Switch',
      value: isLine ? 'cuts both lines' : '',
    },
    { ...common, id: 'fuse', kind: 'fuse', from: middle, to, name: 'Fuse', value: isLine ? 'in the live line' : '' },
  ];
}

/** Supply, driver and transformer, the last one over the ladder's input, and what interrupts the supply. */
function wireChain(
  design: Design,
  network: LadderNetwork,
  at: ReadonlyMap<string, Place>,
  { parts, boxes, wires, grounds, ends, dots }: Wiring,
): void {
  const { supply } = design;
  const [sourceX, sourceY] = at.get('source')!;
  const chain = boxesOf(design);
  const last = chain.at(-1)!;
  const tallest = Math.max(...chain.map(({ high }) => high));
  const y = sourceY - ABOVE - tallest / 2;
  // A supply that rectifies the line is switched before it, every other behind it.
  const isBefore = supply?.kind === 'smoothed-mains';
  const isLine = isBefore || supply?.kind === 'mains';
  let left = sourceX + last.wide / 2;
  for (const [index, box] of [...chain.entries()].toReversed()) {
    const gap = index === 0 && supply && !isBefore ? BOX_GAP.interrupted : BOX_GAP.plain;
    const isLast = index === chain.length - 1;
    const x = isLast ? sourceX : left - gap - box.wide / 2;
    boxes.unshift({ ...box, at: [x, y] });
    const [from, to]: [Place, Place] = [
      [x + box.wide / 2, y],
      [left, y],
    ];
    if (!isLast && gap === BOX_GAP.interrupted) parts.push(...interrupters(from, to, isLine));
    else if (!isLast) wires.push([from, to]);
    left = x - box.wide / 2;
  }
  if (isBefore) {
    const line: Place = [left - BOX_GAP.interrupted, y];
    dots.push({ at: line, name: 'line', beside: 'left' });
    parts.push(...interrupters(line, [left, y], isLine));
  }
  const under = y + last.high / 2;
  wires.push([
    [sourceX, under],
    [sourceX, sourceY],
  ]);
  if (network.sources.length > 1) {
    const end: Place = [sourceX + last.wide / 2 + 8, y];
    wires.push([[sourceX + last.wide / 2, y], end]);
    ends.push({ at: end, text: `to “${nodeName('antisource')}”` });
  }
  const foot: Place = [sourceX - last.wide / 4, under];
  wires.push([foot, down(foot, 10)]);
  if (groundOf(design) === 'floating') ends.push({ at: down(foot, 10), text: 'to C1’s other half' });
  else grounds.push(down(foot, 10));
}

/** What is behind the terminal: on the way to the right, across it downwards. */
function wireOutput(
  { output, load }: Design,
  network: LadderNetwork,
  at: ReadonlyMap<string, Place>,
  { parts, wires, grounds, ends, dots }: Wiring,
): void {
  const elements = outputElements(output, load);
  const start = at.get(network.output)!;
  // Clear of the ladder's last column.
  const lowest = Math.max(...[...at.values()].map(([, y]) => y));
  const terminal: Place = [start[0] + STEP, start[1]];
  wires.push([start, terminal]);
  /** How far to the right a node's own wire has got. */
  const reached = new Map<OutputNode, Place>([['terminal', terminal]]);
  const across = elements.filter((element) => !isOnTheWay(element));
  const drop = (element: OutputElement, index: number) => {
    const from = reached.get(element.from)!;
    const foot: Place = [from[0], lowest + ROW];
    const { name, value } = wordsOf(element);
    parts.push({
      id: `${element.kind} ${index}`,
      kind: element.kind,
      isNamedUnder: false,
      from,
      to: foot,
      name,
      value,
    });
    if (network.return === 'ground') grounds.push(foot);
    else ends.push({ at: foot, text: `to ${network.return}` });
  };
  const alongside = (node: OutputNode) => {
    for (const [index, element] of across.filter(({ from }) => from === node).entries()) {
      if (index > 0) {
        const before = reached.get(node)!;
        const next = right(before, ACROSS_STEP + STEP / 2);
        wires.push([before, next]);
        reached.set(node, next);
      }
      if (element.kind === 'load' && element.load.kind === 'open') {
        ends.push({ at: reached.get(node)!, text: 'open' });
        continue;
      }
      drop(element, across.indexOf(element));
    }
  };
  alongside('terminal');
  for (const [index, element] of elements.filter(isOnTheWay).entries()) {
    const from = reached.get(element.from)!;
    const to = right(from, STEP + ACROSS_STEP);
    const { name, value } = wordsOf(element);
    parts.push({ id: `way ${index}`, kind: element.kind, isNamedUnder: false, from, to, name, value });
    reached.set(element.to, to);
    dots.push({ at: to, name: '', beside: 'above' });
    alongside(element.to);
  }
}

function wordsOf(element: OutputElement): { name: string; value: string } {
  switch (element.kind) {
    case 'load': {
      const { name } = LOAD_KINDS[element.load.kind];
      return { name: 'Load', value: name };
    }
    case 'capacitor':
      return { name: element.id === 'electrode' ? 'Far end' : 'Smoothing', value: formatQuantity(element.farads, 'F') };
    case 'choke':
      return { name: 'Choke', value: formatQuantity(element.henries, 'H') };
    case 'resistor':
      return { name: RESISTORS[element.id], value: formatQuantity(element.ohms, 'Ω') };
  }
}
const RESISTORS = { bleeder: 'Bleeder', divider: 'Divider', series: 'Series', smoothing: 'Smoothing' } as const;

function boundsOf({ parts, boxes, wires, dots, grounds, ends, notes }: Wiring): { low: Place; high: Place } {
  const points: Place[] = [
    ...parts.flatMap(({ from, to }) => [from, to]),
    ...wires.flat(),
    ...grounds,
    // With what is written beside it.
    ...parts.filter(({ from, to }) => from[0] === to[0]).map(({ to }) => right(to, 34)),
    ...ends.map((end) => right(end.at, 34)),
    ...dots.filter(({ beside }) => beside === 'left').map((dot) => right(dot.at, -30)),
    ...boxes.flatMap(({ at: [x, y], wide, high }): Place[] => [
      [x - wide / 2, y - high / 2],
      [x + wide / 2, y + high / 2],
    ]),
  ];
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  const low: Place = [Math.min(...xs), Math.min(...ys)];
  const written = low[0] + NOTE.letter * Math.max(0, ...notes.map(({ length }) => length));
  return { low, high: [Math.max(written, ...xs), Math.max(...ys) + NOTE.line * notes.length] };
}
