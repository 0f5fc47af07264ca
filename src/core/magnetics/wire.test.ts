import { awgMetres, awgOfSection, COPPER_OHM_METRES, enamelledMetres, skinDepthMetres, skinFactor } from './wire';

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

it.each([
  // R / R0 by r sqrt(2) / skin depth: National Bureau of Standards' table of skin effect, from memory.
  [1, 1.00519],
  [2, 1.07816],
  [3, 1.31809],
  [5, 2.04272],
  [10, 3.79857],
])('a wire whose radius times the root of 2 over skin depth is %d has %d times its resistance', (x, factor) => {
  const hertz = 30e3;
  const metres = (2 * x * skinDepthMetres(hertz)) / Math.SQRT2;
  expect(skinFactor(metres, hertz)).toBeCloseTo(factor, 4);
});

it('skin effect goes over smoothly into that of a thick wire', () => {
  const of = (times: number) => skinFactor(2 * times * skinDepthMetres(1e5), 1e5);
  expect(of(12.001) / of(11.999)).toBeCloseTo(1, 2);
});

it.each([
  // Greatest diameter over enamel of grade 1, IEC 60317-0-1, from memory.
  [0.1, 0.121],
  [0.2, 0.226],
  [0.5, 0.544],
  [1, 1.062],
])('%d mm wire is about %d mm over its enamel', (bare, over) => {
  expect(Math.abs(enamelledMetres(bare * 1e-3) * 1e3 - over)).toBeLessThan(0.003);
});
