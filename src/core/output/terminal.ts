import type { Design, Load } from '../design/design-schema';
import { closedFormAmps, droopAt, type Droop, type LoadedLadder } from '../ladder/loaded';

/** What leaves the ladder and what arrives at the load. */
export type WorkingPoint = {
  /** Mean current out of the ladder's terminal: load and bleeder, A. */
  ladderAmps: number;
  loadAmps: number;
  bleederAmps: number;
  /** Mean voltage at the ladder's terminal, before the series resistor, V. */
  terminalVolts: number;
  /** Mean voltage at the load, behind the series resistor, V. */
  loadVolts: number;
  droop: Droop;
};

/** Terminal voltage that the output network takes when the ladder gives this current, V. */
function terminalVoltsTaken(ladderAmps: number, load: Load, output: Design['output']): number {
  const bleeder = output.bleederOhms === null ? 0 : 1 / output.bleederOhms;
  switch (load.kind) {
    case 'open':
      return ladderAmps / bleeder;
    case 'current':
      return (ladderAmps - load.amps) / bleeder;
    case 'resistance':
      return ladderAmps / (bleeder + 1 / (load.ohms + output.seriesOhms));
  }
}

/**
 * Where ladder, bleeder, series resistor and load settle together. The bleeder
 * stands across the ladder's terminal, the series resistor between terminal
 * and load. A resistive load is solved for its own current.
 *
 * @returns the working point, or null where it lies outside the closed form
 * @remarks Bisection on the ladder's current: its terminal voltage falls and
 *   the taken voltage rises with current, so there is one crossing.
 */
export function workingPoint(ladder: LoadedLadder, load: Load, output: Design['output']): WorkingPoint | null {
  const terminal = (droop: Droop) => ladder.unloaded.outputVolts - droop.totalVolts;
  const fixedAmps = load.kind === 'current' ? load.amps : 0;
  const settle = (ladderAmps: number): WorkingPoint | null => {
    const droop = droopAt(ladder, ladderAmps);
    if (!droop) return null;
    const terminalVolts = terminal(droop);
    const bleederAmps = output.bleederOhms === null ? 0 : terminalVolts / output.bleederOhms;
    const loadAmps = load.kind === 'resistance' ? terminalVolts / (load.ohms + output.seriesOhms) : fixedAmps;
    const loadVolts = terminalVolts - loadAmps * output.seriesOhms;
    return loadVolts < 0 ? null : { ladderAmps, loadAmps, bleederAmps, terminalVolts, loadVolts, droop };
  };
  if (load.kind !== 'resistance' && output.bleederOhms === null) return settle(fixedAmps);
  if (ladder.unloaded.outputVolts === 0) return settle(0);

  let low = fixedAmps;
  let high = closedFormAmps(ladder);
  const droopAtHigh = droopAt(ladder, high);
  if (!droopAtHigh || high < low || terminal(droopAtHigh) > terminalVoltsTaken(high, load, output)) return null;
  for (let step = 0; step < 60; step += 1) {
    const middle = (low + high) / 2;
    const droop = droopAt(ladder, middle);
    if (droop && terminal(droop) > terminalVoltsTaken(middle, load, output)) low = middle;
    else high = middle;
  }
  return settle((low + high) / 2);
}
