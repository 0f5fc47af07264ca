import type { Drive } from '../drive/drive';
import { amplitudeVolts } from '../drive/drive';
import type { Circuit } from './circuit';
import { copyOf, emptyState, PeriodRunner } from './period';
import { settle, type SettleProgress } from './steady-state';
import { Stepper } from './stepper';
import { timeGrid } from './time-grid';

/** Steps of a period, periods at most, and remaining error that counts as settled, as a fraction of the drive's amplitude. */
const STEPS = 48;
const MOST_PERIODS = 30;
const SETTLED = 1e-4;

/**
 * Means of a circuit's nodes in its steady state, looked for near where they are thought to be.
 *
 * @param nearVolts of the nodes, in the circuit's order, V
 * @returns in the same order, V; null where it is not found
 */
export function* settledNear(
  circuit: Circuit,
  drive: Drive,
  nearVolts: ArrayLike<number>,
): Generator<SettleProgress, Float64Array | null> {
  const grid = timeGrid(drive, STEPS);
  const state = emptyState(circuit);
  state.volts.set(nearVolts);
  new Stepper(circuit).chargeAt(state.volts, grid.drive[grid.steps - 1], state.charge);
  const options = {
    tolerance: SETTLED,
    scaleVolts: amplitudeVolts(drive),
    mostPeriods: MOST_PERIODS,
    mostPlainPeriods: 0,
  };
  const { converged } = yield* settle(circuit, grid, state, options, true);
  if (!converged) return null;
  const means = new Float64Array(circuit.names.length);
  const period = grid.times[grid.steps];
  const done = new PeriodRunner(new Stepper(circuit), grid).period(copyOf(state), (seconds, _step, _drive, volts) => {
    for (let node = 0; node < means.length; node += 1) means[node] += (seconds * volts[node]) / period;
  });
  return done ? means : null;
}
