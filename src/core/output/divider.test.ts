import { benchDesign } from '../../../tests/reference/bench-design';
import { Solver } from '../../../tests/reference/odex';
import { dividerSchema, type Design } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { finish } from '../numeric/finish';
import { predict } from '../predict/predict';
import { transientOf } from '../transient/transient';
import { dividerFigures, USUAL_DIVIDER, type Divider } from './divider';
import { acrossOhms, dividerOhms } from './elements';

const dividerOf = (change: Partial<Divider>): Divider =>
  dividerSchema.parse({ topOhms: 1e9, footOhms: 1e6, ...change });
const figuresOf = (change: Partial<Divider>, meanVolts: number | null = 20e3, peakVolts = 25e3) =>
  dividerFigures(dividerOf(change), meanVolts, peakVolts, peakVolts);

describe('by hand', () => {
  it('1 GΩ over 1 MΩ with 10 MΩ across it: 1,101 to 1', () => {
    const { ratio, shownVolts, amps, mostShownVolts } = figuresOf({});
    const foot = 10e6 / 11;
    expect(ratio).toBeCloseTo(1 + 1e9 / foot, 9);
    expect(ratio).toBeCloseTo(1101, 9);
    expect(shownVolts).toBeCloseTo(20e3 / 1101, 12);
    expect(mostShownVolts).toBeCloseTo(25e3 / 1101, 12);
    expect(amps! * (1e9 + foot)).toBeCloseTo(20e3, 8);
    expect(figuresOf({ meterOhms: null }).ratio).toBeCloseTo(1001, 9);
    expect(figuresOf(USUAL_DIVIDER).ratio).toBeCloseTo(1000, 2);
    expect(figuresOf({}, null)).toMatchObject({ amps: null, shownVolts: null });
  });

  it('20 MΩ before a meter of 10 MΩ show a third (common practice, no source)', () => {
    expect(figuresOf({ topOhms: 20e6, footOhms: 1e15, meterOhms: 10e6 }).ratio).toBeCloseTo(3, 6);
  });

  it('volts and watts of each of the string', () => {
    const { voltsEach, wattsEach } = figuresOf({ topCount: 10, meterOhms: null });
    expect(voltsEach).toBeCloseTo((25e3 * (1e9 / 1.001e9)) / 10, 9);
    expect(wattsEach).toBeCloseTo((25e3 / 1.001e9) ** 2 * 1e8, 12);
  });

  it('an open foot leaves the meter to the string: 10 MΩ of 1.01 GΩ, or what the clamp holds', () => {
    expect(figuresOf({}).openFootVolts).toBeCloseTo((25e3 * 10e6) / 1.01e9, 9);
    expect(figuresOf({ clampVolts: 90 }).openFootVolts).toBe(90);
    expect(figuresOf({ meterOhms: null }).openFootVolts).toBe(25e3);
  });

  it('errors add up at their worst; what is not known is not counted', () => {
    const share = 1e9 / 1.001e9;
    const known = figuresOf({ meterOhms: null, topCount: 10, perVolt: 2e-6, perKelvin: 100e-6 }).errors;
    expect(known.tolerance).toBeCloseTo(0.02 * share, 12);
    expect(known.perVolt).toBeCloseTo(share * 2e-6 * ((20e3 * share) / 10), 12);
    expect(known.perKelvin).toBeCloseTo(share * 100e-6 * 20, 12);
    expect(known.atWorst).toBeCloseTo(known.tolerance + known.perVolt! + known.perKelvin! + 0.01, 12);
    const plain = figuresOf({ meterOhms: null }).errors;
    expect(plain).toMatchObject({ perVolt: null, perKelvin: null });
    expect(plain.atWorst).toBeCloseTo(0.02 * share + 0.01, 12);
  });
});

describe('against an independent integration of string and foot with their capacitances', () => {
  /** Peak at the foot over that at the terminal, once a sine has settled. */
  function gainAt(hertz: number, { topOhms, topFarads, footFarads }: Divider, foot: number): number {
    const omega = 2 * Math.PI * hertz;
    const seconds = topFarads + footFarads;
    const solver = new Solver(1);
    solver.relativeTolerance = 1e-10;
    solver.absoluteTolerance = 1e-14;
    solver.maxSteps = 1e6;
    const slope = (t: number, [volts]: readonly number[]) => [
      ((Math.cos(omega * t) - volts) / topOhms - topFarads * omega * Math.sin(omega * t) - volts / foot) / seconds,
    ];
    // Long enough for what it starts with to die away; then a quarter of a period apart gives the amplitude.
    const settled = Math.ceil(40 * foot * seconds * hertz) / hertz;
    const first = solver.solve(slope, 0, [0], settled).y[0];
    const later = solver.solve(slope, settled, [first], settled + 1 / (4 * hertz)).y[0];
    return Math.hypot(first, later);
  }

  it.each([
    [0, 100e-12],
    [0.02e-12, 100e-12],
  ])('with %d F across the string the meter sees 0.707 of a sine at the band’s end', (topFarads, footFarads) => {
    const divider = dividerOf({ topFarads, footFarads });
    const { bandHertz, ratio } = figuresOf({ topFarads, footFarads });
    expect(gainAt(bandHertz!, divider, 10e6 / 11) * ratio).toBeCloseTo(Math.SQRT1_2, 4);
  });

  it('with the level capacitance every frequency is shown alike', () => {
    const { levelFarads, ratio } = figuresOf({});
    const divider = dividerOf({ topFarads: levelFarads });
    expect(figuresOf({ topFarads: levelFarads }).bandHertz).toBeNull();
    for (const hertz of [100, 1e3, 2e4]) expect(gainAt(hertz, divider, 10e6 / 11) * ratio).toBeCloseTo(1, 4);
  });
});

describe('in a design', () => {
  const withOutput = (
    output: Partial<Design['output']>,
    load: Design['load'] = { kind: 'current', amps: 1e-4 },
  ): Design => ({
    ...newDesign('Divided'),
    output: { seriesOhms: 1e5, bleederOhms: null, divider: null, smoothing: [], electrodeFarads: 0, ...output },
    load,
  });

  it('loads the ladder as a resistor of its size does', () => {
    const divider = dividerOf({ topOhms: 50e6, footOhms: 50e3 });
    const ohms = dividerOhms(divider);
    for (const load of [{ kind: 'current' as const, amps: 1e-4 }, { kind: 'open' as const }]) {
      const [divided, bled] = [withOutput({ divider }, load), withOutput({ bleederOhms: ohms }, load)].map((one) =>
        predict(one),
      );
      expect(divided.output.meanVolts).toBeCloseTo(bled.output.meanVolts!, 9);
      expect(divided.optimumStages).toBe(bled.optimumStages);
      expect(divided.output).toMatchObject({ bleederAmps: 0, dividerAmps: bled.output.bleederAmps });
      expect(divided.divider!.shownVolts! * divided.divider!.ratio).toBeCloseTo(divided.output.terminalMeanVolts!, 9);
      expect(bled.divider).toBeNull();
    }
    const both = withOutput({ divider, bleederOhms: 200e6 });
    expect(acrossOhms(both.output)).toBeCloseTo(1 / (1 / ohms + 1 / 200e6), 3);
    const { output } = predict(both);
    expect(output.bleederAmps! * 200e6).toBeCloseTo(output.dividerAmps! * ohms, 9);
  });

  it('and does so in the time domain, where power adds up with it', () => {
    const load = { kind: 'open' as const };
    const bench = benchDesign({ ladder: { stages: 2 }, load });
    const farads = bench.ladder.capacitor.farads;
    const ohms = 200 / (bench.driver.kind === 'measured' ? bench.driver.frequencyHertz * farads : NaN);
    const divider = dividerOf({ topOhms: ohms, footOhms: ohms / 1e3, meterOhms: ohms / 1e2 });
    const run = (output: Partial<Design['output']>) =>
      finish(transientOf({ ...bench, output: { ...bench.output, ...output } }, 200)).transient;
    const [divided, bled] = [run({ divider }), run({ bleederOhms: dividerOhms(divider) })];
    expect(divided.meanVolts / bled.meanVolts).toBeCloseTo(1, 9);
    expect(divided.acrossAmps / bled.acrossAmps).toBeCloseTo(1, 9);
    expect(
      divided.meanVolts / predict({ ...bench, output: { ...bench.output, divider } }).output.meanVolts!,
    ).toBeCloseTo(1, 2);
  });

  it('is refused where it would put more on the meter than that takes, and warned of where the foot may open', () => {
    const codes = (change: Partial<Divider>) =>
      predict(withOutput({ divider: dividerOf({ topOhms: 20e6, footOhms: 100e6, ...change }) }))
        .findings.filter(({ where }) => where.startsWith('$.output.divider'))
        .map(({ severity, code }) => `${severity} ${code}`);
    expect(codes({ meterVolts: 10 })).toEqual(['stop divider-over-meter', 'warn divider-foot-open']);
    expect(codes({ meterVolts: 1e4, clampVolts: 5e3 })).toEqual([]);
    expect(codes({ meterVolts: 1e4, clampVolts: 1 })).toEqual(['warn divider-clamp-low']);
    expect(codes({ topRatedVolts: 10 })).toEqual(['stop resistor-over-rating', 'warn divider-foot-open']);
    const margins = predict(
      withOutput({ divider: dividerOf({ topRatedVolts: 1e5, topWatts: 1, meterVolts: 1e3 }) }),
    ).margins;
    expect(margins.map(({ id }) => id)).toEqual(
      expect.arrayContaining(['dividerVoltage', 'dividerPower', 'dividerMeter']),
    );
  });
});
