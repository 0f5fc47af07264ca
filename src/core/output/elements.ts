import { loadAmpsAt, type Load } from '../load/load-kinds';

/** What the document says of the elements between the ladder's terminal and the load. */
export type OutputFields = {
  seriesOhms: number;
  bleederOhms: number | null;
  /** A measuring divider; its meter stands across the foot. */
  divider?: { topOhms: number; footOhms: number; meterOhms: number | null } | null;
  /** Of what hangs at the load. */
  electrodeFarads?: number;
};

type DividerOhms = NonNullable<OutputFields['divider']>;

/** A divider's foot with the meter across it, Ω. */
export const meteredFootOhms = ({ footOhms, meterOhms }: DividerOhms): number =>
  1 / (1 / footOhms + (meterOhms === null ? 0 : 1 / meterOhms));

/** What a measuring divider comes to across the terminal, Ω. */
export const dividerOhms = (divider: DividerOhms): number => divider.topOhms + meteredFootOhms(divider);

/** All that stands across the terminal, bleeder and divider, Ω; infinite where nothing does. */
export const acrossOhms = ({ bleederOhms, divider }: OutputFields): number =>
  1 / ((bleederOhms === null ? 0 : 1 / bleederOhms) + (divider ? 1 / dividerOhms(divider) : 0));

/** Where an element of the output ends: at the ladder's terminal, behind the series resistor, at its return. */
export type OutputNode = 'terminal' | 'load' | 'return';

/** One element behind the ladder: closed form and time domain both read these, and nothing else of the output. */
export type OutputElement = { from: OutputNode; to: OutputNode } & (
  | { kind: 'resistor'; id: 'bleeder' | 'divider' | 'series'; ohms: number }
  | { kind: 'capacitor'; id: 'electrode'; farads: number }
  | { kind: 'load'; load: Load }
);

/**
 * The output as elements: a series resistor between terminal and load, a bleeder
 * and a measuring divider across the terminal, what hangs at the load and the
 * load. Where nothing stands before them these are at the terminal itself.
 */
export function outputElements(
  { seriesOhms, bleederOhms, divider, electrodeFarads = 0 }: OutputFields,
  load: Load,
): OutputElement[] {
  const elements: OutputElement[] = [];
  const behind = seriesOhms > 0 && (load.kind !== 'open' || electrodeFarads > 0);
  if (behind) elements.push({ kind: 'resistor', id: 'series', from: 'terminal', to: 'load', ohms: seriesOhms });
  if (bleederOhms !== null)
    elements.push({ kind: 'resistor', id: 'bleeder', from: 'terminal', to: 'return', ohms: bleederOhms });
  if (divider)
    elements.push({ kind: 'resistor', id: 'divider', from: 'terminal', to: 'return', ohms: dividerOhms(divider) });
  const from = behind ? 'load' : 'terminal';
  if (electrodeFarads > 0)
    elements.push({ kind: 'capacitor', id: 'electrode', from, to: 'return', farads: electrodeFarads });
  elements.push({ kind: 'load', load, from, to: 'return' });
  return elements;
}

/** The resistors of an output: in series with the load, Ω, and all that stand across the terminal, S. */
export function resistancesOf(elements: readonly OutputElement[]): { seriesOhms: number; acrossSiemens: number } {
  let [seriesOhms, acrossSiemens] = [0, 0];
  for (const element of elements)
    if (element.kind === 'resistor') {
      if (element.id === 'series') seriesOhms += element.ohms;
      else acrossSiemens += 1 / element.ohms;
    }
  return { seriesOhms, acrossSiemens };
}

/** What the elements take from a terminal that stands at a voltage. */
export type OutputCurrents = {
  loadAmps: number;
  /** Across the terminal, through bleeder and divider. */
  acrossAmps: number;
  /** At the load, behind what is in series with it, V. */
  loadVolts: number;
};

/**
 * Currents of the elements at a mean terminal voltage: what stands across the
 * terminal, and the load behind all that is in series with it. A mean drives
 * nothing through a capacitor.
 *
 * @param terminalVolts magnitude, zero or more
 */
export function currentsAt(elements: readonly OutputElement[], terminalVolts: number): OutputCurrents {
  let seriesOhms = 0;
  let acrossAmps = 0;
  let loadAmps = 0;
  for (const element of elements) {
    if (element.kind === 'load') loadAmps += loadAmpsAt(element.load, terminalVolts, seriesOhms);
    else if (element.kind === 'capacitor') continue;
    else if (element.to === 'load') seriesOhms += element.ohms;
    else acrossAmps += terminalVolts / element.ohms;
  }
  return { loadAmps, acrossAmps, loadVolts: terminalVolts - loadAmps * seriesOhms };
}
