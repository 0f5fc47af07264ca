import { loadAmpsAt, type Load } from '../load/load-kinds';

/** A section that smooths what leaves the ladder: a resistor, a choke with its resistance, or both, and a capacitor behind. */
type SmoothingSection = { ohms: number; henries: number; farads: number };

/** What the document says of the elements between the ladder's terminal and the load. */
export type OutputFields = {
  seriesOhms: number;
  bleederOhms: number | null;
  /** A measuring divider; its meter stands across the foot. */
  divider?: { topOhms: number; footOhms: number; meterOhms: number | null } | null;
  /** Sections from the terminal on, the divider and the series resistor behind the last. */
  smoothing?: readonly SmoothingSection[];
  /** Of what hangs at the load. */
  electrodeFarads?: number;
};

type DividerOhms = NonNullable<OutputFields['divider']>;

/** A divider's foot with the meter across it, Ω. */
export const meteredFootOhms = ({ footOhms, meterOhms }: DividerOhms): number =>
  1 / (1 / footOhms + (meterOhms === null ? 0 : 1 / meterOhms));

/** What a measuring divider comes to across the output, Ω. */
export const dividerOhms = (divider: DividerOhms): number => divider.topOhms + meteredFootOhms(divider);

/** Of all smoothing sections in series, which a mean sees of them, Ω. */
export const smoothingOhms = ({ smoothing = [] }: Pick<OutputFields, 'smoothing'>): number =>
  smoothing.reduce((sum, { ohms }) => sum + ohms, 0);

/** All that stands across the terminal for a mean, bleeder and divider, Ω; infinite where nothing does. */
export const acrossOhms = (output: OutputFields): number =>
  1 /
  ((output.bleederOhms === null ? 0 : 1 / output.bleederOhms) +
    (output.divider ? 1 / (smoothingOhms(output) + dividerOhms(output.divider)) : 0));

/** Behind the smoothing section of a number, from one. */
type SmoothedNode = `smoothed ${number}`;
/** Where an element of the output ends: at the ladder's terminal, behind a smoothing section or the series resistor, at its return. */
export type OutputNode = 'terminal' | SmoothedNode | 'load' | 'return';

/** Behind the smoothing section of this number, as the circuit names it. */
export const smoothedNode = (section: number): SmoothedNode => `smoothed ${section}`;

/** One element behind the ladder: closed form and time domain both read these, and nothing else of the output. */
export type OutputElement = { from: OutputNode; to: OutputNode } & (
  | { kind: 'resistor'; id: 'bleeder' | 'divider' | 'series' | 'smoothing'; ohms: number }
  | { kind: 'choke'; id: 'smoothing'; ohms: number; henries: number }
  | { kind: 'capacitor'; id: 'electrode' | 'smoothing'; farads: number }
  | { kind: 'load'; load: Load }
);

/**
 * The output as elements: smoothing sections from the terminal on, a series
 * resistor between the last of them and the load, a bleeder across the terminal,
 * a measuring divider behind the smoothing, what hangs at the load and the load.
 * Where nothing stands before them these are at the terminal itself.
 */
export function outputElements(output: OutputFields, load: Load): OutputElement[] {
  const { seriesOhms, bleederOhms, divider, smoothing = [], electrodeFarads = 0 } = output;
  const elements: OutputElement[] = [];
  let smoothed: OutputNode = 'terminal';
  for (const [at, { ohms, henries, farads }] of smoothing.entries()) {
    const ends: { from: OutputNode; to: SmoothedNode } = { from: smoothed, to: smoothedNode(at + 1) };
    elements.push(
      henries > 0
        ? { kind: 'choke', id: 'smoothing', ...ends, ohms, henries }
        : { kind: 'resistor', id: 'smoothing', ...ends, ohms },
      { kind: 'capacitor', id: 'smoothing', from: ends.to, to: 'return', farads },
    );
    smoothed = ends.to;
  }
  const behind = seriesOhms > 0 && (load.kind !== 'open' || electrodeFarads > 0);
  if (behind) elements.push({ kind: 'resistor', id: 'series', from: smoothed, to: 'load', ohms: seriesOhms });
  if (bleederOhms !== null)
    elements.push({ kind: 'resistor', id: 'bleeder', from: 'terminal', to: 'return', ohms: bleederOhms });
  if (divider)
    elements.push({ kind: 'resistor', id: 'divider', from: smoothed, to: 'return', ohms: dividerOhms(divider) });
  const from = behind ? 'load' : smoothed;
  if (electrodeFarads > 0)
    elements.push({ kind: 'capacitor', id: 'electrode', from, to: 'return', farads: electrodeFarads });
  elements.push({ kind: 'load', load, from, to: 'return' });
  return elements;
}

/** What a capacitor behind the ladder is called, and where it stands. */
export type OutputCapacitor = {
  name: string;
  node: Exclude<OutputNode, 'return'>;
  farads: number;
  /** On the way from the terminal to it, Ω. */
  ohms: number;
};

/** What hangs on the output, by the name it goes by. */
const ELECTRODE = 'what hangs on the output';

/** Every capacitance behind the ladder, from the terminal on. */
export function outputCapacitors(output: OutputFields): OutputCapacitor[] {
  const { smoothing = [], seriesOhms, electrodeFarads = 0 } = output;
  const found: OutputCapacitor[] = [];
  let ohms = 0;
  for (const [at, section] of smoothing.entries()) {
    ohms += section.ohms;
    const name = smoothing.length > 1 ? `smoothing capacitor ${at + 1}` : 'the smoothing capacitor';
    found.push({ name, node: smoothedNode(at + 1), farads: section.farads, ohms });
  }
  const node = seriesOhms > 0 ? 'load' : (found.at(-1)?.node ?? 'terminal');
  if (electrodeFarads > 0) found.push({ name: ELECTRODE, node, farads: electrodeFarads, ohms: ohms + seriesOhms });
  return found;
}

/** Of all that with no resistor between it and what touches the output, F. */
export const frontFarads = (output: OutputFields): number => {
  const capacitors = outputCapacitors(output);
  const last = output.seriesOhms > 0 ? 'load' : capacitors.at(-1)?.node;
  return capacitors.reduce((sum, { node, farads }) => sum + (node === last ? farads : 0), 0);
};

/** On the way from the terminal to the load in all, Ω. */
export const limitingOhms = (output: OutputFields): number => smoothingOhms(output) + output.seriesOhms;

/** Whether a node of a circuit is that behind a smoothing section. */
export const isSmoothedNode = (name: string): boolean => name.startsWith('smoothed ');

/** Whether a node of a circuit belongs to the output behind the ladder's terminal. */
export const isOutputNode = (name: string): boolean => name === 'load' || isSmoothedNode(name);

/** Whether an element lies on the way from the terminal to the load, and does not go across to the return. */
export const isOnTheWay = ({ to }: OutputElement): boolean => to !== 'return';

/** The resistors of an output as a mean sees them: to behind the smoothing, on to the load, Ω, and across either end of the smoothing, S. */
export function resistancesOf(elements: readonly OutputElement[]) {
  const sums = { smoothingOhms: 0, seriesOhms: 0, bleederSiemens: 0, dividerSiemens: 0 };
  for (const element of elements) {
    if (element.kind === 'load' || element.kind === 'capacitor') continue;
    if (element.id === 'series') sums.seriesOhms += element.ohms;
    else if (element.id === 'smoothing') sums.smoothingOhms += element.ohms;
    else if (element.id === 'bleeder') sums.bleederSiemens += 1 / element.ohms;
    else sums.dividerSiemens += 1 / element.ohms;
  }
  return sums;
}

/** What the elements take from a terminal that stands at a voltage. */
export type OutputCurrents = {
  loadAmps: number;
  bleederAmps: number;
  dividerAmps: number;
  /** Behind the smoothing, at the divider, and at the load behind what is in series with it, V. */
  smoothedVolts: number;
  loadVolts: number;
};

/**
 * Currents of the elements at a mean terminal voltage: what stands across the
 * output, and the load behind all that is in series with it. A mean drives
 * nothing through a capacitor.
 *
 * @param terminalVolts magnitude, zero or more
 */
export function currentsAt(elements: readonly OutputElement[], terminalVolts: number): OutputCurrents {
  const { smoothingOhms: ohms, seriesOhms, bleederSiemens, dividerSiemens } = resistancesOf(elements);
  const element = elements.find((one) => one.kind === 'load')!;
  // Terminal, smoothing and divider as the load sees them: a voltage behind a resistance (Thévenin).
  const share = 1 / (1 + ohms * dividerSiemens);
  const loadAmps = loadAmpsAt(element.load, terminalVolts * share, ohms * share + seriesOhms);
  const smoothedVolts = (terminalVolts - loadAmps * ohms) * share;
  return {
    loadAmps,
    bleederAmps: terminalVolts * bleederSiemens,
    dividerAmps: smoothedVolts * dividerSiemens,
    smoothedVolts,
    loadVolts: smoothedVolts - loadAmps * seriesOhms,
  };
}

/**
 * The same where this much leaves the ladder, whatever the load is: what is left
 * for it.
 *
 * @param ladderAmps mean out of the terminal, A
 */
export function currentsOf(output: OutputFields, terminalVolts: number, ladderAmps: number): OutputCurrents {
  const bleederAmps = output.bleederOhms === null ? 0 : terminalVolts / output.bleederOhms;
  const smoothedVolts = terminalVolts - (ladderAmps - bleederAmps) * smoothingOhms(output);
  const dividerAmps = output.divider ? smoothedVolts / dividerOhms(output.divider) : 0;
  const loadAmps = ladderAmps - bleederAmps - dividerAmps;
  return { loadAmps, bleederAmps, dividerAmps, smoothedVolts, loadVolts: smoothedVolts - loadAmps * output.seriesOhms };
}

/** Means of what stands across the output, bleeder and divider together, A. */
export const acrossAmpsOf = ({ bleederAmps, dividerAmps }: OutputCurrents): number => bleederAmps + dividerAmps;

/**
 * What leaves the ladder where the load is to get this much, A; see {@link currentsOf}.
 *
 * @param terminalVolts mean at the ladder's terminal, V
 */
export function ladderAmpsFor(output: OutputFields, terminalVolts: number, loadAmps: number): number {
  const bleederAmps = output.bleederOhms === null ? 0 : terminalVolts / output.bleederOhms;
  const ohms = smoothingOhms(output);
  const dividerAmps = output.divider ? (terminalVolts - loadAmps * ohms) / (dividerOhms(output.divider) + ohms) : 0;
  return loadAmps + bleederAmps + dividerAmps;
}
