import { rootBetween } from '../numeric/root';
import { closedFormAmps, droopAt, type Droop, type LoadedLadder } from '../ladder/loaded';
import { smoothedValidity } from './filter';
import { steadyAmpsOf, type Load } from '../load/load-kinds';
import {
  acrossAmpsOf,
  acrossOhms,
  currentsAt,
  outputElements,
  type OutputCurrents,
  type OutputFields,
} from './elements';

/** What leaves the ladder and what arrives at the load. */
export type WorkingPoint = OutputCurrents & {
  /** Mean current out of the ladder's terminal: load, bleeder and divider, A. */
  ladderAmps: number;
  /** Mean voltage at the ladder's terminal, before smoothing and series resistor, V. */
  terminalVolts: number;
  droop: Droop;
};

/**
 * Where ladder and output settle together. A load whose current depends on its
 * voltage is solved for it.
 *
 * @param accuracy of the current, as a fraction of what would be taken without droop
 * @returns the working point, or null where it lies outside the closed form
 * @remarks Solved for the ladder's current: its terminal voltage falls with
 *   current and what is taken rises with voltage, so there is one crossing.
 */
export function workingPoint(
  ladder: LoadedLadder,
  load: Load,
  output: OutputFields,
  accuracy = 1e-13,
): WorkingPoint | null {
  const elements = outputElements(output, load);
  if (smoothedValidity(elements, ladder) === 'beyond') return null;
  const terminal = (droop: Droop) => ladder.unloaded.outputVolts - droop.totalVolts;
  const takenAt = (volts: number) => {
    const currents = currentsAt(elements, volts);
    return currents.loadAmps + acrossAmpsOf(currents);
  };
  const settle = (ladderAmps: number): WorkingPoint | null => {
    const droop = droopAt(ladder, ladderAmps);
    if (!droop) return null;
    const terminalVolts = terminal(droop);
    const currents = currentsAt(elements, terminalVolts);
    return currents.loadVolts < 0 ? null : { ladderAmps, terminalVolts, ...currents, droop };
  };
  const steady = steadyAmpsOf(load);
  if (steady !== null && acrossOhms(output) === Infinity) return settle(steady);
  const unloadedAmps = takenAt(ladder.unloaded.outputVolts);
  if (unloadedAmps === 0 || ladder.unloaded.outputVolts === 0) return settle(0);

  const reach = droopAt(ladder, unloadedAmps) ? unloadedAmps : Math.min(closedFormAmps(ladder), unloadedAmps);
  /** What is taken there over what the ladder gives. */
  const over = (ladderAmps: number) => {
    const droop = droopAt(ladder, ladderAmps);
    return droop ? takenAt(terminal(droop)) - ladderAmps : NaN;
  };
  const atReach = over(reach);
  if (!(atReach <= 0)) return null;
  return settle(
    rootBetween(over, [0, unloadedAmps], [reach, atReach], accuracy * unloadedAmps, 1e-2 * accuracy * reach),
  );
}
