import { engineeringScale, formatQuantity, quantityParts } from './format-quantity';
import { formatSubject, RATINGS, ratingKind, type RatingId } from './ratings';
import { readQuantity } from './read-quantity';
import { typedUnit, UNIT_NAMES, UNIT_SPELLINGS, type Unit } from './units';

const plain = (value: number, unit: Unit, digits?: number) =>
  formatQuantity(value, unit, digits).replace('\u00a0', ' ');

describe('units are written as the trade writes them', () => {
  it.each<[number, Unit, string]>([
    [4.7e-9, 'F', '4.70 nF'],
    [0.0125, 'm', '12.5 mm'],
    [2.5, 'm', '2.50 m'],
    [110e-6, 'm²', '110 mm²'],
    [3.2e-5, 'm³', '32.0 cm³'],
    [0.3, 'T', '300 mT'],
    [20, 'K', '20.0 K'],
    [25e6, 'V/s', '25.0 V/µs'],
    [1.5e3, 'VA', '1.50 kVA'],
    [2.2e-3, 'V·s', '2.20 mV·s'],
    [0.25, '%', '25.0 %'],
    [12, '', '12'],
    [0, 'V', '0 V'],
    [-3600, 'V', '−3.60 kV'],
  ])('%d %s is %s', (value, unit, words) => expect(plain(value, unit)).toBe(words));
  it('a fraction of ten and more is not written in per cent', () => {
    expect(plain(9.99, '%')).toBe('999 %');
    expect(plain(10, '%')).toBe('over 10 times');
    expect(plain(4567, '%')).toBe('over 10 times');
    expect(plain(-12, '%')).toBe('−over 10 times');
  });
  it('what is no number is a dash', () => {
    for (const value of [NaN, Infinity, -Infinity]) expect(quantityParts(value, 'V').digits).toBe('–');
  });
});

it('a scale names its unit once, prefix or size', () => {
  expect(engineeringScale(12_000, 'V')).toEqual({ per: 1e3, name: 'kV' });
  expect(engineeringScale(2e-5, 'm³')).toEqual({ per: 1e-6, name: 'cm³' });
  expect(engineeringScale(0.4, '%')).toEqual({ per: 0.01, name: '%' });
  expect(engineeringScale(0, 'A')).toEqual({ per: 1, name: 'A' });
});

it('every unit has a name, is read as it is spelt, and is typed as its field says', () => {
  for (const [unit, spellings] of UNIT_SPELLINGS) {
    expect(UNIT_NAMES.get(unit)).toBeDefined();
    for (const spelling of spellings) {
      if (unit === '°C' && spelling === 'C') continue;
      const read = readQuantity(`7 ${spelling}`, unit);
      expect(read).toEqual({ ok: true, value: expect.closeTo(unit === '%' ? 0.07 : 7, 12) });
    }
    // A bare number is in the unit that stands behind the field.
    // Of farads there are none in this trade: there it is asked about.
    const bare = readQuantity(unit === 'F' ? '3e-9' : '3', unit);
    if (unit === 'F') {
      expect(bare).toEqual({ ok: true, value: 3e-9 });
      continue;
    }
    expect(bare.ok && bare.value).toBeCloseTo(3 * typedUnit(unit).per, 12);
  }
});

describe('ratings', () => {
  const ids = Object.keys(RATINGS) as RatingId[];
  it.each(ids)('%s has a subject, a rating, a known unit, and advice wherever it finds something', (id) => {
    const { subject, rating, unit, where, over, close, advice } = ratingKind(id);
    expect(subject).toMatch(/^[A-Z]/);
    expect(rating).not.toBe('');
    expect(UNIT_NAMES.has(unit)).toBe(true);
    expect(where).toMatch(/^\$\.[a-z]+/);
    expect(advice !== '').toBe(over !== null || close !== null);
    if (advice !== '') expect(advice).toMatch(/\.$/);
  });
  it('names the one part where there is one', () => {
    expect(formatSubject({ id: 'capacitorVoltage', part: 'C3' })).toBe('Capacitors (C3)');
    expect(formatSubject({ id: 'coreFlux', part: null })).not.toContain('(');
  });
});
