import { Solver } from '../../../tests/reference/odex';
import { plainDrive } from './drive-result';
import { mirroredDrive, scaledDrive, wattsAtScale } from './drive';
import { ramp } from './kinds/flyback';
import { squareRing } from './kinds/inverter';
import { LEAKAGE_QUALITY } from '../magnetics/transformer';

const FARADS = 20e-12;
const HENRIES = 5e-3;
const HERTZ = 25e3;

/** Charge that a capacitance behind an inductance from a held voltage gives a battery in one swing, by odex. */
function chargeInto(heldVolts: number, rungVolts: number, batteryVolts: number): number {
  const solver = new Solver(3);
  solver.absoluteTolerance = solver.relativeTolerance = 1e-10;
  solver.maxSteps = 1e7;
  const siemens = 500 * Math.sqrt(FARADS / HENRIES);
  const slopes = (_time: number, [amps, volts]: readonly number[]) => {
    const drawn = Math.max(0, volts - batteryVolts) * siemens;
    return [(heldVolts - volts) / HENRIES, (amps - drawn) / FARADS, drawn];
  };
  return solver.solve(slopes, 0, [0, heldVolts - rungVolts, 0], 2 * Math.PI * Math.sqrt(HENRIES * FARADS)).y[2];
}

const [HELD, RUNG] = [2000, 1500];
const drive = plainDrive({
  waveform: 'pulse',
  positivePeakVolts: HELD + RUNG,
  negativePeakVolts: 900,
  frequencyHertz: HERTZ,
  maxWatts: 100,
  lift: { from: HELD / (HELD + RUNG), watts: FARADS * RUNG * (HELD + RUNG) * HERTZ, fresh: 1 },
  forwardLift: { volts: 400, amps: FARADS * 400 * HERTZ },
  collapsingPeak: 'positive',
});

describe('a peak that leakage lifts', () => {
  it.each([0.2, 0.5, 0.8])('gives what its ring leaves for a ladder that holds it %d of the way up (odex)', (way) => {
    const volts = HELD + way * RUNG;
    const given = chargeInto(HELD, RUNG, volts) * volts * HERTZ;
    expect(Math.abs(wattsAtScale(drive, volts / (HELD + RUNG))! / given - 1)).toBeLessThan(0.02);
  });
  it('gives nothing at its top, and under the ring all that the driver has', () => {
    expect(wattsAtScale(drive, 1)).toBe(0);
    expect(wattsAtScale(drive, HELD / (HELD + RUNG))).toBe(100);
    expect(wattsAtScale(drive, 0.1)).toBe(100);
  });
  it('passes the same charge as the stroke the other way, which falls with it', () => {
    for (const level of [0.62, 0.75, 0.9]) {
      const { positivePeakVolts, negativePeakVolts } = scaledDrive(drive, level);
      const passed = wattsAtScale(drive, level)! / positivePeakVolts / HERTZ;
      const left = negativePeakVolts - 500;
      expect((FARADS * (400 ** 2 - left ** 2)) / (2 * left) / passed).toBeCloseTo(1, 9);
    }
    expect(scaledDrive(drive, 1).negativePeakVolts).toBe(900);
    // Far under the ring nothing of it is left.
    expect(scaledDrive(drive, 0.01).negativePeakVolts).toBeCloseTo(500, 0);
  });
  it('is the same upside down', () => {
    const upside = scaledDrive(mirroredDrive(drive), 0.8);
    expect(mirroredDrive(upside)).toEqual(scaledDrive(drive, 0.8));
  });
});

/** How high a capacitance behind a leakage on a square of one volt swings, V, and what a period loses, J, once it repeats, by odex. */
function ringingOnSquare(hertz: number): { highest: number; joules: number } {
  const siemens = Math.sqrt(FARADS / HENRIES) / LEAKAGE_QUALITY;
  const solver = new Solver(3);
  solver.absoluteTolerance = solver.relativeTolerance = 1e-8;
  solver.maxSteps = 1e7;
  let state = [0, 0, 0];
  let highest = 0;
  for (let half = 0; half < 60; half += 1) {
    const held = half % 2 === 0 ? 1 : -1;
    const slopes = (_time: number, [amps, volts]: readonly number[]) => [
      (held - volts) / HENRIES,
      (amps + (held - volts) * siemens) / FARADS,
      (held - volts) ** 2 * siemens,
    ];

    // The last two halves make a period.
    if (half === 58) state[2] = 0;
    for (let step = 0; step < 400; step += 1) {
      state = solver.solve(slopes, 0, state, 0.5 / hertz / 400).y;
      if (half > 40) highest = Math.max(highest, state[1]);
    }
  }
  return { highest, joules: state[2] };
}

it.each([10e3, 30e3, 75e3, 90e3, 120e3])(
  'a square of %d Hz behind leakage rings as high and loses as much as said (odex)',
  (hertz) => {
    // Leakage and capacitance ring at 503 kHz.
    const { rung, lost } = squareRing(HENRIES * FARADS, hertz);
    const { highest, joules } = ringingOnSquare(hertz);
    expect(Math.abs((1 + rung) / highest - 1)).toBeLessThan(0.02);
    // What a ring holds at an instant is within 1 / 2Q of what its envelope says.
    expect(Math.abs((lost * FARADS) / joules - 1)).toBeLessThan(1 / (2 * LEAKAGE_QUALITY));
  },
);
it('nothing rings without leakage or capacitance', () => expect(squareRing(0, 30e3)).toEqual({ rung: 0, lost: 0 }));

describe('a ramp behind a resistance (handbook)', () => {
  it('has 63.2 % of its last current after one time constant, and the charge of the rest of the exponential', () => {
    const { amps, coulombs } = ramp(12, 3, 60e-6, 20e-6);
    expect(amps).toBeCloseTo(4 * (1 - Math.exp(-1)), 12);
    expect(coulombs).toBeCloseTo(4 * 20e-6 * Math.exp(-1), 15);
  });
  it('is straight without one, and joins there', () => {
    const { amps, coulombs } = ramp(12, 0, 60e-6, 20e-6);
    expect(amps).toBeCloseTo(4, 12);
    expect(coulombs).toBeCloseTo(40e-6, 17);
    const [under, over] = [0.99e-5, 1.01e-5].map((decay) => ramp(12, 3 * decay, 60e-6, 20e-6));
    expect(over.amps / under.amps - 1).toBeCloseTo(-1e-7, 9);
    expect(over.coulombs / under.coulombs - 1).toBeLessThan(0);
    expect(over.coulombs / under.coulombs).toBeCloseTo(1, 6);
  });
});
