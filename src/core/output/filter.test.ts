import fc from 'fast-check';
import { benchDesign } from '../../../tests/reference/bench-design';
import { Solver } from '../../../tests/reference/odex';
import { finish } from '../numeric/finish';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import { transientOf } from '../transient/transient';
import { outputElements, type OutputFields } from './elements';
import { passedAt, waveformBehind } from './filter';

const NONE = { seriesOhms: 0, bleederOhms: null } as const;
const OPEN = { kind: 'open' } as const;
const section = (ohms: number, farads: number, henries = 0) => ({ ohms, henries, farads });
const size = ({ re, im }: { re: number; im: number }) => Math.hypot(re, im);
const elementsOf = (output: Partial<OutputFields>) => outputElements({ ...NONE, ...output }, OPEN);

describe('what an output passes on', () => {
  it('a resistor and a capacitor: 1 / sqrt(1 + (w R C)²), and w C behind R taken of the terminal (handbook)', () => {
    const elements = elementsOf({ smoothing: [section(2e3, 5e-6)] });
    for (const hertz of [1, 15.9, 400]) {
      const turned = 2 * Math.PI * hertz * 2e3 * 5e-6;
      const { gain, siemens } = passedAt(elements, 0, hertz);
      expect(size(gain)).toBeCloseTo(1 / Math.hypot(1, turned), 12);
      expect(size(siemens)).toBeCloseTo((2 * Math.PI * hertz * 5e-6) / Math.hypot(1, turned), 15);
    }
  });

  it('a choke and a capacitor: 1 / |1 - w² L C + j w R C|, many times as much at its resonance (handbook)', () => {
    const elements = elementsOf({ smoothing: [section(3, 1e-6, 0.1)] });
    for (const hertz of [100, 1 / (2 * Math.PI * Math.sqrt(0.1e-6)), 2000]) {
      const omega = 2 * Math.PI * hertz;
      const by = 1 / Math.hypot(1 - omega ** 2 * 0.1e-6, omega * 3e-6);
      expect(size(passedAt(elements, 0, hertz).gain) / by).toBeCloseTo(1, 9);
    }
  });

  it('two sections with a divider, a string and what hangs behind it: by Kirchhoff’s node equations', () => {
    const output: OutputFields = {
      seriesOhms: 50,
      bleederOhms: 300,
      divider: { topOhms: 200, footOhms: 10, meterOhms: null },
      smoothing: [section(20, 1e-3), section(5, 2e-3, 0.01)],
      electrodeFarads: 1e-4,
    };
    const [omega, loadSiemens] = [2 * Math.PI * 40, 1 / 400];
    const { gain } = passedAt(outputElements(output, OPEN), loadSiemens, 40);
    // Currents at every node sum to nothing with the gain's own voltages: node by node from the load back.
    type C = [number, number];
    const mul = ([a, b]: C, [c, d]: C): C => [a * c - b * d, a * d + b * c];
    const add = ([a, b]: C, [c, d]: C): C => [a + c, b + d];
    const load: C = [gain.re, gain.im];
    const intoLoad = mul(load, [loadSiemens, omega * 1e-4]);
    const second = add(load, mul(intoLoad, [50, 0]));
    const intoSecond = add(intoLoad, mul(second, [1 / 210, omega * 2e-3]));
    const first = add(second, mul(intoSecond, [5, omega * 0.01]));
    const intoFirst = add(intoSecond, mul(first, [0, omega * 1e-3]));
    const terminal = add(first, mul(intoFirst, [20, 0]));
    expect(terminal[0]).toBeCloseTo(1, 12);
    expect(terminal[1]).toBeCloseTo(0, 12);
  });

  it('a sawtooth of S peak to peak makes of R C much longer than its period a parabola of S T / 8 R C (by hand)', () => {
    const saw = Float64Array.from({ length: 128 }, (_, at) => 1 - (at + 0.5) / 128);
    const spread = (samples: Float64Array) => Math.max(...samples) - Math.min(...samples);
    const behind = waveformBehind(elementsOf({ smoothing: [section(1e3, 1e-3)] }), 0, saw, 50, 0);
    expect((spread(behind) * 8 * 50) / (127 / 128)).toBeCloseTo(1, 1);
    // Nothing in the way leaves all of it, none of it rounded off.
    expect(spread(waveformBehind(elementsOf({}), 0, saw, 50, 0))).toBeCloseTo(127 / 128, 12);
  });

  // A triangle, which is as smooth as an integration likes: all of its steps are of one slope or the other.
  it.each([
    ['a resistor and a capacitor', { ohms: 3, henries: 0, farads: 0.2 }],
    ['a choke and a capacitor', { ohms: 0.4, henries: 0.3, farads: 0.4 }],
  ])('%s, with a triangle before them, as odex integrates it', (_name, { ohms, henries, farads }) => {
    const triangle = (t: number) => 1 - 4 * Math.abs((t % 1) - 1 / 2);
    const solver = new Solver(2);
    solver.relativeTolerance = 1e-9;
    solver.absoluteTolerance = 1e-12;
    solver.maxSteps = 1e6;
    const slope = (t: number, [volts, amps]: readonly number[]) =>
      henries > 0
        ? [amps / farads, (triangle(t) - volts - ohms * amps) / henries]
        : [(triangle(t) - volts) / ohms / farads, 0];
    // Half periods end where the triangle turns; twenty periods let what it begins with die away.
    let state: number[] = [0, 0];
    const seen: number[] = [];
    for (let step = 0; step < 42 * 64; step += 1) {
      state = solver.solve(slope, step / 128, state, (step + 1) / 128).y as number[];
      if (step >= 40 * 64) seen.push(state[0]);
    }
    const samples = Float64Array.from({ length: 128 }, (_, at) => triangle((at + 0.5) / 128));
    const behind = waveformBehind(elementsOf({ smoothing: [section(ohms, farads, henries)] }), 0, samples, 1, 0);
    const spread = (values: readonly number[] | Float64Array) => Math.max(...values) - Math.min(...values);
    expect(spread(behind) / spread(seen)).toBeCloseTo(1, 2);
  });

  it('never passes on more than comes, behind resistors and capacitors alone', () => {
    const decades = (from: number, to: number) =>
      fc.double({ min: from, max: to, noNaN: true }).map((exponent) => 10 ** exponent);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(decades(0, 9), decades(-12, -3)), { maxLength: 4 }),
        decades(0, 8),
        decades(-12, -6),
        decades(0, 6),
        (sections, seriesOhms, electrodeFarads, hertz) => {
          const smoothing = sections.map(([ohms, farads]) => section(ohms, farads));
          const { gain, siemens } = passedAt(elementsOf({ smoothing, seriesOhms, electrodeFarads }), 0, hertz);
          expect(size(gain)).toBeLessThanOrEqual(1 + 1e-12);
          expect(siemens.re).toBeGreaterThanOrEqual(0);
        },
      ),
    );
  });
});

/** 1 V, 1 Hz, 1 F, and 2 mA through sections behind it: closed form and time domain. */
const bothOf = (ladder: object, smoothing: object[], more: object = {}, steps = 800) => {
  const load = { kind: 'current', amps: 2e-3 };
  const design = benchDesign({ ladder, output: { smoothing }, load, ...more });
  return { closed: predict(design, WITHOUT_OPTIMUM).output, time: finish(transientOf(design, steps)).transient };
};

describe('a ladder with smoothing behind it, against the time domain', () => {
  const LADDERS = [
    ['half-wave', 1],
    ['half-wave', 3],
    ['full-wave', 2],
    ['bridge-doubler', 1],
    ['bipolar', 2],
  ] as const;
  const SECTIONS: [string, object[]][] = [
    ['10 Ω and 1 F', [{ ohms: 10, farads: 1 }]],
    ['twice 3 Ω and 0.3 F', [3, 3].map((ohms) => ({ ohms, farads: 0.3 }))],
    // A choke leaves some parts in a million of the output, which take finer steps to resolve.
    ['a choke of 1 H and 0.5 Ω', [{ ohms: 0.5, henries: 1, farads: 1 }]],
    ['a choke that resonates near the drive', [{ ohms: 0.05, henries: 0.05, farads: 0.5 }]],
  ];
  it.each(LADDERS.flatMap(([topology, stages]) => SECTIONS.map((way) => [topology, stages, ...way] as const)))(
    '%s, %d stages, %s: ripple within 5 %%, mean within 0.05 %%',
    (topology, stages, _name, smoothing) => {
      const { closed, time } = bothOf({ topology, stages }, smoothing, {}, 1600);
      expect(Math.abs(closed.ripplePeakToPeakVolts! / time.ripplePeakToPeakVolts - 1)).toBeLessThan(0.05);
      expect(Math.abs(closed.meanVolts! / time.meanVolts - 1)).toBeLessThan(5e-4);
    },
  );

  it.each([
    ['a square', { driver: { waveform: 'square' } }, 0.03],
    ['a sine behind a resistance that widens its pulses', { driver: { seriesOhms: 3 } }, 0.03],
  ])('%s', (_name, more, within) => {
    const { closed, time } = bothOf({ topology: 'half-wave', stages: 2 }, [{ ohms: 10, farads: 1 }], more);
    expect(Math.abs(closed.ripplePeakToPeakVolts! / time.ripplePeakToPeakVolts - 1)).toBeLessThan(within);
  });

  it.each([
    ['a square', { waveform: 'square' }],
    ['a sine', {}],
  ])('with strays that let %s through: the two come in their own time', (_name, driver) => {
    const { closed, time } = bothOf(
      { topology: 'half-wave', stages: 3, strayFarads: 2e-3 },
      [{ ohms: 3, farads: 0.3 }],
      { driver },
    );
    expect(Math.abs(closed.ripplePeakToPeakVolts! / time.ripplePeakToPeakVolts - 1)).toBeLessThan(0.05);
  });

  it('is good behind a large resistance, rough where it resonates', () => {
    const validity = (section: object) => bothOf({ topology: 'full-wave', stages: 2 }, [section]).closed.validity;
    expect(validity({ ohms: 10, farads: 1 })).toBe('good');
    expect(validity({ ohms: 0.05, henries: 0.05, farads: 0.5 })).toBe('rough');
  });

  it('is rough where it takes a good part of what flows between pulses, and then still right within a part in five of the droop', () => {
    const { closed, time } = bothOf({ topology: 'half-wave', stages: 3 }, [{ ohms: 1, farads: 1 }]);
    expect(closed.validity).toBe('rough');
    expect(Math.abs(closed.meanVolts! - time.meanVolts)).toBeLessThan(closed.droopVolts! / 5);
    expect(Math.abs(closed.ripplePeakToPeakVolts! / time.ripplePeakToPeakVolts - 1)).toBeLessThan(0.02);
  });

  it('a clamp’s swing goes through as its waveform; where the section takes too much of it there is no figure', () => {
    const clamp = { topology: 'clamp', stages: 1 };
    const light = bothOf(clamp, [{ ohms: 10, farads: 1 }]);
    expect(light.closed.ripplePeakToPeakVolts! / light.time.ripplePeakToPeakVolts).toBeCloseTo(1, 2);
    expect(light.closed.meanVolts! / light.time.meanVolts).toBeCloseTo(1, 3);
    expect(bothOf(clamp, [{ ohms: 1, farads: 1 }]).closed.validity).toBe('rough');
    expect(bothOf(clamp, [{ ohms: 0.1, farads: 1 }]).closed).toMatchObject({ validity: 'beyond', meanVolts: null });
  });

  it('with a bleeder at the terminal, a divider behind it, a string and a load: each mean current by Ohm’s law', () => {
    const design = benchDesign({
      ladder: { topology: 'half-wave', stages: 2 },
      output: {
        smoothing: [{ ohms: 100, farads: 1 }],
        bleederOhms: 3000,
        divider: { topOhms: 1000, footOhms: 10, meterOhms: null },
        seriesOhms: 20,
        electrodeFarads: 0.05,
      },
      load: { kind: 'resistance', ohms: 1500 },
    });
    const { output, divider } = predict(design, WITHOUT_OPTIMUM);
    const { transient } = finish(transientOf(design, 800));
    const [terminal, smoothed] = [output.terminalMeanVolts!, output.smoothedMeanVolts!];
    expect(output.bleederAmps!).toBeCloseTo(terminal / 3000, 12);
    expect(output.dividerAmps!).toBeCloseTo(smoothed / 1010, 12);
    expect(output.amps!).toBeCloseTo(smoothed / 1520, 12);
    expect((terminal - smoothed) / (output.dividerAmps! + output.amps!)).toBeCloseTo(100, 9);
    expect(output.droopBySmoothingVolts!).toBeCloseTo(terminal - smoothed, 12);
    expect(divider!.shownVolts!).toBeCloseTo(smoothed / 101, 12);
    expect(output.meanVolts! / transient.meanVolts).toBeCloseTo(1, 3);
    expect((output.bleederAmps! + output.dividerAmps!) / transient.acrossAmps).toBeCloseTo(1, 3);
    expect(output.ripplePeakToPeakVolts! / transient.ripplePeakToPeakVolts).toBeCloseTo(1, 1);
    expect(Math.abs(transient.error.powerResidue!)).toBeLessThan(1e-4);
  });
});

it('a winding straight onto its load is not smoothed: no figure', () => {
  const { closed } = bothOf({ topology: 'none' }, [{ ohms: 10, farads: 1 }]);
  expect(closed.alternating).toMatchObject({ rmsVolts: null, peakVolts: null, rmsAmps: null });
  expect(closed.validity).toBe('beyond');
});
