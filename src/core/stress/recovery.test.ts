import { Solver } from '../../../tests/reference/odex';
import { recoveryOf, transitOf } from './recovery';

/**
 * The same by odex: i + tau di/dt = -a t from the start of conduction at -lead,
 * until what is stored is gone.
 */
function integrated(slope: number, lead: number, tau: number) {
  const solver = new Solver(3);
  solver.absoluteTolerance = 1e-13;
  solver.relativeTolerance = 1e-11;
  solver.maxSteps = 1e6;
  const forced = (t: number) => -slope * t;
  const run = (until: number) =>
    solver.solve((t, [i]) => [(forced(t) - i) / tau, forced(t), forced(t) ** 2], -lead, [0, 0, 0], until).y;
  let [from, to] = [0, tau];
  for (let step = 0; step < 60; step += 1) {
    const middle = (from + to) / 2;
    if (run(middle)[0] > 0) from = middle;
    else to = middle;
  }
  const [, net, square] = run(to);
  return { after: to, net, square };
}

describe('a pulse that falls evenly through zero', () => {
  it.each([0.3, 1, 3, 10])('conducting %d transit times before its zero, against odex', (lead) => {
    const [slope, tau] = [2, 0.5];
    const { after, net, square } = integrated(slope, lead * tau, tau);
    const { coulombs, seconds, squareFactor } = recoveryOf(slope, net, tau);
    expect(seconds / after).toBeCloseTo(1, 6);
    expect(coulombs / ((slope * after ** 2) / 2)).toBeCloseTo(1, 6);
    // Without recovery the same charge makes a ramp of c^2 = 2 q / a, of mean square a^2 c^3 / 3.
    const plain = (slope ** 2 * ((2 * net) / slope) ** 1.5) / 3;
    expect(squareFactor / (square / plain)).toBeCloseTo(1, 6);
  });
  it('never gives back more than was passed, and nothing where nothing is stored', () => {
    for (const net of [1e-9, 1e-3, 1, 1e3, 1e9, 1e12]) {
      const { coulombs, seconds, squareFactor } = recoveryOf(1, net, 1);
      expect(coulombs).toBeGreaterThanOrEqual(0);
      expect(seconds).toBeLessThanOrEqual(1);
      expect(squareFactor).toBeGreaterThanOrEqual(1 - 1e-9);
      expect(Number.isFinite(squareFactor)).toBe(true);
    }
    expect(recoveryOf(1, 1, transitOf(null))).toEqual({ coulombs: 0, seconds: 0, squareFactor: 1 });
    expect(recoveryOf(0, 0, 1).coulombs).toBe(0);
  });
  it('recovers from equal currents in ln 2 of its transit time', () => {
    expect(transitOf(70e-9) * Math.LN2).toBeCloseTo(70e-9, 15);
  });
});
