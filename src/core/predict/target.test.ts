import { newDesign } from '../design/new-design';
import { predict } from './predict';
import { targetOutcome, voltsFor, type Target } from './target';

const target: Target = { volts: 10e3, amps: 1e-4, ripplePeakToPeakFraction: 0.02, of: 'mean' };
const met = { volts: 10e3, amps: 1e-4, rippleFraction: 0.02 };

it('is met on the line, and missed under it by any of the three', () => {
  expect(targetOutcome(target, met)).toEqual({
    met: true,
    voltsExcess: 0,
    voltsMet: true,
    ampsMet: true,
    rippleMet: true,
  });
  expect(targetOutcome(target, { ...met, volts: 9999 })).toMatchObject({ met: false, voltsMet: false });
  expect(targetOutcome(target, { ...met, amps: 0.9e-4 })).toMatchObject({ met: false, ampsMet: false });
  expect(targetOutcome(target, { ...met, rippleFraction: 0.021 })).toMatchObject({ met: false, rippleMet: false });
});

it('half a percent less current is the same load: a resistance draws a hair less as the output is a hair low', () => {
  expect(targetOutcome(target, { ...met, amps: 0.996e-4 }).ampsMet).toBe(true);
  expect(targetOutcome(target, { ...met, amps: 0.994e-4 }).ampsMet).toBe(false);
});

it('says by how much the output is over, below zero where it is short', () => {
  expect(targetOutcome(target, { ...met, volts: 12e3 }).voltsExcess).toBeCloseTo(0.2, 12);
  expect(targetOutcome(target, { ...met, volts: 7e3 }).voltsExcess).toBeCloseTo(-0.3, 12);
});

it('without a figure nothing is met, and ripple that nobody asks for stops nothing', () => {
  expect(targetOutcome(target, { volts: null, amps: null, rippleFraction: null })).toEqual({
    met: false,
    voltsExcess: null,
    voltsMet: false,
    ampsMet: false,
    rippleMet: null,
  });
  const anyRipple = { ...target, ripplePeakToPeakFraction: null };
  expect(targetOutcome(anyRipple, { ...met, rippleFraction: 0.9 })).toMatchObject({ met: true, rippleMet: null });
});

it('a slack lets through what is short by less, and no more', () => {
  const slack = { volts: 0.02, ripple: 0.1 };
  expect(targetOutcome(target, { ...met, volts: 9810, rippleFraction: 0.0219 }, slack).met).toBe(true);
  expect(targetOutcome(target, { ...met, volts: 9790 }, slack).met).toBe(false);
  expect(targetOutcome(target, { ...met, rippleFraction: 0.0221 }, slack).met).toBe(false);
});

it('is what a prediction says of its own output', () => {
  const design = { ...newDesign('Aimed'), load: { kind: 'current' as const, amps: 1e-5 } };
  const { output } = predict(design);
  for (const factor of [0.9, 1.1]) {
    const aimed = { ...design, target: { ...target, volts: output.meanVolts! * factor, amps: 1e-5 } };
    const outcome = predict(aimed).target!;
    expect(outcome.voltsMet).toBe(factor < 1);
    expect(outcome.voltsExcess).toBeCloseTo(1 / factor - 1, 9);
  }
});

describe('a target of the peak or of the valley of the ripple', () => {
  const clamp = { volts: 5000, amps: 1e-4, rippleFraction: 1.8, peakVolts: 9.6e3, valleyVolts: 100 };
  const of = (form: Target['of'], volts: number) => targetOutcome({ ...target, volts, of: form }, clamp).voltsMet;
  it('goes by the highest or the lowest that is told', () => {
    expect([of('mean', 5000), of('mean', 5001)]).toEqual([true, false]);
    expect([of('peak', 9600), of('peak', 9601)]).toEqual([true, false]);
    expect([of('valley', 100), of('valley', 101)]).toEqual([true, false]);
  });
  it('where they are not told half the ripple lies to either side, and without a figure there is none', () => {
    expect(voltsFor({ of: 'peak' }, met)).toBeCloseTo(10.1e3, 9);
    expect(voltsFor({ of: 'valley' }, met)).toBeCloseTo(9.9e3, 9);
    expect(voltsFor({ of: 'peak' }, { volts: null, amps: null, rippleFraction: null })).toBeNull();
  });
  it('is what a design is held against', () => {
    const base = newDesign('Clamp');
    const design = {
      ...base,
      ladder: { ...base.ladder, topology: 'clamp' as const },
      load: { kind: 'current' as const, amps: 1e-5 },
    };
    const { output } = predict(design);
    const excess = (form: Target['of']) =>
      predict({ ...design, target: { ...target, volts: 1000, of: form } }).target!.voltsExcess;
    expect(excess('mean')).toBeCloseTo(output.meanVolts! / 1000 - 1, 9);
    expect(excess('peak')).toBeCloseTo(output.maxVolts! / 1000 - 1, 9);
    expect(excess('valley')).toBeCloseTo(output.minVolts! / 1000 - 1, 9);
    expect(output.maxVolts! - output.minVolts!).toBeGreaterThan(0.5 * output.meanVolts!);
  });
});
