import { benchDesign } from '../../../tests/reference/bench-design';
import { meterSchema } from '../drive/meter-sense';
import { finish } from '../numeric/finish';
import { TOPOLOGIES } from '../topology/network';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { probedOf } from '../transient/probed';
import { lowSourceSchema, onLowSource } from './low-source';
import { provingOf } from './proving';

const METER = meterSchema.parse({});
/** A silicon rectifier for 1 A. */
const SILICON = { forwardVolts: 1, forwardAmps: 1, averageAmps: 1 };

const ladder = (topology: string, stages: number, farads = 10e-6, diode: object = SILICON) =>
  benchDesign({
    driver: { positivePeakVolts: 5e3, frequencyHertz: 30e3 },
    ladder: { topology, stages, capacitor: { farads } },
    diode,
  });
const winding = (peakVolts: number, more: object = {}) =>
  lowSourceSchema.parse({ kind: 'winding', rmsVolts: peakVolts / Math.SQRT2, ...more });
const proved = (...of: Parameters<typeof provingOf>) => finish(provingOf(...of));

/** Readings that hobby ladders of silicon rectifiers give through 10 megohm (common practice, no source). */
it.each([
  ['three steps of 16.5 V', 'half-wave', 1.5, 16.5, 49, 1],
  ['four steps of 16.5 V', 'half-wave', 2, 16.5, 64.7, 1],
  ['a bridge doubler on 27.6 V, between its ends', 'bridge-doubler', 1, 27.6, 53.3, 2],
  ['one stage on 10 V RMS', 'half-wave', 1, 10 * Math.SQRT2, 28.1, 1],
] as const)('%s read as they do at the bench, within 2.5 %%', (_, topology, stages, peakVolts, readVolts, ends) => {
  const { taps } = proved(ladder(topology, stages), winding(peakVolts), METER);
  const sum = taps.slice(-ends).reduce((total, { reading }) => total + Math.abs(reading!.value), 0);
  expect(sum / readVolts).toBeGreaterThan(0.975);
  expect(sum / readVolts).toBeLessThan(1.025);
});

it.each([
  ['half-wave', 3],
  ['half-wave', 2.5],
  ['full-wave', 2],
  ['bipolar', 2],
] as const)('%s of %d stages: as the time domain has it with the meter on the whole ladder', (topology, stages) => {
  const design = ladder(topology, stages, 20e-9, { forwardVolts: 0.4 });
  const source = winding(17);
  const { taps } = proved(design, source, METER);
  const low = onLowSource(design, source)!;
  for (const { node, reading } of taps) {
    const whole = finish(probedOf(low, { node, ohms: METER.inputOhms, farads: METER.inputFarads }));
    expect(reading!.value / whole!.get(node)!).toBeCloseTo(1, 3);
  }
});

it('by hand: a peak behind a rectifier, less its drop, with the meter’s sag of I / (f C)', () => {
  const { taps } = proved(ladder('rectifier', 0.5, 1e-6, { forwardVolts: 0.5 }), winding(20, { ohms: 0 }), METER);
  // 19.5 V into 10 megohm from 1 uF at 50 Hz: ripple 39 mV, mean half of it under the peak.
  expect(taps).toHaveLength(1);
  expect(taps[0].bareVolts).toBeCloseTo(19.5, 2);
  expect(taps[0].reading!.value).toBeCloseTo(19.5 - 19.5 / 10e6 / 50 / 1e-6 / 2, 2);
});

describe('bands', () => {
  it('join source, drops and meter by their squares', () => {
    const { taps } = proved(ladder('half-wave', 1, 10e-6, { forwardVolts: 0.5 }), winding(20), METER);
    const { low, high, value } = taps[0].reading!;
    // 39 V: 1 % of the source, 1 % of the meter, a fifth of two drops of half a volt.
    expect((high - low) / 2).toBeCloseTo(Math.hypot(0.39, 0.39, 0.2), 2);
    expect((low + high) / 2).toBeCloseTo(value, 9);
  });

  it('count the source by the design’s own spread where it is turned down and not measured', () => {
    const test = proved(
      ladder('half-wave', 1, 10e-9, { forwardVolts: 0 }),
      lowSourceSchema.parse({ kind: 'turned-down', fraction: 0.01 }),
      METER,
    );
    const { low, high, value } = test.taps[0].reading!;
    expect(test.taps[0].bareVolts).toBeCloseTo(100, 1);
    expect((high - low) / 2 / value).toBeCloseTo(Math.hypot(0.05, 0.01), 3);
  });

  it('hold where the meter takes nearly all: in proportion to what is left', () => {
    const { taps, findings } = proved(ladder('half-wave', 4, 1e-9), winding(17), METER);
    for (const { reading, bareVolts } of taps) {
      expect(reading!.value).toBeLessThan(0.5 * bareVolts);
      expect(reading!.low).toBeGreaterThan(0.8 * reading!.value);
    }
    expect(findings.map(({ code }) => code)).toContain('meter-loads');
  });
});

it('a negative ladder reads below ground, a probe that divides shows its part', () => {
  const positive = ladder('half-wave', 1);
  const negative = { ...positive, ladder: { ...positive.ladder, polarity: 'negative' as const } };
  const [plain] = proved(negative, winding(17), METER).taps;
  expect(plain.reading!.value).toBeLessThan(-32);
  expect(plain.fullVolts).toBeLessThan(-9e3);
  const [divided] = proved(negative, winding(17), { ...METER, probeRatio: 10 }).taps;
  expect(divided.reading!.value / plain.reading!.value).toBeCloseTo(0.1, 6);
});

it('refuses a tap that would put more on the meter than it takes, and says which', () => {
  const { taps, findings } = proved(ladder('half-wave', 3), winding(17), { ...METER, limitVolts: 50 });
  expect(taps.map(({ isOverMeter, reading }) => [isOverMeter, reading === null])).toEqual([
    [false, false],
    [true, true],
    [true, true],
  ]);
  expect(findings.find(({ code }) => code === 'taps-over-meter')!.message).toMatch(/B2, B3/);
});

it('says what the test cannot show', () => {
  const codes = (design: ReturnType<typeof ladder>, peak = 17, more = {}) =>
    proved(design, winding(peak, more), METER).findings.map(({ code }) => code);
  expect(codes(ladder('half-wave', 3, 10e-6, { forwardVolts: 0.7, leakageAmps: 1e-6 }), 5)).toEqual(
    expect.arrayContaining(['drops-large', 'leakage-unproved']),
  );
  const junction = { forwardVolts: 0.7, junctionFarads: 40e-12, junctionVolts: 4, peakInverseVolts: 12e3 };
  expect(codes(ladder('half-wave', 8, 1e-9, junction), 17, { hertz: 30e3 })).toContain('strays-unlike');
  expect(codes(ladder('none', 1))).toContain('no-taps');
  expect(codes(ladder('half-wave', 3))).toContain('test-hazardous');
});

it('expects nothing of a source that diodes of sticks hardly let through, and says what would do', () => {
  // Sticks of 25 V on a source of 17 V peak: a fifth of the amplitude asks for 125 V peak, 88 V RMS.
  const { taps, findings } = proved(ladder('half-wave', 3, 10e-6, { forwardVolts: 25 }), winding(17), METER);
  expect(taps.every(({ reading }) => reading === null)).toBe(true);
  expect(findings.find(({ severity }) => severity === 'stop')).toMatchObject({
    code: 'drops-take-all',
    advice: expect.stringMatching(/about 88\sV RMS/),
  });
  expect(findings.map(({ code }) => code)).not.toContain('not-settled');
  const enough = proved(ladder('half-wave', 3, 10e-6, { forwardVolts: 25 }), winding(125), METER);
  expect(enough.taps.every(({ reading }) => reading !== null)).toBe(true);
});

it('a resistor against a short keeps it under what a diode carries', () => {
  const { findings } = proved(ladder('half-wave', 1), winding(17), METER);
  expect(findings.find(({ code }) => code === 'nothing-limits')!.advice).toMatch(/^18\.0\sΩ/);
  const limited = proved(ladder('half-wave', 1), winding(17, { ohms: 18 }), METER);
  expect(limited.findings.map(({ code }) => code)).not.toContain('nothing-limits');
});

it('no drive is too odd for an answer: every topology, half stages and all', () => {
  for (const topology of TOPOLOGIES)
    for (const stages of TOPOLOGY_KINDS[topology].stages === 'whole' ? [1, 2] : [0.5, 1, 1.5, 2]) {
      const { taps } = proved(ladder(topology, stages), winding(17), METER);
      for (const { reading, bareVolts } of taps)
        expect(Math.abs(reading!.value)).toBeLessThanOrEqual(1.001 * Math.abs(bareVolts) + 0.5);
    }
});
