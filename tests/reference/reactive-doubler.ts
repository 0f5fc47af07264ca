/**
 * A bridge doubler of ideal diodes behind a winding with resistance and leakage
 * inductance, integrated by the classical method of Runge and Kutta in fixed
 * steps. The winding's current is a state: while it flows one way it charges one
 * capacitor, the other way the other; at zero it waits until the drive passes one
 * of them.
 *
 * @returns over the last period, from empty capacitors
 */
export function integrateReactiveDoubler(parts: {
  peakVolts: number;
  frequencyHertz: number;
  ohms: number;
  henries: number;
  farads: number;
  loadOhms: number;
  periods: number;
  /** A capacitor in series with the winding; none. */
  seriesFarads?: number;
}): { meanVolts: number; rmsAmps: number; loadWatts: number; sourceWatts: number } {
  const { peakVolts, frequencyHertz, ohms, henries, farads, loadOhms, periods, seriesFarads = Infinity } = parts;
  const omega = 2 * Math.PI * frequencyHertz;
  const driveAt = (time: number) => peakVolts * Math.sin(omega * time);
  /** Which capacitor the winding charges: the upper one, the lower one, none. */
  let side: 1 | -1 | 0 = 0;
  const slopes = (time: number, [amps, upper, lower, across]: readonly number[]) => {
    const load = (upper + lower) / loadOhms;
    return [
      side === 0 ? 0 : (driveAt(time) - across - ohms * amps - (side === 1 ? upper : -lower)) / henries,
      ((side === 1 ? amps : 0) - load) / farads,
      ((side === -1 ? -amps : 0) - load) / farads,
      amps / seriesFarads,
    ];
  };
  const seconds = 1 / (frequencyHertz * STEPS);
  const moved = (state: readonly number[], by: readonly number[], part: number) =>
    state.map((value, at) => value + part * seconds * by[at]);
  let state = [0, 0, 0, 0];
  const sums = { volts: 0, squares: 0, load: 0, source: 0 };
  for (let step = 0; step < periods * STEPS; step += 1) {
    const time = step * seconds;
    const [amps, upper, lower, across] = state;
    const given = driveAt(time) - across;
    if (side === 0) side = given > upper ? 1 : -given > lower ? -1 : 0;
    const a = slopes(time, state);
    const b = slopes(time + seconds / 2, moved(state, a, 0.5));
    const c = slopes(time + seconds / 2, moved(state, b, 0.5));
    const d = slopes(time + seconds, moved(state, c, 1));
    state = state.map((value, at) => value + (seconds / 6) * (a[at] + 2 * b[at] + 2 * c[at] + d[at]));
    if (side !== 0 && state[0] * side <= 0) {
      state[0] = 0;
      side = 0;
    }
    if (step < (periods - 1) * STEPS) continue;
    const out = upper + lower;
    sums.volts += out;
    sums.squares += amps ** 2;
    sums.load += out ** 2 / loadOhms;
    sums.source += driveAt(time) * amps;
  }
  return {
    meanVolts: sums.volts / STEPS,
    rmsAmps: Math.sqrt(sums.squares / STEPS),
    loadWatts: sums.load / STEPS,
    sourceWatts: sums.source / STEPS,
  };
}

/** Steps in a period of the drive. */
const STEPS = 2000;
