import { coreLossWatts } from './core-loss';

const CUBIC_CENTIMETRE = { squareMetres: 1e-4, pathMetres: 1e-2 };

// Milliwatts a cubic centimetre, as data sheets of power ferrites print them at 100 °C (common practice, from memory).
it.each([
  [100e3, 0.2, 300, 600],
  [100e3, 0.1, 40, 110],
  [25e3, 0.2, 40, 120],
  [500e3, 0.05, 80, 250],
])(
  'at %d Hz and %d T a cubic centimetre loses what data sheets say within their spread',
  (hertz, tesla, least, most) => {
    const milliwatts = 1e3 * coreLossWatts(tesla, hertz, CUBIC_CENTIMETRE);
    expect(milliwatts).toBeGreaterThan(least);
    expect(milliwatts).toBeLessThan(most);
  },
);

it('goes with volume, and with flux to the power 2.5 (Steinmetz)', () => {
  const one = coreLossWatts(0.1, 50e3, CUBIC_CENTIMETRE);
  expect(coreLossWatts(0.1, 50e3, { squareMetres: 2e-4, pathMetres: 3e-2 }) / one).toBeCloseTo(6, 9);
  expect(coreLossWatts(0.2, 50e3, CUBIC_CENTIMETRE) / one).toBeCloseTo(2 ** 2.5, 9);
  expect(coreLossWatts(0, 50e3, CUBIC_CENTIMETRE)).toBe(0);
});
