import { awgMetres, awgOfSection, COPPER_OHM_METRES, skinDepthMetres } from './wire';

it.each([
  // ASTM B258, nominal diameters in mm.
  [10, 2.588],
  [18, 1.024],
  [24, 0.5106],
  [30, 0.2546],
  [36, 0.127],
  [40, 0.0799],
])('AWG %d is %d mm', (number, millimetres) => {
  expect(Math.abs((awgMetres(number) * 1e3) / millimetres - 1)).toBeLessThan(0.001);
  expect(awgOfSection((Math.PI / 4) * awgMetres(number) ** 2)).toBe(number);
});

it('the thinnest wire that has the section has it, and the next has not', () => {
  const section = 2.9e-6;
  const number = awgOfSection(section);
  const of = (awg: number) => (Math.PI / 4) * awgMetres(awg) ** 2;
  expect(of(number)).toBeGreaterThanOrEqual(section);
  expect(of(number + 1)).toBeLessThan(section);
});

it('copper: 17.241 Ω for a kilometre of 1 mm² (IACS), skin depth 9.3 mm at 50 Hz and 66 µm at 1 MHz (handbook)', () => {
  expect((COPPER_OHM_METRES * 1000) / 1e-6).toBeCloseTo(17.241, 3);
  expect(skinDepthMetres(50) * 1e3).toBeCloseTo(9.35, 1);
  expect(skinDepthMetres(1e6) * 1e6).toBeCloseTo(66.1, 0);
});
