import { newDesign } from '../design/new-design';
import type { Design, MeasuredDesign } from '../design/design-schema';
import { driverOfKind } from '../drive/driver-kinds';
import { windingSchema } from '../design/winding-schema';
import { driveOf } from '../operating/ladder-of-design';
import { predict } from '../predict/predict';
import type { Condition, RatingId } from '../quantity/ratings';

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
const marginFor = (design: Design, id: RatingId) => predict(design).margins.find((one) => one.id === id)!;
const ids = (design: Design) => predict(design).margins.map(({ id }) => id);

it('weakest first, and the smallest of all is the design’s', () => {
  const { margins, smallestMargin } = predict(withOutput({}));
  const values = margins.map(({ margin }) => margin);
  expect(values).toEqual([...values].sort((a, b) => a - b));
  expect(smallestMargin).toBe(values[0]);
  expect(margins.map(({ id }) => id)).toEqual(expect.arrayContaining(['capacitorVoltage', 'diodeReverseVoltage']));
  expect(margins.find(({ id }) => id === 'capacitorVoltage')!.part).toMatch(/^C\d+$/);
});

it('a bleeder by hand: V^2 / R over its resistors, all of the no-load voltage over their bodies', () => {
  const design = withOutput({ bleederOhms: 100e6 }, { bleeder: { count: 4, watts: 0.5, ratedVolts: 1500 } });
  const { noLoadVolts, noLoadPeakVolts } = predict(design).output;
  expect(marginFor(design, 'bleederPower').stress).toBeCloseTo(noLoadVolts ** 2 / 100e6 / 4, 12);
  expect(marginFor(design, 'bleederVoltage')).toMatchObject({ stress: noLoadPeakVolts / 4, condition: 'noLoad' });
  const thin = withOutput({ bleederOhms: 100e6 }, { bleeder: { count: 1, watts: 0.5, ratedVolts: 1500 } });
  expect(predict(thin).findings.map(({ code }) => code)).toContain('resistor-over-rating');
  expect(predict(design).findings.map(({ code }) => code)).not.toContain('resistor-over-rating');
});

it('across an unsmoothed output a bleeder stands the peak, and is heated by mean and swing', () => {
  // A sine of 10 kV clamped to ground swings from 0 to 20 kV: mean 10 kV, RMS 10 kV sqrt(1.5), by hand.
  const { driver, ladder } = plain as MeasuredDesign;
  const clamp: Design = {
    ...withOutput({ bleederOhms: 1e9 }, { bleeder: { count: 2, watts: 2, ratedVolts: 12_000 } }),
    driver: { ...driver, positivePeakVolts: 10e3, negativePeakVolts: 10e3, seriesOhms: 0 },
    ladder: {
      ...ladder,
      topology: 'clamp',
      stages: 0.5,
      strayFarads: 0,
      diode: { ...ladder.diode, forwardVolts: 0, junctionFarads: 0 },
    },
  };
  expect(predict(clamp).output.noLoadPeakVolts).toBeCloseTo(20e3, 6);
  expect(marginFor(clamp, 'bleederVoltage').stress).toBeCloseTo(10e3, 6);
  expect(marginFor(clamp, 'bleederPower').stress).toBeCloseTo((1.5 * 10e3 ** 2) / 1e9 / 2, 9);
});

it('a series resistor: I^2 R at the load, the whole output when that is shorted', () => {
  const design = withOutput({ seriesOhms: 1e6 }, { series: { count: 2, watts: 2, ratedVolts: 3500 } }, 2e-4);
  expect(marginFor(design, 'seriesPower').stress).toBeCloseTo((2e-4 ** 2 * 1e6) / 2, 12);
  expect(marginFor(design, 'seriesVoltage')).toMatchObject({
    condition: 'shortedOutput',
    stress: predict(design).output.noLoadPeakVolts / 2,
  });
  expect(ids(withOutput({ seriesOhms: 1e6 })).filter((id) => id.startsWith('series'))).toEqual([]);
});

it('what is rated in driver and transformer stands among them', () => {
  const driven: Design = { ...plain, ...driverOfKind('resonant-push-pull', plain, driveOf(plain)) };
  const { margins, source } = predict(driven);
  const flux = source.figures.fluxTesla!;
  expect(margins.find(({ id }) => id === 'coreFlux')).toMatchObject({ stress: flux, rated: 0.3 });
  expect(margins.map(({ id }) => id)).toEqual(expect.arrayContaining(['transistorVoltage', 'gatePower']));
});

it('ladder voltages stand with the drive at its highest too, and that decides', () => {
  const { spread, ladder } = plain;
  const design: Design = {
    ...plain,
    spread: { ...spread, peaks: 0.1 },
    ladder: { ...ladder, diode: { ...ladder.diode, peakInverseVolts: 30e3 } },
  };
  const of = (when: Condition) =>
    predict(design).margins.find(({ id, condition }) => id === 'diodeReverseVoltage' && condition === when)!;
  expect(of('driveHigh').stress / of('noLoad').stress).toBeCloseTo(1.1, 12);
  expect(1 + of('driveHigh').margin).toBeCloseTo((1 + of('noLoad').margin) / 1.1, 12);
  const steady = predict({ ...design, spread: { ...spread, peaks: 0 } });
  expect(steady.margins.some(({ condition }) => condition === 'driveHigh')).toBe(false);
  // Three tenths in hand that a drive four tenths too high uses up.
  const { stress } = of('noLoad');
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
  expect(marginFor(design, 'capacitorCurrent').stress).toBe(most(capacitors.map(({ rmsAmps }) => rmsAmps)));
  expect(marginFor(design, 'capacitorTemperatureRise')).toMatchObject({
    stress: most(capacitors.map(({ temperatureRiseKelvin }) => temperatureRiseKelvin)),
    rated: 20,
  });
  expect(marginFor(design, 'diodeHeat')).toMatchObject({
    stress: most(diodes.map(({ watts }) => watts)),
    rated: 5e-3 * 30,
  });
  for (const unknown of ['capacitorCurrent', 'capacitorTemperatureRise'])
    expect(ids(warm({}, {}))).not.toContain(unknown);
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
  expect(ids(wound({}))).not.toContain('primaryCurrent');
  const design = wound({ wireMetres: 0.3e-3, strands: 20 });
  const tank = predict(design).source.figures.tankRmsAmps!;
  const wire = marginFor(design, 'primaryCurrent');
  expect(wire.stress).toBe(tank);
  const thin = wound({ wireMetres: 0.3e-3 });
  const both: Design = {
    ...thin,
    winding: { ...thin.winding!, secondary: { ...thin.winding!.secondary, wireMetres: 50e-6 } },
  };
  // 5.89 mA through 0.05 mm.
  expect(marginFor(both, 'secondaryCurrent')).toMatchObject({ stress: predict(both).input.amps });
  expect(marginFor(both, 'secondaryCurrent').rated).toBeCloseTo(5.89e-3, 5);
  expect(ids(thin)).not.toContain('secondaryCurrent');
  // 20 strands of 0.0707 mm2.
  expect(wire.rated).toBeCloseTo(3 * 20 * 0.070686, 4);
  const flyback: Design = { ...plain, ...driverOfKind('flyback', plain, driveOf(plain)) };
  if (flyback.driver.kind !== 'flyback') throw new Error('a flyback only');
  const { figures } = predict(flyback).source;
  // A triangle, by its mean square: a third of its peak's over its part of the period.
  expect(figures.primaryRmsAmps! ** 2).toBeCloseTo((figures.switchPeakAmps! ** 2 * flyback.driver.duty) / 3, 9);
});

it('each transistor carries all of the supply’s current half of the time, a single one the primary’s', () => {
  for (const kind of ['resonant-push-pull', 'inverter', 'flyback', 'blocking-oscillator'] as const) {
    const made: Design = { ...withOutput({}), ...driverOfKind(kind, plain, driveOf(plain)) };
    const rated = (ratedAmps: number | null): Design => ({ ...made, driver: { ...made.driver, ratedAmps } as never });
    const { figures } = predict(made).source;
    const single = kind === 'flyback' || kind === 'blocking-oscillator';
    const stress = single ? figures.primaryRmsAmps! : figures.transistorRmsAmps!;
    // What the gates draw does not pass the choke; its ripple adds by its square.
    if (kind === 'resonant-push-pull') {
      const gateAmps = (24 - 0.7 + 24 - 12) / 470;
      const ripple = (0.237 * 24) / (2 * Math.PI * figures.frequencyHertz! * 100e-6);
      expect(stress * Math.SQRT2).toBeCloseTo(Math.hypot(figures.supplyAmps! - gateAmps, ripple), 9);
    }
    expect(marginFor(rated(2 * stress), 'transistorCurrent')).toMatchObject({ stress, rated: 2 * stress });
    expect(ids(rated(null))).not.toContain('transistorCurrent');
    const codes = predict(rated(stress / 2)).findings.map(({ code }) => code);
    expect(codes).toContain('transistor-over-current');
  }
});

it('what a resistor must take at once is said in joules', () => {
  const { findings } = predict(withOutput({ seriesOhms: 1e5 }, { series: { pulseJoules: 1e-6 } }));
  expect(findings.find(({ code }) => code === 'resistor-over-rating')!.message).toMatch(
    /pulse energy: .*J output shorted/,
  );
});

it('a choke is held against its saturation current by its load current and half its ripple', () => {
  const driven: Design = { ...withOutput({}), ...driverOfKind('resonant-push-pull', plain, driveOf(plain)) };
  const { figures } = predict(driven).source;
  // The choke carries the supply's current but for what the gates draw; by hand, its ripple beside it: 0.661 Vs / (2 pi f L).
  const ripple = (0.661 * 24) / (2 * Math.PI * figures.frequencyHertz! * 100e-6);
  const peak = figures.supplyAmps! - (24 - 0.7 + 24 - 12) / 470 + ripple / 2;
  const rated = (chokeSaturationAmps: number): Design => ({
    ...driven,
    driver: { ...driven.driver, chokeSaturationAmps } as never,
  });
  expect(marginFor(rated(2 * peak), 'chokeSaturation').stress).toBeCloseTo(peak, 9);
  expect(marginFor(rated(2 * peak), 'chokeSaturation').margin).toBeCloseTo(1, 9);
  expect(ids(driven)).not.toContain('chokeSaturation');
  const codes = (amps: number) => predict(rated(amps)).findings.map(({ code }) => code);
  expect(codes(2 * peak).filter((code) => code.startsWith('choke'))).toEqual([]);
  expect(codes(1.1 * peak)).toContain('choke-near-saturation');
  expect(codes(0.9 * peak)).toContain('choke-saturates');
});
