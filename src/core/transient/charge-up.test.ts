import { benchDesign } from '../../../tests/reference/bench-design';
import { PUSH_PULL, suppliedDesign } from '../../../tests/reference/supplied-design';
import { supplySchema } from '../drive/supply';
import { chargeUpOf } from './charge-up';
import { dischargeOf } from './discharge';
import { transientOf } from './transient';
import { finish } from '../numeric/finish';

const supply = (stages: number, load: object = { kind: 'open' }, changes: object = {}) =>
  benchDesign({ ladder: { stages }, driver: { seriesOhms: 0.02 }, load, ...changes });

describe('charge-up', () => {
  it('takes about 3.5 n^2 periods to 90 %', () => {
    // No-load settling to 90 % by independent simulation: about 3.5 n^2 periods.
    const seconds = finish(chargeUpOf(supply(6), 12, true)).reached[1].seconds!;
    expect(seconds / (3.5 * 36)).toBeGreaterThan(0.85);
    expect(seconds / (3.5 * 36)).toBeLessThan(1.15);
  });
  it('the strided envelope stays within a tenth of the exact run in time, and near it in volts', () => {
    const exact = finish(chargeUpOf(supply(5), 10, true));
    const coarse = finish(chargeUpOf(supply(5), 10, false));
    expect(coarse.exact).toBe(false);
    expect(coarse.periods).toBeLessThan(exact.periods);
    coarse.reached.forEach(({ seconds }, at) =>
      expect(Math.abs(seconds! / exact.reached[at].seconds! - 1)).toBeLessThan(0.1),
    );
    expect(coarse.surge).toEqual(exact.surge);
  });
  it('one capacitor behind a resistor: the surge is what the resistor lets through', () => {
    // A plain rectifier on a square wave: first peak V / R, then V (1 - exp(-t/RC)) while it conducts (handbook).
    const design = benchDesign({
      ladder: { stages: 0.5 },
      driver: { waveform: 'square', seriesOhms: 2 },
      load: { kind: 'open' },
    });
    const { surge, samples } = finish(chargeUpOf(design, 1, true));
    expect(surge.sourceAmps).toBeGreaterThan(0.45);
    expect(surge.sourceAmps).toBeLessThanOrEqual(0.5);
    expect(Math.abs(samples[1].maxVolts / (1 - Math.exp(-0.25)) - 1)).toBeLessThan(0.02);
  });
  it('a mains switch closes at the worst phase: nearly all of the peak over the resistance, and never more', () => {
    const at = (frequencyHertz: number) => {
      // A doubler of 47 nF behind 12 kΩ: in half a millisecond a sine of 50 Hz has hardly begun to rise.
      const design = benchDesign({
        ladder: { topology: 'bridge-doubler', stages: 1, capacitor: { farads: (47e-9 * 50) / frequencyHertz } },
        driver: { positivePeakVolts: 8485, frequencyHertz, seriesOhms: 12e3 },
      });
      return finish(chargeUpOf(design, 16e3, false)).surge.sourceAmps * (12e3 / 8485);
    };
    // The first step takes V / (R + h / C): 56 µs of it against 564 µs.
    expect(at(50)).toBeGreaterThan(0.9);
    expect(at(50)).toBeLessThanOrEqual(1);
    // The same to scale from an oscillator, which builds up: far less.
    expect(at(5e4)).toBeLessThan(0.5);
  });
  it('a gap fires over and over where the supply lets it go out, and burns on where not', () => {
    const gap = { kind: 'gap', strikeVolts: 3, arcOhms: 0.05, quenchAmps: 1 };
    const fires = finish(chargeUpOf(supply(2, gap), 4, false));
    expect(fires.gap!.strikes).toBeGreaterThan(2);
    expect(fires.gap!.strikesPerSecond).toBeGreaterThan(0);
    const burns = finish(chargeUpOf(supply(2, { ...gap, quenchAmps: 1e-6 }), 4, false));
    expect(burns.reason).toMatch(/does not go out/);
  });
});

describe('discharge', () => {
  const charged = (stages: number) => {
    const design = supply(stages);
    const { nodes } = finish(transientOf(design)).transient;
    return { design, volts: new Map(nodes.map((node) => [node.id, node.meanVolts])) };
  };
  it('energy lost is energy into the resistor and the diodes, none made', () => {
    const { design, volts } = charged(3);
    const { joules } = dischargeOf(design, volts, { ohms: 100, seconds: 2000, absorption: 0 });
    expect(joules.resistor).toBeLessThan(joules.start - joules.end);
    expect(joules.resistor).toBeGreaterThan(0.95 * (joules.start - joules.end));
  });
  it('one capacitor follows exp(-t/RC)', () => {
    const design = benchDesign({ ladder: { stages: 0.5 }, load: { kind: 'open' } });
    const start = new Map([['B1', 100]]);
    const { samples, secondsTo60 } = dischargeOf(design, start, { ohms: 10, seconds: 30, absorption: 0 });
    for (const { seconds, volts } of samples.slice(1))
      expect(Math.abs(volts - 100 * Math.exp(-seconds / 10))).toBeLessThan(1.2);
    expect(Math.abs(secondsTo60! / (10 * Math.log(100 / 60)) - 1)).toBeLessThan(0.1);
  });
  it('a short one leaves charge behind, most of it where the string was cut off first', () => {
    const { design, volts } = charged(4);
    const { capacitors, joules } = dischargeOf(design, volts, { ohms: 1, seconds: 0.5, absorption: 0.01 });
    expect(joules.end).toBeGreaterThan(0.05 * joules.start);
    expect(Math.max(...capacitors.map((part) => part.volts))).toBeGreaterThan(0.3);
  });
  it('dielectric absorption gives back its part of what the smoothing column held', () => {
    const { design, volts } = charged(2);
    const { reboundVolts } = dischargeOf(design, volts, { ohms: 1, seconds: 100, absorption: 0.02 });
    expect(reboundVolts).toBeCloseTo(0.02 * 4, 3);
  });
});

it('says how long the stored energy takes at the drive’s power, at least', () => {
  // One capacitor of 1 F to 1 V behind a diode: half a joule, at 0.05 W ten seconds.
  const charged = (driver: object) =>
    finish(
      chargeUpOf(
        benchDesign({ ladder: { stages: 0.5 }, driver: { seriesOhms: 0.05, ...driver }, load: { kind: 'open' } }),
        1,
        true,
      ),
    );
  const { leastSeconds } = charged({ maxWatts: 0.05 });
  // The run ends somewhere between 95 % and all of it.
  expect(leastSeconds! / 10).toBeGreaterThan(0.95 ** 2);
  expect(leastSeconds! / 10).toBeLessThan(1);
  expect(charged({}).leastSeconds).toBeNull();
});

it('says the same of a driver in the circuit, at what its supply is limited to', () => {
  const free = suppliedDesign(PUSH_PULL, 1, 1e9);
  const charged = (maxAmps: number | null) =>
    finish(chargeUpOf({ ...free, supply: supplySchema.parse({ ...free.supply, maxAmps }) }, 3500, false));
  // The smoothing capacitor holds the output and the coupling one half of it once settled, while it climbs less: 220 pF each.
  const { leastSeconds, samples } = charged(0.5);
  const joules = ((220e-12 / 2) * samples[samples.length - 1].maxVolts ** 2 * 5) / 4;
  expect(leastSeconds! / (joules / (24 * 0.5))).toBeGreaterThan(0.8);
  expect(leastSeconds! / (joules / (24 * 0.5))).toBeLessThan(1);
  expect(charged(null).leastSeconds).toBeNull();
});
