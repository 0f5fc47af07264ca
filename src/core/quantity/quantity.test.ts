import fc from 'fast-check';
import {
  engineeringScale,
  formatPlain,
  quantityParts,
  printForField,
  printQuantity,
  formatQuantity,
} from './format-quantity';
import { readQuantity } from './read-quantity';
import type { Unit } from './units';

const value = (text: string, unit?: Unit) => {
  const reading = readQuantity(text, unit);
  return reading.ok ? reading.value : reading.reason;
};

describe('reading', () => {
  it.each<[string, Unit, number]>([
    ['4n7', 'F', 4.7e-9],
    ['470n', 'F', 470e-9],
    ['0.47u', 'F', 0.47e-6],
    ['2M2', 'Ω', 2.2e6],
    ['6.8 kV', 'V', 6800],
    ['1e-9', 'F', 1e-9],
    ['6,8k', 'V', 6800],
    ['4R7', 'Ω', 4.7],
    ['R47', 'Ω', 0.47],
    ['470R', 'Ω', 470],
    ['100 pF', 'F', 100e-12],
    ['10µF', 'F', 10e-6],
    ['10 μF', 'F', 10e-6],
    ['10f', 'F', 10e-15],
    ['5 F', 'F', 5],
    ['38kHz', 'Hz', 38e3],
    ['40 µA', 'A', 40e-6],
    ['10Meg', 'Ω', 10e6],
    ['2 %', '%', 0.02],
    ['0.05', '%', 0.0005],
    ['−5', 'V', -5],
    ['.5', '', 0.5],
    ['0,470u', 'F', 0.47e-6],
    ['4n7F', 'F', 4.7e-9],
    ['12 volts', 'V', 12],
    ['5m', 'A', 5e-3],
    ['5M', 'Ω', 5e6],
  ])('%s in %s', (text, unit, expected) => expect(value(text, unit)).toBe(expected));

  it.each<[string, Unit, RegExp]>([
    ['', 'F', /Nothing entered/],
    ['abc', 'V', /not a number/],
    ['1,000', 'V', /1\.000 or 1000/],
    ['1.2.3', 'V', /more than one decimal mark/],
    ['1.234,5', 'V', /more than one decimal mark/],
    ['6.8 kA', 'V', /amperes/],
    ['12 Vrms', 'V', /RMS, peak or peak-to-peak/],
    ['4n7k', 'F', /Two prefixes/],
    ['4R7', 'F', /R marks ohms/],
    ['7 bananas', 'V', /not a unit/],
    ['1e999', 'V', /too large/],
    ['5k%', '%', /percentage/],
    ['Infinity', 'V', /not a number/],
    ['--3', 'V', /not a number/],
  ])('refuses %s in %s with the reason', (text, unit, reason) => expect(value(text, unit)).toMatch(reason));

  it('never throws and never yields a value that is not finite', () => {
    fc.assert(
      fc.property(fc.string(), fc.constantFrom<Unit>('V', 'F', '%', '', 'Ω'), (text, unit) => {
        const reading = readQuantity(text, unit);
        return reading.ok ? Number.isFinite(reading.value) : reading.reason.length > 0;
      }),
    );
  });
});

describe('printing', () => {
  it('reads back as exactly the same number over 1e-15..1e12', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 10, noNaN: true }),
        fc.integer({ min: -15, max: 11 }),
        fc.boolean(),
        (mantissa, exponent, negative) => {
          const number = (negative ? -1 : 1) * mantissa * 10 ** exponent;
          expect(value(printQuantity(number))).toBe(number);
        },
      ),
      { numRuns: 2000 },
    );
  });
  it.each([
    [4.7e-9, '4.7n'],
    [2.2e6, '2.2M'],
    [0, '0'],
    [1000, '1k'],
    [999.5, '999.5'],
    [-6800, '-6.8k'],
    [1e-15, '1f'],
    [3e-20, '3e-20'],
  ])('%d is %s', (number, text) => expect(printQuantity(number)).toBe(text));
  it('keeps as many digits as asked, rounding over to the next prefix', () => {
    expect(quantityParts(6800, 'V')).toEqual({ digits: '6.80', unit: 'kV' });
    expect(quantityParts(999.96, 'V')).toEqual({ digits: '1.00', unit: 'kV' });
    expect(quantityParts(40e-6, 'A')).toEqual({ digits: '40.0', unit: 'µA' });
    expect(quantityParts(-38_600, 'V')).toEqual({ digits: '−38.6', unit: 'kV' });
    expect(quantityParts(0.0164, '%')).toEqual({ digits: '1.64', unit: '%' });
    expect(quantityParts(1.54, '%')).toEqual({ digits: '154', unit: '%' });
    expect(quantityParts(NaN, 'V').digits).toBe('–');
    expect(formatQuantity(12_345, 'Hz', 4)).toBe('12.35\u00a0kHz');
    expect(printQuantity(12.000000000000002, 6)).toBe('12');
  });
  it('refuses what has no digits', () => expect(() => printQuantity(Infinity)).toThrow(RangeError));
});

describe('figures along a scale', () => {
  it.each([
    [1250.4, '1250'],
    [999.6, '1000'],
    [38.04, '38.0'],
    [0.4123, '0.412'],
    [-7, '−7.00'],
    [0, '0'],
  ])('%d is %s, never with a prefix of its own', (value, text) => expect(formatPlain(value)).toBe(text));
  it.each<[number, Unit, number, string]>([
    [39_000, 'V', 1e3, 'kV'],
    [1.2e-4, 'A', 1e-6, 'µA'],
    [2.5e9, 'V', 1e9, 'GV'],
    [3e-14, 'A', 1e-15, 'fA'],
    [12, 'V', 1, 'V'],
    [0, 'A', 1, 'A'],
  ])('a scale up to %d %s is divided by %d and named %s', (greatest, unit, per, name) => {
    const scale = engineeringScale(greatest, unit);
    expect(scale.name).toBe(name);
    expect(scale.per / per).toBeCloseTo(1, 12);
  });
});

it.each([
  [0.5, '', '0.5'],
  [2000, '', '2000'],
  [0.005, '%', '0.5'],
  [0.5, 'V', '500m'],
  [1e9, '', '1G'],
] as const)('a field shows %d of unit "%s" as %s, and reads it back', (number, unit, text) => {
  expect(printForField(number, unit)).toBe(text);
  expect(readQuantity(text, unit)).toEqual({ ok: true, value: number });
});

it('a bare number has no prefix: 0.774 under "mm" is no 774 m', () => {
  expect(formatQuantity(0.774, '')).toBe('0.774');
  expect(formatQuantity(12504, '')).toBe('12504');
  expect(formatQuantity(12504.2, '', 5)).toBe('12504');
  expect(formatQuantity(3.2e9, '')).toBe('3.20 G'.replace(' ', '\u00a0'));
});
