import { Solver } from './odex';

/**
 * A current-fed push-pull integrated by odex: a choke into the centre tap, two
 * ideal switches that change over where the tank's voltage passes zero, a tank
 * across the whole primary, a resistive load on it. Through the choke's current
 * i the half winding pumps i / 2 into the tank as seen end to end.
 *
 * @returns peak of the tank's voltage, its frequency, and mean and RMS of the choke's current once it is settled
 */
export function integratePushPull(parts: {
  volts: number;
  chokeHenries: number;
  primaryHenries: number;
  tankFarads: number;
  loadOhms: number;
  periods: number;
}): { peakVolts: number; hertz: number; chokeMeanAmps: number; chokeRmsAmps: number } {
  const { volts, chokeHenries, primaryHenries, tankFarads, loadOhms } = parts;
  const period = 2 * Math.PI * Math.sqrt(primaryHenries * tankFarads);
  const derivative = (_time: number, [choke, tank, primary]: readonly number[]) => [
    (volts - Math.abs(tank) / 2) / chokeHenries,
    ((Math.sign(tank) * choke) / 2 - primary - tank / loadOhms) / tankFarads,
    tank / primaryHenries,
  ];
  const solver = new Solver(3);
  solver.absoluteTolerance = 1e-6;
  solver.relativeTolerance = 1e-6;
  solver.maxStepSize = period / 100;
  solver.maxSteps = 1e8;
  let state: number[] = [0, volts / 10, 0];
  let time = 0;
  const advance = (seconds: number) => {
    state = solver.solve(derivative, time, state, time + seconds).y;
    time += seconds;
  };
  advance(parts.periods * period);
  const samples = 400;
  const crossings: number[] = [];
  let peakVolts = 0;
  let [sum, squares] = [0, 0];
  for (let sample = 0; sample < 10 * samples; sample += 1) {
    const before = state[1];
    const at = time;
    advance(period / samples);
    peakVolts = Math.max(peakVolts, Math.abs(state[1]));
    sum += state[0] / (10 * samples);
    squares += state[0] ** 2 / (10 * samples);
    if (before < 0 && state[1] >= 0) crossings.push(at + ((time - at) * -before) / (state[1] - before));
  }
  return {
    peakVolts,
    hertz: (crossings.length - 1) / (crossings[crossings.length - 1] - crossings[0]),
    chokeMeanAmps: sum,
    chokeRmsAmps: Math.sqrt(squares),
  };
}
