import { benchDesign } from '../../../tests/reference/bench-design';
import { demoDesign } from '../../../tests/reference/demo-designs';
import { meterSchema } from '../drive/meter-sense';
import { airSchema } from '../load/air/air';
import { airGapSchema, strikeMetres } from '../load/air/air-gap';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import type { ReadingKind } from './entries';
import { expectedOf } from './expected-of';
import { resistancesOf } from './resistances';

const METER = meterSchema.parse({ probeRatio: 1000 });
const SPHERES = { gap: airGapSchema.parse({ sphereMetres: 0.02 }), air: airSchema.parse({}) };
const DESIGN = benchDesign({
  driver: { positivePeakVolts: 1e3, frequencyHertz: 30e3 },
  ladder: { topology: 'half-wave', stages: 3, capacitor: { farads: 1e-9 } },
});

describe('what is expected of a reading by itself', () => {
  const prediction = predict(DESIGN, WITHOUT_OPTIMUM);
  const of = (kind: ReadingKind, at = '', design = DESIGN) =>
    expectedOf(design, predict(design, WITHOUT_OPTIMUM), { kind, at, meter: METER, between: SPHERES });

  it('is the design’s own figure within what it and the meter may be off', () => {
    expect(of('frequency')!.value).toBe(30e3);
    const { low, value, high } = of('capacitance', 'C1')!;
    expect(value).toBeCloseTo(1e-9, 15);
    expect((high - low) / 2 / value).toBeCloseTo(Math.hypot(DESIGN.ladder.capacitor.tolerance, METER.accuracy), 9);
  });

  it('at the drive and at the output, through a probe that divides', () => {
    expect(of('peak', 'source')!.value).toBeCloseTo(1, 9);
    const loaded = { ...DESIGN, load: { kind: 'current' as const, amps: 2e-5 } };
    const at = predict(loaded, WITHOUT_OPTIMUM);
    const ripple = of('ripple', at.terminals.output, loaded)!;
    // Handbook: I n (n + 1) / (2 f C), peak to peak.
    expect(ripple.value).toBeCloseTo((2e-5 * 3 * 4) / (2 * 30e3 * 1e-9) / 1000, 4);
    expect(of('ripple', 'B1', loaded)).toBeNull();
    // Without load there is none.
    expect(of('ripple', prediction.terminals.output)).toBeNull();
  });

  it('of a gap is how far the output jumps without load, for these electrodes', () => {
    const { low, value, high } = of('gap')!;
    expect(prediction.output.noLoadPeakVolts / 6e3).toBeCloseTo(1, 1);
    // IEC 60052, spheres of 2 cm: 4.7 kV over 1.0 mm, 6.4 kV over 1.5 mm (from memory).
    expect(value).toBeGreaterThan(1.25e-3);
    expect(value).toBeLessThan(1.5e-3);
    // Wider than the law's own band by what the drive's peaks may be off.
    const law = strikeMetres(SPHERES.gap, prediction.output.noLoadPeakVolts, SPHERES.air);
    if ('at' in law) throw new Error(law.reason);
    expect(low).toBeLessThan(law.least!);
    expect(high).toBeGreaterThan(law.most!);
    // Under what air breaks down at there is no gap to expect.
    expect(of('gap', '', { ...DESIGN, driver: { ...DESIGN.driver, positivePeakVolts: 20 } })).toBeNull();
  });

  it('of a resistor or a winding is what the design has there', () => {
    const design = demoDesign('electrospinning-bench-pair');
    const found = resistancesOf(design);
    expect(found.map(({ id }) => id)).toContain('secondary');
    for (const { id, ohms } of found) expect(of('resistance', id, design as typeof DESIGN)!.value).toBe(ohms);
  });

  it('is nothing where nothing is known', () => {
    expect(of('resistance', 'D1')).toBeNull();
    expect(of('capacitance', 'D1')).toBeNull();
    expect(of('drop', 'C1')).toBeNull();
    // A measured drive has no supply, and no tank.
    expect(of('supply-current', 'idle')).toBeNull();
    expect(of('frequency', '4.7e-7')).toBeNull();
  });
});
