import { recorded } from './recorded';
import type { LadderNetwork } from '../../src/core/topology/network';
import { ladderLaws, softAmps } from './whole-supply';
import { Solver } from './odex';

export type FlybackRun = { meanVolts: number; ceilingWatts: number; loadWatts: number; peakVolts: number };

/**
 * A flyback with its ladder integrated by odex as one circuit: an ideal switch
 * closed for the fraction `duty`, then open; the core's inductance seen from the
 * secondary; the capacitance there; a ladder of diodes that pass (s / R) ln(1 +
 * exp(v / s)); a resistive load. While the switch is closed the secondary stands
 * at minus the supply times the ratio and the core charges from the supply; a
 * body diode lets no lower voltage stand while it is open.
 *
 * @param start capacitor voltages to start from, V
 * @returns over the last `measured` periods; `peakVolts` at the secondary
 */
function integrateFlyback(
  network: LadderNetwork,
  parts: {
    forwardVolts: number;
    secondaryHenries: number;
    secondaryFarads: number;
    duty: number;
    frequencyHertz: number;
    loadOhms: number;
    diodeOhms: number;
    softVolts: number;
    /** Takes what rings below zero while the switch is open. */
    ringOhms: number;
    start: readonly number[];
    periods: number;
    measured: number;
  },
): FlybackRun {
  const {
    forwardVolts,
    secondaryHenries,
    secondaryFarads,
    duty,
    frequencyHertz,
    loadOhms,
    diodeOhms,
    softVolts,
    ringOhms,
  } = parts;
  const count = network.capacitors.length;
  const laws = ladderLaws({ network, diodeOhms, forwardVolts: 0, softVolts, loadOhms });
  const through = (volts: number) => softAmps(volts, diodeOhms, softVolts);
  // State: capacitors, the secondary's voltage, the core's current seen from the secondary, the output's integral.
  const [atFoot, atCore, atOutput] = [count, count + 1, count + 2];
  const derivative = (closed: boolean) => (_time: number, state: readonly number[]) => {
    const footVolts = closed ? -forwardVolts : state[atFoot];
    const change = new Array<number>(count + 3).fill(0);
    const { taken, outputVolts } = laws(state, footVolts, change);
    const body = through(-forwardVolts - footVolts) + Math.max(0, -footVolts) / ringOhms;
    change[atFoot] = closed ? 0 : (state[atCore] - taken + body) / secondaryFarads;
    change[atCore] = -footVolts / secondaryHenries;
    change[atOutput] = outputVolts;
    return change;
  };
  const solver = new Solver(count + 3);
  solver.absoluteTolerance = 1e-6 * forwardVolts;
  solver.relativeTolerance = 1e-5;
  solver.maxSteps = 1e8;
  const period = 1 / frequencyHertz;
  let state = [...parts.start, -forwardVolts, 0, 0];
  let time = 0;
  let peakVolts = 0;
  let energyIn = 0;
  const advance = (closed: boolean, seconds: number) => {
    solver.maxStepSize = seconds;
    state = solver.solve(derivative(closed), time, state, time + seconds).y;
    time += seconds;
  };
  for (let cycle = 0; cycle < parts.periods; cycle += 1) {
    if (cycle === parts.periods - parts.measured) state[atOutput] = 0;
    const counts = cycle >= parts.periods - parts.measured;
    state[atFoot] = -forwardVolts;
    advance(true, duty * period);
    if (counts) energyIn += (secondaryHenries * state[atCore] ** 2) / 2;
    const slices = 40;
    for (let slice = 0; slice < slices; slice += 1) {
      advance(false, ((1 - duty) * period) / slices);
      peakVolts = counts ? Math.max(peakVolts, state[atFoot]) : 0;
    }
    // Current left in the core when the switch closes again has been counted before.
    if (counts) energyIn -= (secondaryHenries * state[atCore] ** 2) / 2;
  }
  const meanVolts = state[atOutput] / (parts.measured * period);
  return {
    meanVolts,
    loadWatts: meanVolts ** 2 / loadOhms,
    ceilingWatts: energyIn / (parts.measured * period),
    peakVolts,
  };
}

/** The same from what was written down of it. */
export const integratedFlyback = recorded('flyback-ladder', integrateFlyback);
