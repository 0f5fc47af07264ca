import { Solver } from '../../../../tests/reference/odex';
import type { Air } from './air';
import { coronaGeometrySchema, coronaOf, wireOnsetField, type CoronaGeometry, type CoronaLaw } from './corona-geometry';

const STANDARD: Air = { celsius: 20, altitudeMetres: 0, relativeHumidity: 0.5 };
const shaped = (change: Partial<CoronaGeometry>): CoronaGeometry =>
  coronaGeometrySchema.parse({ surface: 1, ...change });
const lawOf = (change: Partial<CoronaGeometry>, air = STANDARD, polarity: 'positive' | 'negative' = 'negative') => {
  const law = coronaOf(shaped(change), air, polarity);
  if (!('onsetVolts' in law)) throw new Error(law.reason);
  return law;
};
const PERMITTIVITY = 8.8541878128e-12;

it('a line of three wires begins to glow where the textbook says', () => {
  // Wires of 10.4 mm, 2.5 m apart, at 21 °C and 73.6 cm of mercury, surface factor 0.7: 66.1 kV RMS to neutral
  // (C. L. Wadhwa, Electrical Power Systems, worked example; from memory, its sum done again by hand).
  const pressure = 73.6 / 76;
  const air = { ...STANDARD, celsius: 21, altitudeMetres: (1 - pressure ** (1 / 5.25588)) / 2.25577e-5 };
  const radius = 5.2e-3;
  const rms = (wireOnsetField(radius, 0.7, air, false) * radius * Math.log(2.5 / radius)) / Math.SQRT2;
  expect(rms / 66.1e3).toBeCloseTo(1, 1.7);
});

describe('a wire in a tube', () => {
  const tube = { shape: 'tube', wireMetres: 1e-3, tubeMetres: 0.1, lengthMetres: 0.5 } as const;

  it('begins at r E ln(R / r): by hand', () => {
    // 31 (1 + 0.308 / sqrt(0.05)) kV/cm over 0.05 cm times ln 100.
    expect(lawOf(tube).onsetVolts).toBeCloseTo(31e3 * (1 + 0.308 / Math.sqrt(0.05)) * 0.05 * Math.log(100), 3);
  });

  it('draws the current whose space charge an independent integration finds in the tube', () => {
    const { onsetVolts, ampsPerSquareVolt } = lawOf(tube);
    const [inner, outer] = [0.5e-3, 0.05];
    const onset = wireOnsetField(inner, 1, STANDARD, true);
    /** Volts across the tube with the field at the wire held at its onset: d(r E) / dr = i / (2 π ε0 μ E) (Gauss). */
    const voltsAt = (amps: number) => {
      const solver = new Solver(2);
      solver.relativeTolerance = 1e-9;
      solver.absoluteTolerance = 1e-6;
      const charge = amps / 0.5 / (2 * Math.PI * PERMITTIVITY * 1.9e-4);
      const { y } = solver.solve((r, [field]) => [charge / (field * r) - field / r, field], inner, [onset, 0], outer);
      return y[1];
    };
    expect(voltsAt(0) / onsetVolts).toBeCloseTo(1, 6);
    /** How far the voltage over the onset that a current needs lies from the law's. */
    const offAt = (times: number) => {
      const volts = times * onsetVolts;
      const needed = voltsAt(ampsPerSquareVolt * volts * (volts - onsetVolts));
      return (needed - onsetVolts) / (volts - onsetVolts) - 1;
    };
    // The law is the limit of small currents; larger ones weaken the field near the wire, where it counts most, so
    // that less voltage is needed: at most a sixth less up to twice the onset.
    expect(Math.abs(offAt(1.001))).toBeLessThan(0.003);
    const off = [1.02, 1.1, 1.3, 2].map(offAt);
    expect(off).toEqual([...off].sort((one, other) => other - one));
    expect(off[0]).toBeLessThan(0);
    expect(off.at(-1)).toBeGreaterThan(-1 / 6);
  });

  it('draws less to the slower ions of the positive wire, more in thin air', () => {
    expect(lawOf(tube, STANDARD, 'positive').ampsPerSquareVolt / lawOf(tube).ampsPerSquareVolt).toBeCloseTo(
      1.5 / 1.9,
      9,
    );
    const high = lawOf(tube, { ...STANDARD, altitudeMetres: 2000 });
    expect(high.ampsPerSquareVolt).toBeGreaterThan(1.2 * lawOf(tube).ampsPerSquareVolt);
    expect(high.onsetVolts).toBeLessThan(0.9 * lawOf(tube).onsetVolts);
    expect(lawOf({ ...tube, surface: 0.8 }).onsetVolts / lawOf(tube).onsetVolts).toBeCloseTo(0.8, 9);
  });

  it('says from where it holds', () => {
    expect(coronaOf(shaped({ ...tube, tubeMetres: 2.7e-3 }), STANDARD, 'negative')).toMatchObject({ at: 'tubeMetres' });
    expect(coronaOf(shaped({ ...tube, tubeMetres: 2.73e-3 }), STANDARD, 'negative')).toHaveProperty('onsetVolts');
    for (const wireMetres of [0.01e-3, 11e-3])
      expect(coronaOf(shaped({ ...tube, wireMetres }), STANDARD, 'negative')).toMatchObject({ at: 'wireMetres' });
  });
});

describe('wires between plates', () => {
  it('stand for a tube of 4 s / pi where they are far apart, of (c / pi) e^(pi s / 2 c) where near: by hand', () => {
    const plates = { shape: 'plates', wireMetres: 2e-3, distanceMetres: 0.05, lengthMetres: 1 } as const;
    const onset = (equivalent: number) => wireOnsetField(1e-3, 1, STANDARD, false) * 1e-3 * Math.log(equivalent / 1e-3);
    const far = lawOf({ ...plates, pitchMetres: 0.2 });
    expect(far.onsetVolts).toBeCloseTo(onset(0.2 / Math.PI), 6);
    const spread = Math.log(0.2 / Math.PI / 1e-3);
    expect(far.ampsPerSquareVolt).toBeCloseTo((4 * Math.PI * PERMITTIVITY * 1.9e-4) / (0.05 ** 2 * spread), 20);
    const near = lawOf({ ...plates, pitchMetres: 0.05 });
    expect(near.onsetVolts).toBeCloseTo(onset((0.025 / Math.PI) * Math.exp(Math.PI)), 6);
  });

  it('have no law between the two', () => {
    const plates = { shape: 'plates', distanceMetres: 0.03 } as const;
    const asked = (pitchMetres: number) => coronaOf(shaped({ ...plates, pitchMetres }), STANDARD, 'negative');
    expect(asked(0.031)).toMatchObject({ at: 'pitchMetres' });
    expect(asked(0.099)).toMatchObject({ at: 'pitchMetres' });
    expect([asked(0.029), asked(0.101)].every((law) => 'onsetVolts' in law)).toBe(true);
    expect(
      coronaOf(shaped({ ...plates, wireMetres: 10e-3, distanceMetres: 8e-3, pitchMetres: 0.1 }), STANDARD, 'negative'),
    ).toMatchObject({
      at: 'distanceMetres',
    });
  });
});

describe('a point over a plate', () => {
  const point = { shape: 'point', tipMetres: 0.1e-3, distanceMetres: 0.02 } as const;

  it('begins at a few kilovolts, and carries at most what ions of one sign do: by hand', () => {
    const law: CoronaLaw = lawOf(point);
    const field = 27.2e5 * (1 + 0.54 / Math.sqrt(0.01));
    expect(law.onsetVolts).toBeCloseTo((field * 1e-4 * Math.log(800)) / 2, 6);
    expect(law.onsetVolts).toBeGreaterThan(3e3);
    expect(law.onsetVolts).toBeLessThan(7e3);
    expect(law.ampsPerSquareVolt).toBeCloseTo((2 * PERMITTIVITY * 1.9e-4) / 0.02, 18);
  });

  it('carries so many times that as a brush, whose points are no nearer to each other than to the plate', () => {
    const brush = { ...point, points: 12, betweenMetres: 0.02 };
    expect(lawOf(brush).ampsPerSquareVolt / lawOf(point).ampsPerSquareVolt).toBeCloseTo(12, 9);
    expect(lawOf(brush).onsetVolts).toBe(lawOf(point).onsetVolts);
    const close = (points: number) =>
      coronaOf(shaped({ ...brush, points, betweenMetres: 0.019 }), STANDARD, 'positive');
    expect(close(12)).toMatchObject({ at: 'betweenMetres' });
    expect(close(1)).toHaveProperty('onsetVolts');
  });

  it('is refused where it would spark without corona', () => {
    expect(coronaOf(shaped({ ...point, distanceMetres: 0.9e-3 }), STANDARD, 'positive')).toMatchObject({
      at: 'distanceMetres',
    });
    expect(coronaOf(shaped({ ...point, tipMetres: 6e-3 }), STANDARD, 'positive')).toMatchObject({ at: 'tipMetres' });
  });
});
