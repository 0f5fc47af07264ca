import { capacitorMarking, likelyResistorCode, resistorMarking } from './markings';
import { readQuantity } from './read-quantity';

// IEC 60062, from memory, as its examples are commonly printed.
it.each<[string, number, number | null]>([
  ['103', 10e-9, null],
  ['104K', 100e-9, 0.1],
  ['472M', 4.7e-9, 0.2],
  ['221J', 220e-12, 0.05],
  ['229', 2.2e-12, null],
  ['33J', 33e-12, 0.05],
  ['100', 10e-12, null],
  ['102Z', 1e-9, null],
  ['4n7K', 4.7e-9, 0.1],
  ['n47J', 470e-12, 0.05],
  ['p68D', 0.68e-12, null],
  ['1u0M', 1e-6, 0.2],
])('%s on a capacitor is %d F', (text, value, tolerance) => {
  expect(capacitorMarking(text)).toEqual({ value, tolerance });
});
it.each(['4n7', '10', '1034', '107', '100p', '', 'K', '47nX', 'nJ'])('“%s” is no marking of a capacitor', (text) =>
  expect(capacitorMarking(text)).toBeNull(),
);

it.each<[string, number, number]>([
  ['472J', 4700, 0.05],
  ['4K7J', 4700, 0.05],
  ['470RK', 470, 0.1],
  ['1M0F', 1e6, 0.01],
  ['R47J', 0.47, 0.05],
  ['10MM', 10e6, 0.2],
])('%s on a resistor is %d Ω', (text, value, tolerance) => {
  expect(resistorMarking(text)).toEqual({ value, tolerance });
});
it.each(['4K7', '470', '472K', '2M2', 'J'])('“%s” is left to the prefix', (text) =>
  expect(resistorMarking(text)).toBeNull(),
);
it('three digits of a series that is sold may be a marking; round hundreds are not', () => {
  expect(likelyResistorCode('103')).toBe(10e3);
  expect(likelyResistorCode('474')).toBe(470e3);
  for (const text of ['470', '100', '471', '253', '1034']) expect(likelyResistorCode(text)).toBeNull();
});

describe('in a field', () => {
  const values = (text: string, unit: 'F' | 'Ω') => {
    const reading = readQuantity(text, unit, undefined, true);
    return reading.ok ? reading.value : (reading.offers ?? []).map(({ value }) => value);
  };
  it('a marking with its letter is taken, one without is asked about, and so is a number of farads', () => {
    expect(values('103K', 'F')).toBe(10e-9);
    expect(values('103', 'F')).toEqual([10e-9, 103e-12, 103e-9]);
    expect(values('100', 'F')).toEqual([10e-12, 100e-12, 100e-9]);
    expect(values('4700', 'F')).toEqual([4700e-12, 4700e-9, 4700e-6]);
    expect(values('0,47', 'F')).toEqual([0.47e-12, 0.47e-9, 0.47e-6]);
    expect(values('2 F', 'F')).toBe(2);
    expect(values('1e-9', 'F')).toBe(1e-9);
    expect(values('103', 'Ω')).toEqual([10e3, 103]);
    expect(values('470', 'Ω')).toBe(470);
    // A meter's reading is what it says.
    expect(readQuantity('103', 'Ω')).toEqual({ ok: true, value: 103 });
  });
  it('volts may be marked direct or alternating', () => {
    for (const text of ['2kV DC', '2 kV dc', '2000VDC', '2kV=', '2k DC'])
      expect(readQuantity(text, 'V')).toEqual({ ok: true, value: 2000 });
    for (const text of ['2100 VAC', '2100V AC', '2.1 kV ac', '2100 V~'])
      expect(readQuantity(text, 'V')).toEqual({ ok: true, value: 2100, alternating: true });
    for (const text of ['5 A DC', 'AC', 'V dc']) expect(readQuantity(text, 'V').ok).toBe(false);
  });
  it.each<[string, 'F' | 'Ω' | 'V' | '' | 'm' | '%', number]>([
    ['2x470k', 'Ω', 940e3],
    ['2*470p', 'F', 940e-12],
    ['3/2', '', 1.5],
    ['470k*2/3', 'Ω', 940e3 / 3],
    ['3 × 5 kV', 'V', 15e3],
    ['2x103K', 'F', 20e-9],
    ['24/2', 'V', 12],
    ['2x0.5', 'm', 1e-3],
    ['1,5*2', '', 3],
    ['4*2 %', '%', 0.08],
  ])('%s in %s is %d', (text, unit, value) => {
    const reading = readQuantity(text, unit);
    expect(reading.ok && reading.value / value).toBeCloseTo(1, 13);
  });
  it.each(['2x', 'x3', '2kx3k', '3/2k', '5/0', '2x103'])('“%s” is no calculation that has one meaning', (text) =>
    expect(readQuantity(text, 'F').ok).toBe(false),
  );
});
