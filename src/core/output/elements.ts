import { loadAmpsAt, type Load } from '../load/load-kinds';

/** What the document says of the elements between the ladder's terminal and the load. */
export type OutputFields = { seriesOhms: number; bleederOhms: number | null };

/** Where an element of the output ends: at the ladder's terminal, behind the series resistor, at its return. */
export type OutputNode = 'terminal' | 'load' | 'return';

/** One element behind the ladder: closed form and time domain both read these, and nothing else of the output. */
export type OutputElement = { from: OutputNode; to: OutputNode } & (
  { kind: 'resistor'; id: 'bleeder' | 'series'; ohms: number } | { kind: 'load'; load: Load }
);

/**
 * The output as elements: a series resistor between terminal and load, a bleeder
 * across the terminal, the load. Where nothing
 * stands before it the load is at the terminal itself.
 */
export function outputElements({ seriesOhms, bleederOhms }: OutputFields, load: Load): OutputElement[] {
  const elements: OutputElement[] = [];
  const behind = seriesOhms > 0 && load.kind !== 'open';
  if (behind) elements.push({ kind: 'resistor', id: 'series', from: 'terminal', to: 'load', ohms: seriesOhms });
  if (bleederOhms !== null)
    elements.push({ kind: 'resistor', id: 'bleeder', from: 'terminal', to: 'return', ohms: bleederOhms });
  elements.push({ kind: 'load', load, from: behind ? 'load' : 'terminal', to: 'return' });
  return elements;
}

/** What the elements take from a terminal that stands at a voltage. */
export type OutputCurrents = {
  loadAmps: number;
  bleederAmps: number;
  /** At the load, behind what is in series with it, V. */
  loadVolts: number;
};

/**
 * Currents of the elements at a mean terminal voltage: what stands across the
 * terminal, and the load behind all that is in series with it.
 *
 * @param terminalVolts magnitude, zero or more
 */
export function currentsAt(elements: readonly OutputElement[], terminalVolts: number): OutputCurrents {
  let seriesOhms = 0;
  let bleederAmps = 0;
  let loadAmps = 0;
  for (const element of elements) {
    if (element.kind === 'load') loadAmps += loadAmpsAt(element.load, terminalVolts, seriesOhms);
    else if (element.to === 'load') seriesOhms += element.ohms;
    else bleederAmps += terminalVolts / element.ohms;
  }
  return { loadAmps, bleederAmps, loadVolts: terminalVolts - loadAmps * seriesOhms };
}
