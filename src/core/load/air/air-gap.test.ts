import { airSchema, relativeDensity, waterGrams, type Air } from './air';
import { AIR_GAP_LAWS, breakdownVolts, ELECTRODES, strikeMetres, type AirGap, type Band } from './air-gap';

/** 20 °C, 101.3 kPa and 8.5 g/m³ of water: what tables of sphere gaps are for. */
const STANDARD: Air = { celsius: 20, altitudeMetres: 0, relativeHumidity: 8.5 / 17.3 };
const gapOf = (
  electrodes: AirGap['electrodes'],
  gapMetres: number,
  sphereMetres = 0.05,
  rodMetres = 0.006,
): AirGap => ({
  electrodes,
  gapMetres,
  sphereMetres,
  rodMetres,
});
/** The size that these electrodes have in {@link gapOf}. */
const sizeIn = (electrodes: AirGap['electrodes']) => (electrodes === 'rods' ? 0.006 : 0.05);
const bandAt = (gap: AirGap, air = STANDARD): Band => {
  const found = breakdownVolts(gap, air);
  if (!('likely' in found)) throw new Error(found.reason);
  return found;
};

describe('sphere gaps', () => {
  // Peak kV by diameter and gap in cm: tables of IEC 60052 (alternating voltage), from memory.
  it.each([
    [2, 0.05, 2.8],
    [2, 0.1, 4.7],
    [2, 0.2, 8.0],
    [2, 0.3, 11.2],
    [2, 0.5, 17.4],
    [2, 0.8, 25.8],
    [2, 1.0, 30.7],
    [5, 0.2, 8.0],
    [5, 0.5, 17.4],
    [5, 1.0, 32.0],
    [5, 1.5, 45.5],
    [5, 2.0, 57.5],
    [10, 1.0, 31.7],
    [10, 3.0, 84],
    [10, 5.0, 123],
    [25, 5.0, 137],
    [25, 10.0, 244],
  ])('%d cm at %d cm: %d kV within 3 %%, the tables’ own uncertainty', (diameter, gap, kilovolts) => {
    const { least, likely, most } = bandAt(gapOf('spheres', gap / 100, diameter / 100));
    expect(Math.abs(likely / 1e3 / kilovolts - 1)).toBeLessThan(0.03);
    expect([least! < kilovolts * 1e3, most! > kilovolts * 1e3]).toEqual([true, true]);
  });

  it('grows with the gap all the way, for every sphere, in the thinnest air and the densest', () => {
    const airs = [
      STANDARD,
      { ...STANDARD, celsius: 60, altitudeMetres: 5000 },
      { ...STANDARD, celsius: -40, altitudeMetres: -400 },
    ];
    for (const air of airs)
      for (const sphere of [0.02, 0.025, 0.05, 0.1, 0.25, 0.5]) {
        const [least, most] = AIR_GAP_LAWS.spheres.reach(sphere);
        let before = 0;
        for (let step = 0; step <= 400; step += 1) {
          const now = bandAt(gapOf('spheres', least + ((most - least) * step) / 400, sphere), air).likely;
          expect(now).toBeGreaterThan(before);
          before = now;
        }
      }
  });

  it('stands more in damp air, by 0.2 % for each gram', () => {
    const damp = { ...STANDARD, relativeHumidity: 13.5 / 17.3 };
    const gap = gapOf('spheres', 0.01);
    expect(bandAt(gap, damp).likely / bandAt(gap).likely).toBeCloseTo(1.01, 3);
  });

  it('says what is wrong past half the sphere, and with spheres that no table has', () => {
    expect(breakdownVolts(gapOf('spheres', 0.026, 0.05), STANDARD)).toMatchObject({ at: 'gapMetres' });
    expect(breakdownVolts(gapOf('spheres', 0.025, 0.05), STANDARD)).toHaveProperty('likely');
    for (const sphere of [0.012, 2])
      expect(breakdownVolts(gapOf('spheres', 0.005, sphere), STANDARD)).toMatchObject({ at: 'sphereMetres' });
    expect(strikeMetres(gapOf('spheres', 0.005, 0.012), 1e4, STANDARD)).toMatchObject({ at: 'sphereMetres' });
  });
});

describe('parallel rods', () => {
  it('stand Peek’s field at the surface of two cylinders, by the field of two line charges', () => {
    const [radius, gap] = [0.003, 0.01];
    // Two cylinders are equipotentials of two line charges; their field at the surface that faces the other, of each volt.
    const half = radius + gap / 2;
    const charge = Math.sqrt(half ** 2 - radius ** 2);
    const potential = (x: number) => Math.log((x + charge) / (charge - x));
    const face = half - radius;
    const fieldOfEachVolt = (1 / (charge + face) + 1 / (charge - face)) / (2 * potential(face));
    const peek = 30e5 * (1 + 0.301 / Math.sqrt(100 * radius));
    expect(bandAt(gapOf('rods', gap)).likely * fieldOfEachVolt).toBeCloseTo(peek, -2);
  });

  it('stand as much as plates where they are close, less than spheres as wide where they are not', () => {
    expect(bandAt(gapOf('rods', 0.001)).likely).toBe(bandAt(gapOf('plates', 0.001)).likely);
    expect(bandAt(gapOf('rods', 0.01, 0.02, 0.02)).likely).toBeGreaterThan(bandAt(gapOf('spheres', 0.01, 0.02)).likely);
    expect(bandAt(gapOf('rods', 0.01, 0.02, 0.006)).likely).toBeLessThan(bandAt(gapOf('plates', 0.01)).likely);
  });

  it('grow with the gap all the way, and say where they would glow first', () => {
    for (const rod of [0.001, 0.002, 0.005, 0.01, 0.02])
      for (const air of [STANDARD, { ...STANDARD, celsius: 60, altitudeMetres: 5000 }]) {
        const [least, most] = AIR_GAP_LAWS.rods.reach(rod);
        let before = 0;
        for (let step = 0; step <= 400; step += 1) {
          const now = bandAt(gapOf('rods', least + ((most - least) * step) / 400, 0.05, rod), air).likely;
          expect(now).toBeGreaterThanOrEqual(before);
          before = now;
        }
      }
    expect(breakdownVolts(gapOf('rods', 0.012), STANDARD)).toMatchObject({ at: 'gapMetres' });
    expect(breakdownVolts(gapOf('rods', 0.002, 0.05, 0.03), STANDARD)).toMatchObject({ at: 'rodMetres' });
  });
});

describe('plates', () => {
  // 24.22 δ d + 6.08 sqrt(δ d) kV, d in cm: another fit to uniform fields of 1 to 10 cm (handbook).
  it.each([1, 2, 5, 10])('%d cm: within the band of another published fit', (centimetres) => {
    const other = 1e3 * (24.22 * centimetres + 6.08 * Math.sqrt(centimetres));
    const { least, most } = bandAt(gapOf('plates', centimetres / 100));
    expect([least! < other, other < most!]).toEqual([true, true]);
  });

  it('is the same at the same product of density and distance, as Paschen’s law has it', () => {
    const high = { ...STANDARD, altitudeMetres: 2000 };
    const density = relativeDensity(high) / relativeDensity(STANDARD);
    expect(bandAt(gapOf('plates', 0.01 / density), high).likely).toBeCloseTo(bandAt(gapOf('plates', 0.01)).likely, 6);
  });

  it('breaks down at no distance under Paschen’s minimum of 327 V', () => {
    for (const electrodes of ELECTRODES)
      expect(strikeMetres(gapOf(electrodes, 0), 326, STANDARD)).toMatchObject({ at: 'volts' });
  });
});

describe('points', () => {
  it('follow the needle gaps of the AIEE at 25 °C, and nothing past their ends', () => {
    const air = { ...STANDARD, celsius: 25 };
    // 20 kV RMS at one inch, 30 kV at 41 mm (from memory); between them along the line.
    expect(bandAt(gapOf('points', 0.0254), air).likely).toBeCloseTo(20e3 * Math.SQRT2, 6);
    expect(bandAt(gapOf('points', 0.041), air).likely).toBeCloseTo(30e3 * Math.SQRT2, 6);
    expect(bandAt(gapOf('points', 0.0292), air).likely).toBeCloseTo(22.5e3 * Math.SQRT2, 6);
    for (const metres of [0.005, 0.0901])
      expect(breakdownVolts(gapOf('points', metres), air)).toMatchObject({ at: 'gapMetres' });
  });

  it('jump further than spheres: nearer the workshop’s millimetre for each kilovolt', () => {
    const at = (electrodes: AirGap['electrodes']) => strikeMetres(gapOf(electrodes, 0, 0.1), 30e3, STANDARD) as Band;
    expect(at('points').likely).toBeGreaterThan(2 * at('spheres').likely);
    expect(at('points').likely).toBeGreaterThan(0.025);
    expect(at('points').likely).toBeLessThan(0.031);
  });
});

it('tells the distance of a voltage and the voltage of that distance alike, band and all', () => {
  for (const electrodes of ELECTRODES)
    for (const part of [0.1, 0.4, 0.8]) {
      const [least, most] = AIR_GAP_LAWS[electrodes].reach(sizeIn(electrodes));
      const metres = least + part * (most - least);
      const band = bandAt(gapOf(electrodes, metres));
      const back = strikeMetres(gapOf(electrodes, 0), band.likely, STANDARD) as Band;
      expect(back.likely / metres).toBeCloseTo(1, 6);
      // What may break down this voltage at the least is what the least distance is for.
      if (back.least !== null) expect(bandAt(gapOf(electrodes, back.least)).most! / band.likely).toBeCloseTo(1, 6);
      if (back.most !== null) expect(bandAt(gapOf(electrodes, back.most)).least! / band.likely).toBeCloseTo(1, 6);
    }
  // Of a voltage near the end of a law the further end of the band is not known.
  const [, longest] = AIR_GAP_LAWS.points.reach(0);
  const nearEnd = bandAt(gapOf('points', longest)).likely * 0.99;
  expect(strikeMetres(gapOf('points', 0), nearEnd, STANDARD)).toMatchObject({ most: null });
  expect(strikeMetres(gapOf('points', 0), nearEnd * 1.1, STANDARD)).toMatchObject({ at: 'volts' });
});

describe('air', () => {
  it('is as dense as tables say', () => {
    const at = (change: Partial<Air>) => relativeDensity({ ...STANDARD, ...change });
    expect(at({})).toBeCloseTo(1, 6);
    // The standard atmosphere has 89.9 kPa at 1,000 m and 79.5 kPa at 2,000 m (ISO 2533, from memory).
    expect(at({ altitudeMetres: 1000 })).toBeCloseTo(89.9 / 101.3, 3);
    expect(at({ altitudeMetres: 2000 })).toBeCloseTo(79.5 / 101.3, 3);
    expect(at({ celsius: 30 })).toBeCloseTo(293 / 303, 6);
  });

  it('holds 17.3 g/m³ of water at 20 °C and 30.4 g/m³ at 30 °C where it is saturated (handbook)', () => {
    const saturated = (celsius: number) => waterGrams({ ...STANDARD, celsius, relativeHumidity: 1 });
    expect(saturated(20)).toBeCloseTo(17.3, 1);
    expect(saturated(30)).toBeCloseTo(30.4, 1);
  });

  it('refuses what no workshop has, and says what would be right', () => {
    for (const wrong of [{ celsius: 61 }, { altitudeMetres: 6000 }, { relativeHumidity: 1.1 }, { celsius: NaN }])
      expect(airSchema.safeParse(wrong).success).toBe(false);
    expect(airSchema.parse({})).toEqual({ celsius: 20, altitudeMetres: 0, relativeHumidity: 0.5 });
  });
});
