import { newDesign } from '../design/new-design';
import type { Design } from '../design/design-schema';
import { driverOfKind } from '../design/driver-of-kind';
import { windingSchema } from '../design/winding-schema';
import { driveOf } from '../operating/ladder-of-design';
import { predict } from '../predict/predict';

const plain = newDesign('Margins');
const withOutput = (
  output: Partial<Design['output']>,
  resistors: { [name in keyof Design['resistors']]?: Partial<Design['resistors']['series']> } = {},
  amps = 1e-4,
): Design => ({
  ...plain,
  output: { ...plain.output, ...output },
  resistors: {
    series: { ...plain.resistors.series, ...resistors.series },
    bleeder: { ...plain.resistors.bleeder, ...resistors.bleeder },
  },
  load: { kind: 'current', amps },
});
const marginFor = (design: Design, part: string, what: string) =>
  predict(design).margins.find((one) => one.part.startsWith(part) && one.what === what)!;

it('weakest first, and the smallest of all is the design’s', () => {
  const { margins, smallestMargin } = predict(withOutput({}));
  const values = margins.map(({ margin }) => margin);
  expect(values).toEqual([...values].sort((a, b) => a - b));
  expect(smallestMargin).toBe(values[0]);
  expect(margins.map(({ part }) => part.split(' ')[0])).toEqual(expect.arrayContaining(['Capacitors', 'Diodes']));
});

it('a bleeder by hand: V^2 / R over its resistors, all of the no-load voltage over their bodies', () => {
  const design = withOutput({ bleederOhms: 100e6 }, { bleeder: { count: 4, watts: 0.5, bodyVolts: 1500 } });
  const volts = predict(design).output.noLoadVolts;
  expect(marginFor(design, 'Bleeder', 'power').stress).toBeCloseTo(volts ** 2 / 100e6 / 4, 12);
  expect(marginFor(design, 'Bleeder', 'over its body')).toMatchObject({ stress: volts / 4, case: 'no load' });
  const thin = withOutput({ bleederOhms: 100e6 }, { bleeder: { count: 1, watts: 0.5, bodyVolts: 1500 } });
  expect(predict(thin).findings.map(({ code }) => code)).toContain('resistor-over-rating');
  expect(predict(design).findings.map(({ code }) => code)).not.toContain('resistor-over-rating');
});

it('a series resistor: I^2 R at the load, the whole output when that is shorted', () => {
  const design = withOutput({ seriesOhms: 1e6 }, { series: { count: 2, watts: 2, bodyVolts: 3500 } }, 2e-4);
  expect(marginFor(design, 'Series', 'power').stress).toBeCloseTo((2e-4 ** 2 * 1e6) / 2, 12);
  expect(marginFor(design, 'Series', 'over its body')).toMatchObject({
    case: 'shorted output',
    stress: predict(design).output.noLoadVolts / 2,
  });
  expect(predict(withOutput({ seriesOhms: 1e6 })).margins.some(({ part }) => part === 'Series resistor')).toBe(false);
});

it('what is rated in driver and transformer stands among them', () => {
  const driven: Design = { ...plain, ...driverOfKind('resonant-push-pull', plain, driveOf(plain)) };
  const { margins, source } = predict(driven);
  const flux = source.figures.find(({ key }) => key === 'flux')!.value;
  expect(margins.find(({ part }) => part === 'Core')).toMatchObject({ stress: flux, rated: 300, unit: 'mT' });
  expect(margins.map(({ part }) => part)).toEqual(expect.arrayContaining(['Transistor', 'Gate resistor']));
});

it('ladder voltages stand with the drive at its highest too, and that decides', () => {
  const { spread, ladder } = plain;
  const design: Design = {
    ...plain,
    spread: { ...spread, peaks: 0.1 },
    ladder: { ...ladder, diode: { ...ladder.diode, peakInverseVolts: 30e3 } },
  };
  const of = (when: string) =>
    predict(design).margins.find(({ what, case: one }) => what === 'reverse' && one === when)!;
  expect(of('drive high').stress / of('no load').stress).toBeCloseTo(1.1, 12);
  expect(1 + of('drive high').margin).toBeCloseTo((1 + of('no load').margin) / 1.1, 12);
  const steady = predict({ ...design, spread: { ...spread, peaks: 0 } });
  expect(steady.margins.some(({ case: when }) => when === 'drive high')).toBe(false);
  // Three tenths in hand that a drive four tenths too high uses up.
  const { stress } = of('no load');
  const close: Design = {
    ...design,
    spread: { ...spread, peaks: 0.4 },
    ladder: { ...ladder, diode: { ...ladder.diode, peakInverseVolts: 1.3 * stress } },
  };
  expect(predict(close).findings.find(({ code }) => code === 'diode-margin-thin')!.message).toContain(
    'over the rating',
  );
});

it('current and heat of capacitors and diodes stand among them once loss, size or rating is known', () => {
  const { ladder } = plain;
  const warm = (capacitor: object, diode: object): Design => ({
    ...withOutput({}, {}, 1e-4),
    ladder: {
      ...ladder,
      capacitor: { ...ladder.capacitor, ...capacitor },
      diode: { ...ladder.diode, ...diode },
    },
  });
  const body = { lossTangent: 0.02, lengthMetres: 8e-3, diameterMetres: 12e-3, ratedRmsAmps: 0.02 };
  const design = warm(body, { averageAmps: 5e-3, forwardVolts: 30 });
  const { capacitors, diodes } = predict(design);
  const most = (values: (number | null)[]) => Math.max(...values.map((value) => value!));
  expect(marginFor(design, 'Capacitors', 'current, RMS').stress).toBe(most(capacitors.map(({ rmsAmps }) => rmsAmps)));
  expect(marginFor(design, 'Capacitors', 'warmer by')).toMatchObject({
    stress: most(capacitors.map(({ riseKelvin }) => riseKelvin)),
    rated: 20,
  });
  expect(marginFor(design, 'Diodes', 'heat')).toMatchObject({
    stress: most(diodes.map(({ watts }) => watts)),
    rated: 5e-3 * 30,
  });
  const unknown = predict(warm({}, {})).margins.map(({ what }) => what);
  expect(unknown.some((what) => what === 'current, RMS' || what === 'warmer by')).toBe(false);
  const codes = (one: Design) => predict(one).findings.map(({ code }) => code);
  expect(codes(warm({ ...body, lossTangent: 0.9, diameterMetres: 1e-3, ratedRmsAmps: 1e-4 }, {}))).toEqual(
    expect.arrayContaining(['capacitor-warms', 'capacitor-over-current']),
  );
  // Slow at this frequency: what flows back heats more than the load does.
  const slow = warm({}, { averageAmps: 2e-3, forwardVolts: 2, recoverySeconds: 3e-6 });
  expect(codes(slow)).toContain('diode-heats');
  const { watts, recoveryWatts } = predict(slow).diodes[0];
  expect(recoveryWatts! / watts!).toBeGreaterThan(0.5);
});

it('the primary’s wire stands among them once it is entered, by 3 A for each square millimetre', () => {
  const driven: Design = { ...plain, ...driverOfKind('resonant-push-pull', plain, driveOf(plain)) };
  const wound = (primary: object): Design => ({ ...driven, winding: windingSchema.parse({ primary }) });
  expect(predict(wound({})).margins.some(({ part }) => part === 'Primary wire')).toBe(false);
  const design = wound({ wireMetres: 0.3e-3, strands: 20 });
  const tank = predict(design).source.figures.find(({ key }) => key === 'tank-amps')!.value;
  const wire = marginFor(design, 'Primary wire', 'current, RMS');
  expect(wire.stress).toBe(tank);
  const thin = wound({ wireMetres: 0.3e-3 });
  const both: Design = {
    ...thin,
    winding: { ...thin.winding!, secondary: { ...thin.winding!.secondary, wireMetres: 50e-6 } },
  };
  // 5.89 mA through 0.05 mm.
  expect(marginFor(both, 'Secondary wire', 'current, RMS')).toMatchObject({ stress: predict(both).input.amps });
  expect(marginFor(both, 'Secondary wire', 'current, RMS').rated).toBeCloseTo(5.89e-3, 5);
  expect(predict(thin).margins.some(({ part }) => part === 'Secondary wire')).toBe(false);
  // 20 strands of 0.0707 mm2.
  expect(wire.rated).toBeCloseTo(3 * 20 * 0.070686, 4);
  const flyback: Design = { ...plain, ...driverOfKind('flyback', plain, driveOf(plain)) };
  if (flyback.driver.kind !== 'flyback') throw new Error('a flyback only');
  const { figures } = predict(flyback).source;
  const valueOf = (key: string) => figures.find((one) => one.key === key)!.value;
  // A triangle, by its mean square: a third of its peak's over its part of the period.
  expect(valueOf('primary-rms') ** 2).toBeCloseTo((valueOf('peak-amps') ** 2 * flyback.driver.duty) / 3, 9);
});

it('each transistor carries all of the supply’s current half of the time, a single one the primary’s', () => {
  for (const kind of ['resonant-push-pull', 'inverter', 'flyback', 'blocking-oscillator'] as const) {
    const made: Design = { ...withOutput({}), ...driverOfKind(kind, plain, driveOf(plain)) };
    const rated = (ratedAmps: number | null): Design => ({ ...made, driver: { ...made.driver, ratedAmps } as never });
    const { source } = predict(made);
    const valueOf = (link: string, key: string) =>
      source.figures.find((one) => one.link === link && one.key === key)?.value ?? null;
    const single = kind === 'flyback' || kind === 'blocking-oscillator';
    const stress = single ? valueOf('driver', 'primary-rms')! : valueOf('driver', 'transistor-amps')!;
    if (kind === 'resonant-push-pull') expect(stress * Math.SQRT2).toBeCloseTo(valueOf('supply', 'amps')!, 12);
    expect(marginFor(rated(2 * stress), 'Transistor', 'current, RMS')).toMatchObject({ stress, rated: 2 * stress });
    expect(predict(rated(null)).margins.some(({ part, what }) => part === 'Transistor' && what !== 'blocks')).toBe(
      false,
    );
    const codes = predict(rated(stress / 2)).findings.map(({ code }) => code);
    expect(codes).toContain('transistor-over-current');
  }
});

it('what a resistor must take at once is said in joules', () => {
  const { findings } = predict(withOutput({ seriesOhms: 1e5 }, { series: { pulseJoules: 1e-6 } }));
  expect(findings.find(({ code }) => code === 'resistor-over-rating')!.message).toMatch(/pulse: .*J on each/);
});
