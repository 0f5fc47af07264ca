import { padded, padUnits, type PadKey } from './pad';
import { typedReading } from './typed-reading';

const typed = (keys: string, from = '') => [...keys].reduce((text, key) => padded(text, key as PadKey), from);

it.each([
  ['16.4', '16.4'],
  ['.5', '0.5'],
  ['±.5', '-0.5'],
  ['007', '7'],
  ['1..5.', '1.5'],
  ['48±', '-48'],
  ['48±±', '48'],
  ['12⌫3', '13'],
  ['⌫⌫', ''],
  ['1234567890', '12345678'],
])('the keys %s leave %s', (keys, text) => {
  expect(typed(keys)).toBe(text);
});

it('whatever is pressed, what stands there reads as a number or as the beginning of one', () => {
  const keys: PadKey[] = ['0', '5', '.', '±', '⌫'];
  let text = '';
  for (let at = 0; at < 2000; at += 1) {
    text = padded(text, keys[(at * 7919 + ((at * at) % 13)) % keys.length]);
    expect(text).toMatch(/^-?(\d+\.?\d*)?$/);
  }
});

it('what is typed reads in each unit that is offered', () => {
  const read = (unit: 'V' | 'A') =>
    padUnits(unit).map((name) => typedReading(`${typed('12.5')} ${name}`, unit, { isSigned: false, most: null }));
  expect(read('V')).toEqual([{ value: 0.0125 }, { value: 12.5 }, { value: 12500 }]);
  expect(read('A')).toEqual([{ value: 12.5e-6 }, { value: 0.0125 }, { value: 12.5 }]);
});

describe('a typed reading', () => {
  const volts = (text: string, most: number | null = null) => typedReading(text, 'V', { isSigned: true, most });
  it('has a sign where its kind has one', () => {
    expect([volts('-48.9'), volts('− 48.9'), volts('+48.9')]).toEqual([
      { value: -48.9 },
      { value: -48.9 },
      { value: 48.9 },
    ]);
    expect(typedReading('-3', 'Hz', { isSigned: false, most: null })).toHaveProperty('fault');
  });

  it('over the meter, of another unit, or no number is none', () => {
    expect(volts('600', 600)).toEqual({ value: 600 });
    for (const text of ['601', '-601', '1.2kV']) expect(volts(text, 600)).toHaveProperty('fault');
    for (const text of ['12 A', 'about 12', '', '1e400']) expect(volts(text)).toHaveProperty('fault');
  });
});
