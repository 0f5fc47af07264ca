import { integratedLadder } from '../../../tests/reference/smooth-diode-ladder';
import type { Design } from '../design/design-schema';
import { driverOfKind } from '../drive/driver-kinds';
import { newDesign } from '../design/new-design';
import { readDesign } from '../design/read-design';
import { driveOf } from '../operating/ladder-of-design';
import { operatingPoint } from '../operating/operating-point';
import { predict } from '../predict/predict';
import { chargeUpOf } from './charge-up';
import { compareWithTimeDomain } from './comparison';
import { timeGrid } from './time-grid';
import { transientOf } from './transient';
import { finish } from '../numeric/finish';

const HERTZ = 20e3;
const OUT_AMPS = 20e-6;

/** A ladder on a sine of 1 kV, let run for some cycles and then kept still for some. */
function interrupted(stages: number, on: number, rest: number, changes: object = {}): Design {
  const plain = newDesign('Interrupted');
  const read = readDesign({
    ...plain,
    driver: {
      kind: 'measured',
      positivePeakVolts: 1000,
      frequencyHertz: HERTZ,
      seriesOhms: 0,
      burstHertz: HERTZ / (on + rest),
      burstFraction: on / (on + rest),
      ...changes,
    },
    ladder: {
      ...plain.ladder,
      stages,
      strayFarads: 0,
      capacitor: { ...plain.ladder.capacitor, farads: 1e-9 },
      diode: { ...plain.ladder.diode, forwardVolts: 0, junctionFarads: 0 },
    },
    load: { kind: 'current', amps: OUT_AMPS },
  });
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.design;
}

const codesOf = (design: Design) => predict(design).findings.map(({ code }) => code);

describe('a drive in bursts, integrated by odex', () => {
  it.each([
    { stages: 1, on: 4, rest: 6, cycles: 12 },
    { stages: 2, on: 10, rest: 30, cycles: 12 },
    { stages: 3, on: 3, rest: 3, cycles: 30 },
  ])('$stages stages, $on cycles and $rest of rest', ({ stages, on, rest, cycles }) => {
    const design = interrupted(stages, on, rest);
    const { ladder } = operatingPoint(design);
    const reference = integratedLadder(ladder.network, {
      peakVolts: 1000,
      frequencyHertz: HERTZ,
      loadAmps: OUT_AMPS,
      diodeOhms: 100,
      softVolts: 0.05,
      start: ladder.unloaded.capacitorVolts,
      cycles,
      burst: { on, rest },
    });
    const { transient } = finish(transientOf(design));
    expect(transient.converged).toBe(true);
    expect(Math.abs(transient.meanVolts / reference.meanVolts - 1)).toBeLessThan(0.002);
    const ripple = transient.maxVolts - transient.minVolts;
    expect(Math.abs(ripple / reference.ripplePeakToPeakVolts - 1)).toBeLessThan(0.02);
    expect(Math.abs(transient.error.powerResidue!)).toBeLessThan(1e-3);
  });
});

it('falls between bursts by the charge that the load draws from the smoothing column (handbook: I t / C)', () => {
  const { transient } = finish(transientOf(interrupted(2, 10, 190)));
  const fall = (OUT_AMPS * 190) / HERTZ / (1e-9 / 2);
  // And by what the last cycle already took.
  expect(transient.maxVolts - transient.minVolts).toBeGreaterThan(fall);
  expect(transient.maxVolts - transient.minVolts).toBeLessThan(1.1 * fall);
});

it('gives no loaded output in closed form, and says that it runs in bursts', () => {
  const { output, source, findings } = predict(interrupted(2, 10, 30));
  expect(output.meanVolts).toBeNull();
  expect(output.noLoadVolts).toBeCloseTo(4000, 0);
  expect(source.driveScale).toBe(1);
  expect(findings.find(({ code }) => code === 'in-bursts')?.message).toContain('10 cycles');
});

it('takes less than a cycle for nothing, and very long bursts for none', () => {
  const short = interrupted(2, 10, 30, { burstHertz: 3 * HERTZ });
  expect(codesOf(short)).toContain('burst-too-short');
  expect(predict(short).output.noLoadVolts).toBeLessThan(1e-3);
  const long = interrupted(2, 10, 30, { burstHertz: 0.1 });
  expect(codesOf(long)).toContain('bursts-too-long');
  expect(predict(long).output.meanVolts).toBe(predict(interrupted(2, 1, 0.5, { burstHertz: null })).output.meanVolts);
});

it('says where more is asked of the drive while it runs than it gives', () => {
  const doubt = (maxWatts: number | null) => {
    const design = interrupted(2, 10, 30, { maxWatts });
    return compareWithTimeDomain(design, predict(design), finish(transientOf(design)).transient).doubt;
  };
  // Some 4 kV at 20 uA is 80 mW on the mean, and in a quarter of the time 320 mW.
  expect(doubt(0.2)).toContain('gives 200');
  expect(doubt(0.5)).toBeNull();
  expect(doubt(null)).toBeNull();
});

it('lays the cycles of a burst one after another, each with its peaks between steps, and rests at no voltage', () => {
  const { drive } = predict(interrupted(1, 5, 15));
  const grid = timeGrid(drive, 400);
  expect(grid.times[grid.steps]).toBeCloseTo(20 / HERTZ, 9);
  const resting = grid.drive.filter((_, step) => grid.times[step] >= 5 / HERTZ - 1e-12);
  expect(resting.length).toBeGreaterThan(8);
  expect(resting.every((volts) => volts === 0)).toBe(true);
  const tops = grid.drive.filter((volts) => volts > 999.999);
  expect(tops).toHaveLength(5);
});

it('charges up burst after burst', () => {
  const design = interrupted(2, 10, 30);
  const { transient } = finish(transientOf(design));
  const steady = finish(chargeUpOf(interrupted(2, 10, 30, { burstHertz: null }), transient.meanVolts, true));
  const inBursts = finish(chargeUpOf(design, transient.meanVolts, true));
  expect(inBursts.reason).toBeNull();
  expect(inBursts.reached[1].seconds!).toBeGreaterThan(steady.reached[1].seconds!);
});

it('a driver of known parts runs as a source then, and says why', () => {
  const design = interrupted(2, 10, 30);
  const { driver: inverter, ...source } = driverOfKind('inverter', design, driveOf(design));
  const read = readDesign({ ...design, ...source, driver: { ...inverter, burstHertz: 1000 } });
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  const { driver } = finish(transientOf(read.design)).transient;
  expect(driver).toEqual({ kind: 'drive', reason: 'it runs in bursts' });
});
