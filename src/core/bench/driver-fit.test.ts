import { demoDesign } from '../../../tests/reference/demo-designs';
import { changeDesign } from '../design/change-design';
import { resonanceHertz } from '../magnetics/inductance';
import { seeded } from '../numeric/chance';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import { faradsAtSecondary, lossOfIdle, ringFit } from './driver-fit';

describe('one inductance from several tank capacitors', () => {
  // Common practice, no source: what four tanks on one primary were read at.
  const READ = [
    { farads: 220e-9, hertz: 92e3 },
    { farads: 470e-9, hertz: 65e3 },
    { farads: 1000e-9, hertz: 45e3 },
    { farads: 2200e-9, hertz: 33e3 },
  ];

  it('is found, and how far the readings are from agreeing on it', () => {
    const fit = ringFit(READ, 0.01)!;
    // By hand: 13.60, 12.76, 12.51 and 10.57 µH; their geometric mean, scatter and Student's t of 3.
    expect(fit.each.map(({ henries }) => Number((henries * 1e6).toFixed(2)))).toEqual([13.6, 12.76, 12.51, 10.57]);
    expect(fit.henries * 1e6).toBeCloseTo((13.603 * 12.756 * 12.509 * 10.573) ** 0.25, 2);
    expect(fit.scatter).toBeCloseTo(0.1075, 3);
    expect(Math.log(fit.high / fit.henries)).toBeCloseTo((2.353 * 0.1075) / 2, 3);
    expect(fit.low * fit.high).toBeCloseTo(fit.henries ** 2, 15);
  });

  it('and a capacitance of its own explains them better', () => {
    const { withOwn } = ringFit(READ, 0.01)!;
    expect(withOwn!.henries * 1e6).toBeGreaterThan(9.5);
    expect(withOwn!.henries * 1e6).toBeLessThan(11);
    expect(withOwn!.farads * 1e9).toBeGreaterThan(50);
    expect(withOwn!.farads * 1e9).toBeLessThan(110);
    for (const { farads, hertz } of READ)
      expect(resonanceHertz(withOwn!.henries, farads + withOwn!.farads) / hertz).toBeCloseTo(1, 1);
  });

  it('true values come back exactly, with and without a capacitance of its own', () => {
    const ring = (own: number) => READ.map(({ farads }) => ({ farads, hertz: resonanceHertz(12e-6, farads + own) }));
    const plain = ringFit(ring(0), 0.001)!;
    expect(plain.henries * 1e6).toBeCloseTo(12, 9);
    expect(plain.withOwn).toBeNull();
    const own = ringFit(ring(50e-9), 0.001)!.withOwn!;
    expect(own.henries * 1e6).toBeCloseTo(12, 6);
    expect(own.farads * 1e9).toBeCloseTo(50, 4);
  });

  it('lies within the stated 90 % in 85 to 96 of 100 seeds', () => {
    let inside = 0;
    for (let seed = 1; seed <= 100; seed += 1) {
      const chance = seeded(seed);
      // Sum of twelve even ones is a normal one, nearly (handbook).
      const normal = () => Array.from({ length: 12 }, () => chance()).reduce((sum, one) => sum + one, -6);
      const rings = READ.map(({ farads }) => ({
        farads,
        hertz: resonanceHertz(12e-6, farads) * (1 + 0.02 * normal()),
      }));
      const { low, high } = ringFit(rings, 0.001)!;
      if (low <= 12e-6 && high >= 12e-6) inside += 1;
    }
    expect(inside).toBeGreaterThanOrEqual(85);
    expect(inside).toBeLessThanOrEqual(96);
  });

  it('of one reading it is as good as meter and capacitor, of none there is none', () => {
    const [one] = READ;
    const fit = ringFit([one], 0.05)!;
    expect(fit.scatter).toBeNull();
    expect(Math.log(fit.high / fit.low)).toBeCloseTo(2 * 1.645 * 0.05, 9);
    expect(ringFit([], 0.05)).toBeNull();
    // Twice the same says nothing of a capacitance beside it, nor do two.
    expect(ringFit([one, one, one], 0.05)!.withOwn).toBeNull();
    expect(ringFit(READ.slice(0, 2), 0.05)!.withOwn).toBeNull();
  });
});

it('a capacitance across the primary is less at the secondary by the square of the turns', () => {
  const design = demoDesign('flocking-applicator');
  // 12 to 500 turns.
  expect(faradsAtSecondary(design, 72e-9)! * 1e12).toBeCloseTo((72e3 * 12 ** 2) / 500 ** 2, 6);
  expect(faradsAtSecondary({ transformer: null }, 72e-9)).toBeNull();
});

describe('loss from the idle current', () => {
  const design = demoDesign('flocking-applicator');

  it('is volts times amperes, and the quality factor that a design with it comes to', () => {
    const { volts } = design.supply as { volts: number };
    for (const amps of [0.3, 0.8, 2]) {
      const { watts, quality } = lossOfIdle(design, amps)!;
      expect(watts / (volts * amps)).toBeGreaterThan(0.9);
      expect(watts / (volts * amps)).toBeLessThanOrEqual(1 + 1e-6);
      const back = changeDesign(design, { path: '$.driver.unloadedQuality', value: quality });
      expect(predict(back, WITHOUT_OPTIMUM).source.figures.idleAmps! / amps).toBeCloseTo(1, 5);
    }
  });

  it('by hand: the tank’s volt-amperes over the quality factor, and the gate resistors', () => {
    const {
      source: { figures },
      drive: { frequencyHertz },
    } = predict(design, WITHOUT_OPTIMUM);
    if (design.driver.kind !== 'resonant-push-pull') throw new Error('has no tank');
    const { tankFarads, tankSeries, tankParallel } = design.driver;
    const voltAmperes =
      (figures.tankPeakVolts! ** 2 / 2) * 2 * Math.PI * frequencyHertz * ((tankFarads * tankParallel) / tankSeries);
    const [one, other] = [1, 2].map((amps) => lossOfIdle(design, amps)!);
    // Of both the gates take the same.
    expect((voltAmperes / other.quality - voltAmperes / one.quality) / (other.watts - one.watts)).toBeCloseTo(1, 3);
  });

  it('nothing is said of a current that no tank loss explains, nor of a driver without a tank', () => {
    expect(lossOfIdle(design, 1e-6)).toBeNull();
    expect(lossOfIdle(design, 1e5)).toBeNull();
    expect(lossOfIdle(demoDesign('teaching-tripler'), 0.5)).toBeNull();
  });
});
