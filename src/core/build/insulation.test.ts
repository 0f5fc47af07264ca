import { demoDesign } from '../../../tests/reference/demo-designs';
import { benchDesign } from '../../../tests/reference/bench-design';
import { buildSchema } from '../design/build-schema';
import { airSchema } from '../load/air/air';
import { clearanceFor, creepageFor } from './distances';
import { insulationOf, isTooShort } from './insulation';
import { ballOnsetVolts, leadOnsetVolts, roundingFor } from './onset';

const AIR = airSchema.parse({});
const IN_AIR = { ...buildSchema.parse({}), air: AIR };

describe('distances', () => {
  // IEC 60664-1:2007, table F.7a, case A, and table A.2 for height (from memory).
  it.each([
    [2e3, 1.27],
    [5e3, 5.7],
    [10e3, 15.2],
    [15e3, 25],
    [30e3, 55],
    [50e3, 100],
  ])('%d V peak keeps what the table of clearances says', (volts, millimetres) => {
    expect(clearanceFor(volts, IN_AIR, 50)).toBeCloseTo(millimetres * 1e-3, 9);
  });

  it.each([
    [2000, 1],
    [3000, 1.14],
    [4000, 1.29],
    [5000, 1.48],
  ])('at %d m above the sea it is multiplied as the table says', (altitudeMetres, factor) => {
    const high = { ...IN_AIR, air: { ...AIR, altitudeMetres } };
    expect(Math.abs(clearanceFor(10e3, high, 50)! / 15.2e-3 / factor - 1)).toBeLessThan(0.01);
  });

  // IEC 60664-1:2007, table F.4, group IIIa (from memory); what is kept here is never less, and nowhere a third more.
  it.each([
    ['clean', 1e3, 3.2],
    ['clean', 5e3, 20],
    ['clean', 10e3, 40],
    ['indoor', 1e3, 10],
    ['indoor', 8e3, 80],
    ['indoor', 20e3, 200],
    ['damp', 1e3, 16],
    ['damp', 4e3, 63],
  ] as const)('%s at %d V: creepage of the table', (surroundings, volts, millimetres) => {
    const kept = creepageFor(volts, volts, { ...IN_AIR, surroundings })! * 1e3;
    expect(kept).toBeGreaterThanOrEqual(millimetres);
    expect(kept).toBeLessThan(1.34 * millimetres);
  });

  it('has no figure past its tables, and none for what it does not know', () => {
    expect(clearanceFor(50.1e3, IN_AIR, 50)).toBeNull();
    expect(creepageFor(63.1e3, 63.1e3, IN_AIR)).toBeNull();
    expect(clearanceFor(1, { ...IN_AIR, medium: 'other' }, 50)).toBeNull();
    expect(creepageFor(200e3, 200e3, { ...IN_AIR, medium: 'oil' })).toBeNull();
    expect(clearanceFor(0, IN_AIR, 50)).toBe(1e-3);
  });

  it('keeps a quarter more at high frequency (IEC 60664-4, from memory)', () => {
    expect(clearanceFor(10e3, IN_AIR, 40e3)! / clearanceFor(10e3, IN_AIR, 50)!).toBeCloseTo(1.25, 9);
  });
});

describe('corona', () => {
  it('a wire of 1 mm radius, 10 cm over ground, by hand: 30 (1 + 0.301 / √0.1) kV/cm on it', () => {
    // Peek (1929): 58.6 kV/cm, times 0.1 cm and ln 200, is 31.0 kV; a drawn wire takes 0.8 of it.
    expect(leadOnsetVolts(1e-3, 0.1, { ...AIR, celsius: 20 })).toBeCloseTo(0.8 * 31.02e3, -2);
  });

  it('a ball far from all is near its field times its radius (handbook)', () => {
    // Peek (1929) for spheres: 27.2 (1 + 0.54 / √1) = 41.9 kV/cm at 1 cm.
    expect(ballOnsetVolts(0.01, 100, AIR, 'rounded')).toBeCloseTo(0.8 * 41.89e3, -2);
  });

  it('what is said to be enough is: the ball of that radius has none, one a tenth smaller does', () => {
    const rounding = roundingFor(20e3, 0.034, { leadRadiusMetres: 0.4e-3, jointRadiusMetres: 1e-3 }, AIR);
    if (rounding.kind !== 'joint' && rounding.kind !== 'ring') throw new Error(rounding.kind);
    expect(ballOnsetVolts(rounding.radiusMetres, 0.034, AIR, 'rounded')).toBeCloseTo(20e3, -1);
    expect(ballOnsetVolts(0.9 * rounding.radiusMetres, 0.034, AIR, 'rounded')).toBeLessThan(20e3);
    expect(roundingFor(500, 1e-3, { leadRadiusMetres: 0.4e-3, jointRadiusMetres: 1e-3 }, AIR).kind).toBe('none');
    expect(roundingFor(300e3, 0.05, { leadRadiusMetres: 0.4e-3, jointRadiusMetres: 1e-3 }, AIR).kind).toBe('immersed');
  });
});

describe('a design', () => {
  // By hand, ideal diodes: 1 V peak, so 2, 4, 6 V at the taps, 1, 3, 5 V mean and 1 V of swing beside them.
  const ideal = (build: object) => ({
    ...benchDesign({ driver: { positivePeakVolts: 1e3 }, ladder: { stages: 3 } }),
    build: buildSchema.parse(build),
  });

  it('stands without load at its drive’s highest: taps, swing and what lies between', () => {
    const { potentials } = insulationOf(ideal({}), AIR)!;
    const high = 1.05;
    expect(potentials.toGround('B3')).toBeCloseTo(6e3 * high, 3);
    expect(potentials.toGround('A3')).toBeCloseTo(6e3 * high, 3);
    expect(potentials.toGround('source')).toBeCloseTo(1e3 * high, 3);
    // A diode stands off twice the peak; two nodes of one column a stage apart as much, at every moment.
    expect(potentials.between('A2', 'B2')).toBeCloseTo(2e3 * high, 3);
    expect(potentials.between('A1', 'A2')).toBeCloseTo(2e3 * high, 3);
    expect(potentials.between('A1', 'B2')).toBeCloseTo(4e3 * high, 3);
    // A dc part of 1 kV and a sine of 1 kV peak.
    expect(potentials.rmsBetween('A2', 'B2')).toBeCloseTo(Math.sqrt(1.5) * 1e3 * high, 3);
  });

  it('a part whose body is shorter than what lies across it asks for is said; a longer one is not', () => {
    const short = insulationOf(ideal({ diodeLengthMetres: 0.01, diodeDiameterMetres: 0.003 }), AIR)!;
    expect(short.parts.filter(isTooShort).some(({ kind }) => kind === 'diode')).toBe(true);
    const long = insulationOf(ideal({ diodeLengthMetres: 0.03, diodeDiameterMetres: 0.003 }), AIR)!;
    expect(long.parts.filter(isTooShort).some(({ kind }) => kind === 'diode')).toBe(false);
  });

  it('advises potting over 30 kV in air (common practice), and nothing of tracks at a teaching voltage', () => {
    const codes = (name: Parameters<typeof demoDesign>[0]) =>
      insulationOf({ ...demoDesign(name), build: buildSchema.parse({}) }, AIR)!.advice.map(({ code }) => code);
    expect(codes('flocking-applicator')).toContain('potting');
    expect(codes('photomultiplier-bias')).not.toContain('potting');
    expect(codes('teaching-tripler')).toEqual([]);
  });

  it('has no figures for another medium, and says so; nothing for what does not rectify', () => {
    const other = insulationOf(ideal({ medium: 'other' }), AIR)!;
    expect(
      other.nodes.every(({ clearanceMetres, creepageMetres }) => clearanceMetres === null && creepageMetres === null),
    ).toBe(true);
    expect(other.advice.map(({ code }) => code)).toContain('no-figures');
    const { ladder, ...rest } = ideal({});
    expect(insulationOf({ ...rest, ladder: { ...ladder, topology: 'none' } }, AIR)).toBeNull();
  });

  it('a ladder that floats is taken as earthed at either end', () => {
    const { ladder, ...rest } = ideal({});
    const { potentials } = insulationOf({ ...rest, ladder: { ...ladder, topology: 'two-ended' } }, AIR)!;
    const { output, return: other } = potentials.network;
    expect(potentials.toGround(output)).toBeCloseTo(potentials.between(output, other), 6);
  });
});
