import { benchDesign } from '../../../tests/reference/bench-design';
import { meterSchema } from '../drive/meter-sense';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import { expectedOf } from './expected-of';

const METER = meterSchema.parse({ probeRatio: 1000 });
const DESIGN = benchDesign({
  driver: { positivePeakVolts: 1e3, frequencyHertz: 30e3 },
  ladder: { topology: 'half-wave', stages: 3, capacitor: { farads: 1e-9 } },
});

describe('what is expected of a reading by itself', () => {
  const prediction = predict(DESIGN, WITHOUT_OPTIMUM);
  const of = (kind: Parameters<typeof expectedOf>[2], at = '') => expectedOf(DESIGN, prediction, kind, at, METER);

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
    const ripple = expectedOf(loaded, at, 'ripple', at.terminals.output, METER)!;
    // Handbook: I n (n + 1) / (2 f C), peak to peak.
    expect(ripple.value).toBeCloseTo((2e-5 * 3 * 4) / (2 * 30e3 * 1e-9) / 1000, 4);
    expect(expectedOf(loaded, at, 'ripple', 'B1', METER)).toBeNull();
    // Without load there is none.
    expect(of('ripple', prediction.terminals.output)).toBeNull();
  });

  it('is nothing where nothing is known', () => {
    expect(of('gap')).toBeNull();
    expect(of('resistance', 'D1')).toBeNull();
    expect(of('capacitance', 'D1')).toBeNull();
    expect(of('drop', 'C1')).toBeNull();
    // A measured drive has no supply, and no tank.
    expect(of('supply-current', 'idle')).toBeNull();
    expect(of('frequency', '4.7e-7')).toBeNull();
  });
});
