import { Solver } from '../../../tests/reference/odex';
import { atCurrent, mostThrough, rectifierRipple, sagged, sagVolts } from './sag';

const linear = { volts: 24, seriesOhms: 0.5, rectified: null };
/** A winding of 1 V peak at half a hertz, so that the bridge gives a pulse a second. */
const rectifier = (ohms: number, farads: number) => ({
  volts: 1,
  seriesOhms: 0,
  rectified: { ohms, hertz: 0.5, farads },
});

/** The same drawn on steadily, by odex: mean and ripple of the last pulse, V. */
function integrated(ohms: number, farads: number, amps: number) {
  const solver = new Solver(2);
  solver.relativeTolerance = 1e-8;
  solver.absoluteTolerance = 1e-9;
  solver.maxStepSize = 0.005;
  solver.maxSteps = 1e6;
  const drive = (time: number) => Math.abs(Math.sin(Math.PI * time));
  const into = (time: number, volts: number) => Math.max(0, (drive(time) - volts) / ohms);
  // The second sums the voltage up.
  const slope = (time: number, [volts]: readonly number[]) => [(into(time, volts) - amps) / farads, volts];
  let state = solver.solve(slope, 0.5, [1, 0], 30.5).y;
  let [low, high] = [Infinity, 0];
  const before = state[1];
  for (let step = 0; step < 200; step += 1) {
    const from = 30.5 + step / 200;
    state = solver.solve(slope, from, state, from + 1 / 200).y;
    low = Math.min(low, state[0]);
    high = Math.max(high, state[0]);
  }
  return { mean: state[1] - before, ripple: high - low };
}

it.each([0.01, 0.03, 0.1].flatMap((dip) => [0.002, 0.01, 0.05].map((ohms) => [dip, ohms])))(
  'half a ripple of %d and %d of the load’s resistance: the mean against odex',
  (dip, ohms) => {
    const farads = 1 / (2 * dip);
    const run = integrated(ohms, farads, 1);
    const feed = rectifier(ohms, farads);
    const off = 1 - sagVolts(feed, 1) - run.mean;
    expect(off).toBeLessThan(0.001);
    expect(off).toBeGreaterThan(-0.02);
    // What the winding's resistance takes of the ripple is not counted: it is an upper bound.
    const ripple = rectifierRipple(feed, feed.rectified, 1).volts / run.ripple;
    expect(ripple).toBeGreaterThan(0.99);
    expect(ripple).toBeLessThan(1.5);
  },
);

it('a stiff winding leaves the ripple that its capacitor and the charging time make, against odex', () => {
  const feed = rectifier(1e-3, 5);
  expect(rectifierRipple(feed, feed.rectified, 1).volts / integrated(1e-3, 5, 1).ripple).toBeCloseTo(1, 1);
  // I / 2 f C at light load (handbook).
  expect(rectifierRipple(feed, feed.rectified, 1e-6).volts).toBeCloseTo(1e-6 / 5, 9);
});

describe('a feed and what it gives', () => {
  const feeds = [linear, { volts: 32, seriesOhms: 0, rectified: { ohms: 0.3, hertz: 50, farads: 4700e-6 } }];
  it.each(feeds)('the voltage left gives the power asked for: %j', (feed) => {
    const most = mostThrough(feed)!;
    for (const part of [0, 0.1, 0.5, 0.9]) {
      const volts = sagged(feed, part * most);
      expect(volts).toBeCloseTo(feed.volts - sagVolts(feed, (part * most) / volts), 6);
    }
    expect(sagged(feed, 10 * most)).toBe(feed.volts / 2);
  });
  it('no current gives more than the most', () => {
    for (const feed of feeds)
      for (let amps = 0.1; amps < 1000; amps *= 1.1)
        expect(amps * (feed.volts - sagVolts(feed, amps))).toBeLessThanOrEqual(mostThrough(feed)! * (1 + 1e-6));
  });
  it('as a resistance it sags alike at its own current', () => {
    const feed = { ...feeds[1], maxAmps: null };
    const stand = atCurrent(feed, 2);
    expect(2 * stand.seriesOhms).toBeCloseTo(sagVolts(feed, 2), 9);
    expect(stand.rectified).toBeNull();
    expect(atCurrent(feed, undefined).seriesOhms).toBeGreaterThan(0);
    expect(atCurrent({ ...linear, maxAmps: null }, 2)).toEqual({ ...linear, maxAmps: null });
  });
});
