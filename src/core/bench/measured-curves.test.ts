import { benchDesign } from '../../../tests/reference/bench-design';
import { benchReading } from '../../../tests/reference/bench-reading';
import { meterSchema } from '../drive/meter-sense';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import { againstLoad, atLoad, inPhase } from './measured-curves';

const METER = meterSchema.parse({ probeRatio: 1000 });
const DESIGN = benchDesign({
  driver: { positivePeakVolts: 1e3, frequencyHertz: 30e3 },
  ladder: { topology: 'half-wave', stages: 3, capacitor: { farads: 1e-9 } },
});

const reading = (at: string, value: number) => benchReading({ kind: 'loaded', at, value });

describe('against the load', () => {
  it('points stand at what was read times the probe’s ratio, beside the design’s own line', () => {
    const against = againstLoad(DESIGN, METER, [reading('0.0001', 5.9), reading('0', 6)])!;
    expect(against.points).toEqual([
      { amps: 0, volts: 6000 },
      { amps: 1e-4, volts: 5900 },
    ]);
    // Handbook: three stages of 2 x 1 kV; droop I (2 n^3 / 3 + n^2 / 2 - n / 6) / (f C).
    const amps = 1e-4;
    const droop = (amps * ((2 * 27) / 3 + 9 / 2 - 3 / 6)) / (30e3 * 1e-9);
    const drawn = against.line.toSorted((a, b) => Math.abs(a.amps - amps) - Math.abs(b.amps - amps))[0];
    expect(drawn.meanVolts).toBeGreaterThan(6000 - 2 * droop);
    expect(drawn.meanVolts).toBeLessThan(6000);
    expect(againstLoad(DESIGN, METER, [])).toBeNull();
  });

  it('what the meter is to show falls along the line as the prediction does', () => {
    const [none, some] = [0, 2e-5].map((amps) => atLoad(DESIGN, amps, METER).shown!);
    expect(none.value).toBeCloseTo(6, 3);
    const loaded = predict({ ...DESIGN, load: { kind: 'current', amps: 2e-5 } }, WITHOUT_OPTIMUM).output.meanVolts!;
    expect(some.value).toBeCloseTo(loaded / 1000, 6);
    expect(some.low).toBeLessThan(some.value);
    // A hand meter by itself is not put on six kilovolts.
    const bare = atLoad(DESIGN, 0, meterSchema.parse({}));
    expect(bare).toMatchObject({ shown: null, refused: expect.stringContaining('divider') });
  });
});

describe('a scope record over the computed waveform', () => {
  const COUNT = 128;
  const wave = (phase: number) => Math.sin(2 * Math.PI * phase) + 0.4 * Math.sin(4 * Math.PI * phase + 1);
  const times = Array.from({ length: 201 }, (_, step) => (step / 200) * 1e-3);
  const values = times.map((time) => 50 + wave(time / 1e-3));

  it('is turned back by as much as it was turned, wherever the record began', () => {
    for (const turned of [0, 0.1, 0.37, 0.75]) {
      const samples = Array.from({ length: COUNT }, (_, at) => 20 + 2 * wave(at / COUNT - turned));
      const { shift, read, computed } = inPhase(samples, times, values);
      expect(shift).toBeCloseTo(turned, 1);
      expect(Math.abs(shift - turned)).toBeLessThan(1 / COUNT);
      // Levels are not touched: both alternate about their own.
      read.forEach((volts, at) => expect((volts - 20) / 2).toBeCloseTo(computed[at] - 50, 1));
    }
  });

  it('one that does not alternate stays as it is', () => {
    const { read, shift } = inPhase(Array<number>(COUNT).fill(3), times, values);
    expect(shift).toBe(0);
    expect(read).toEqual(Array<number>(COUNT).fill(3));
  });
});
