import { metricWireAtLeast, preferredAtLeast, preferredValues } from './preferred-values';

describe('E series of IEC 60063 (tables from memory)', () => {
  it.each([
    [3, [1, 2.2, 4.7]],
    [6, [1, 1.5, 2.2, 3.3, 4.7, 6.8]],
    [12, [1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2]],
  ] as const)('E%d', (series, values) => {
    expect(preferredValues(series, 1, 9.99)).toEqual(values);
  });

  it('E24 holds E12, and its odd ones out: 2.7, 3.0, 3.3, 3.6, 3.9, 4.3, 4.7, 8.2', () => {
    const e24 = preferredValues(24, 1, 9.99);
    expect(e24).toHaveLength(24);
    expect(e24).toEqual(expect.arrayContaining([...preferredValues(12, 1, 9.99), 3, 3.6, 4.3, 9.1]));
  });

  it('E96 has the values printed on precision resistors', () => {
    const e96 = preferredValues(96, 1, 9.999);
    expect(e96).toHaveLength(96);
    expect(e96).toEqual(expect.arrayContaining([1.02, 1.47, 2.21, 3.32, 4.75, 4.99, 6.81, 9.09, 9.76]));
    expect(preferredValues(48, 1, 9.999)).toEqual(expect.arrayContaining([1.05, 1.47, 2.26, 3.32, 4.87, 9.53]));
  });
});

it('values carry their decade without binary dust, ends included', () => {
  expect(preferredValues(6, 100e-9, 1e-6)).toEqual([100e-9, 150e-9, 220e-9, 330e-9, 470e-9, 680e-9, 1e-6]);
});

it.each([
  [12, 470, 470],
  [12, 471, 560],
  [24, 9.2, 10],
  [6, 0.69e-6, 1e-6],
] as const)('E%d: at least %d is %d', (series, wanted, value) => {
  expect(preferredAtLeast(series, wanted)).toBe(value);
});

it('metric wire in the steps of R20 (ISO 3): 0.1, 0.112, 0.125, ... 0.315, 0.355 mm', () => {
  expect(metricWireAtLeast(0.1e-3)).toBe(0.1e-3);
  expect(metricWireAtLeast(0.101e-3)).toBe(0.112e-3);
  expect(metricWireAtLeast(0.33e-3)).toBe(0.355e-3);
  expect(metricWireAtLeast(0.95e-3)).toBe(1e-3);
});
