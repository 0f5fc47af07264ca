import { benchDesign } from '../../../tests/reference/bench-design';
import { Solver } from '../../../tests/reference/odex';
import { integrateReactiveDoubler } from '../../../tests/reference/reactive-doubler';
import { newDesign } from '../design/new-design';
import { readDesign } from '../design/read-design';
import { predict } from '../predict/predict';
import { transientOf } from '../transient/transient';
import { finish } from '../numeric/finish';
import { pulseEnd } from './reactive-droop';
import { reactivePulse, ReactivePulses } from './reactive-pulse';

/** The same pulse by odex: from where the sine passes the level until its current is back at zero, and its charge. */
function integratedPulse(level: number, damping: number, stiffness: number): { charge: number; endLevel: number } {
  const solver = new Solver(3);
  solver.absoluteTolerance = solver.relativeTolerance = 1e-11;
  const start = Math.asin(level);
  const slopes = (angle: number, [amps, on]: readonly number[]) => [
    Math.sin(angle) - on - damping * amps,
    stiffness * amps,
    amps,
  ];
  let low = start;
  let state = [0, level, 0];
  const STRIDE = 0.01;
  for (;;) {
    const next = solver.solve(slopes, low, state, low + STRIDE).y;
    if (next[0] <= 0) break;
    low += STRIDE;
    state = next;
  }
  // The last part of a stride, where the current falls evenly.
  const fall = -slopes(low, state)[0];
  const last = solver.solve(slopes, low, state, low + state[0] / fall).y;
  return { charge: last[2], endLevel: last[1] };
}

describe('one pulse through resistance and reactance', () => {
  it.each([
    [0.9, 0, 0.02],
    [0.9, 0.3, 1],
    [0.5, 0, 3],
    [0.5, 2, 0.5],
    [0.99, 5, 0.1],
    [0.2, 0.1, 12],
    [0.95, 10, 25],
  ])('from level %d with damping %d and stiffness %d ends as odex has it', (level, damping, stiffness) => {
    const { charge, endLevel } = integratedPulse(level, damping, stiffness);
    expect(reactivePulse(charge, { damping, stiffness })!.endLevel).toBeCloseTo(endLevel, 4);
  });

  it('tends to the cubic tip, sqrt(a / 4.5) under the peak, without capacitance or resistance', () => {
    for (const charge of [1e-7, 1e-5, 1e-4])
      expect((1 - reactivePulse(charge, { damping: 0, stiffness: 0 })!.endLevel) / Math.sqrt(charge / 4.5)).toBeCloseTo(
        1,
        2,
      );
  });

  it('tends to the pulse of a resistance alone, sin t - t cos t, where that rules', () => {
    // In units of R the charge is charge times damping; the level stands still at cos t.
    const t = 0.4;
    const charge = (2 * (Math.sin(t) - t * Math.cos(t))) / 400;
    expect(reactivePulse(charge, { damping: 400, stiffness: 0 })!.endLevel).toBeCloseTo(Math.cos(t), 3);
  });

  it('follows the sine to its peak where the circuit is fast, in one flow or in several', () => {
    for (const damping of [0, 5])
      expect(reactivePulse(0.2 / 3000, { damping, stiffness: 3000 })!.endLevel).toBeCloseTo(1, 2);
  });

  it.each([
    [0, 1e-4],
    [1, 1e-4],
    [8, 1e-4],
    [60, 0.02],
    [300, 0.025],
  ])(
    'stiffness %d: a family of pulses has the same ends, whatever the order they are asked in',
    (stiffness, accuracy) => {
      for (const damping of [0, 0.4, 6]) {
        const family = new ReactivePulses({ damping, stiffness });
        for (const lift of [0.5, 1e-3, 0.02, 0.9, 0.004, 0.13]) {
          const charge = lift / Math.max(2, stiffness);
          const one = reactivePulse(charge, { damping, stiffness });
          const other = family.endLevel(charge);
          if (one && other !== null) expect(Math.abs(one.endLevel - other) / lift).toBeLessThan(accuracy);
          else expect(other).toBe(one);
        }
      }
    },
  );

  it('between paths worked out it is within 0.3 % of the peak', () => {
    for (const damping of [0, 0.03, 0.4, 6, 30])
      for (const stiffness of [1e-4, 0.02, 0.7, 3.3, 9, 75, 333])
        for (const lift of [0.004, 0.13, 0.4]) {
          const charge = lift / Math.max(2, stiffness);
          const one = reactivePulse(charge, { damping, stiffness });
          const other = pulseEnd({ damping, stiffness }, charge);
          if (one && other !== null) expect(Math.abs(one.endLevel - other)).toBeLessThan(0.003);
        }
  });

  it('says so where no pulse within half a period carries the charge, and where there is none', () => {
    expect(reactivePulse(0.3, { damping: 40, stiffness: 0.1 })).toBeNull();
    expect(reactivePulse(0, { damping: 1, stiffness: 1 })!.endLevel).toBe(1);
  });
});

describe('a current-limited transformer into a bridge doubler', () => {
  const MAINS = { secondaryVolts: 6000, shortAmps: 0.03, secondaryOhms: 12e3 };
  const plain = newDesign('Limited');
  const design = (ohms: number) => {
    const read = readDesign({
      ...plain,
      supply: { kind: 'mains' },
      driver: { kind: 'mains', style: 'current-limited', ...MAINS },
      ladder: {
        ...plain.ladder,
        topology: 'bridge-doubler',
        stages: 1,
        capacitor: { ...plain.ladder.capacitor, farads: 47e-9 },
        diode: { ...plain.ladder.diode, forwardVolts: 0, junctionFarads: 0 },
        strayFarads: 0,
      },
      load: { kind: 'resistance', ohms },
    });
    if (!read.ok) throw new Error(JSON.stringify(read.faults));
    return read.design;
  };
  const impedance = MAINS.secondaryVolts / MAINS.shortAmps;
  const odex = (loadOhms: number) =>
    integrateReactiveDoubler({
      peakVolts: MAINS.secondaryVolts * Math.SQRT2,
      frequencyHertz: 50,
      ohms: MAINS.secondaryOhms,
      henries: Math.sqrt(impedance ** 2 - MAINS.secondaryOhms ** 2) / (2 * Math.PI * 50),
      farads: 47e-9,
      loadOhms,
      periods: 40,
    });

  it.each([
    [30e6, 0.01],
    [10e6, 0.015],
    [5e6, 0.03],
  ])('into %d ohm is within the accuracy said, with its current and power', (ohms, accuracy) => {
    const { output, input } = predict(design(ohms));
    const run = odex(ohms);
    expect(Math.abs(output.meanVolts! / run.meanVolts - 1)).toBeLessThan(accuracy);
    expect(Math.abs(input.amps! / run.rmsAmps - 1)).toBeLessThan(0.12);
    expect(Math.abs(input.watts! / run.sourceWatts - 1)).toBeLessThan(0.04);
  });

  it.each([3e6, 1e6])('into %d ohm the engine alone answers where the closed form is silent, and is right', (ohms) => {
    const { output } = predict(design(ohms));
    const run = odex(ohms);
    if (output.meanVolts !== null) expect(output.validity).toBe('rough');
    const { transient } = finish(transientOf(design(ohms)));
    expect(Math.abs(transient.meanVolts / run.meanVolts - 1)).toBeLessThan(0.01);
  });
});

describe('any ladder behind a reactance', () => {
  const shapes = [
    ['half-wave', 1],
    ['half-wave', 1.5],
    ['half-wave', 3],
    ['full-wave', 2],
    ['bridge-doubler', 1],
    ['bipolar', 2],
    ['clamp', 1],
  ] as const;
  it.each(shapes)(
    '%s of %d stages: good within 1.6 %% of no load, rough within 8 %%, against the engine',
    (topology, stages) => {
      const found = { good: 0, rough: 0 };
      for (const stiffness of [0.1, 0.6, 2.5])
        for (const strength of [3e-4, 3e-3, 0.02]) {
          const ohms = 1 / stiffness / (2 * Math.PI);
          const { output } = predict(
            benchDesign({
              driver: { seriesHenries: ohms / (2 * Math.PI), seriesOhms: 0.15 * ohms },
              ladder: { topology, stages },
              load: { kind: 'current', amps: strength / ohms },
            }),
          );
          if (output.validity === 'beyond') continue;
          found[output.validity] += 1;
          const { transient } = finish(
            transientOf(
              benchDesign({
                driver: { seriesHenries: ohms / (2 * Math.PI), seriesOhms: 0.15 * ohms },
                ladder: { topology, stages },
                load: { kind: 'current', amps: strength / ohms },
              }),
            ),
          );
          const off = Math.abs(output.meanVolts! - transient.meanVolts) / output.noLoadVolts;
          expect(off).toBeLessThan(output.validity === 'good' ? 0.016 : 0.08);
        }
      expect(found.good).toBeGreaterThan(2);
    },
  );
});
