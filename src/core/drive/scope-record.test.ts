import { benchDesign } from '../../../tests/reference/bench-design';
import { sineDrive } from '../../../tests/reference/drives';
import { transientOf } from '../transient/transient';
import { finish } from '../numeric/finish';
import { predict } from '../predict/predict';
import { meterReadings } from './meter-sense';
import { periodOf, readScopeRows } from './scope-record';

const rowsOf = (text: string, separator = ',') => text.split('\n').map((line) => line.split(separator));
const sampledAt = (count: number, stepSeconds: number, volts: (seconds: number) => number) => {
  const seconds = Array.from({ length: count }, (_, at) => at * stepSeconds);
  return { seconds, volts: seconds.map(volts) };
};
const sine = (seconds: number) => 800 * Math.sin(2 * Math.PI * 25e3 * seconds + 0.7);

describe('rows of a record', () => {
  const body = Array.from({ length: 20 }, (_, at) => `${at * 2},${at - 5}`).join('\n');
  it.each<[string, string, string, number, number]>([
    ['units in brackets', `Time (ms),CH1 (kV)\n${body}`, ',', 2e-3, 1e3],
    ['units in a row of their own', `x-axis,1\nsecond,Volt\nus,mV\n${body}`, ',', 2e-6, 1e-3],
    ['no header', body, ',', 2, 1],
    ['decimal comma', body.replace(/,/g, ';').replace(/^(\d+)/gm, '$1,0'), ';', 2, 1],
    ['a number of the sample first', 'Source,CH1\nTime (µs),Volts (V)\n' + body, ',', 2e-6, 1],
  ])('%s', (_name, text, separator, stepSeconds, volt) => {
    const read = readScopeRows(rowsOf(text, separator));
    if (!read.ok) throw new Error(read.reason);
    expect(read.seconds[1] - read.seconds[0]).toBeCloseTo(stepSeconds, 12);
    expect(read.volts[19]).toBeCloseTo(14 * volt, 9);
  });
  it.each<[string, string, RegExp]>([
    ['words alone', 'a,b\nc,d', /two numbers/],
    ['too few', '1,2\n2,3', /at least 16/],
    ['time that runs back', `${body}\n3,1`, /does not go on/],
  ])('%s is refused with the reason', (_name, text, reason) => {
    const read = readScopeRows(rowsOf(text));
    expect(read.ok ? '' : read.reason).toMatch(reason);
  });
});

describe('one period', () => {
  it('has the frequency and shape of a sine, from its rise through the middle', () => {
    const found = periodOf(sampledAt(1000, 1e-6, sine));
    if (!found.ok) throw new Error(found.reason);
    expect(found.frequencyHertz / 25e3).toBeCloseTo(1, 4);
    expect(found.periods).toBe(24);
    expect(found.samples[0]).toBeCloseTo(0, -1);
    expect(Math.max(...found.samples) / 800).toBeCloseTo(1, 2);
    expect(found.samples[64]).toBeGreaterThan(795);
  });
  it('is not fooled by noise about the middle', () => {
    let seed = 1;
    const noise = () => ((seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5) * 60;
    const found = periodOf(sampledAt(1000, 1e-6, (seconds) => sine(seconds) + noise()));
    expect(found.ok && Math.abs(found.frequencyHertz / 25e3 - 1)).toBeLessThan(0.01);
  });
  it('refuses less than a period, and a trace of one sign', () => {
    const short = periodOf(sampledAt(40, 1e-6, sine));
    expect(short.ok ? '' : short.reason).toMatch(/twice/);
    const lifted = periodOf(sampledAt(1000, 1e-6, (seconds) => sine(seconds) + 900));
    expect(lifted.ok ? '' : lifted.reason).toMatch(/never changes sign/);
  });
});

it('a ladder on a recorded sine settles as on the sine itself, and is predicted alike', () => {
  const samples = Array.from({ length: 256 }, (_, at) => Math.sin((2 * Math.PI * at) / 256));
  const load = { kind: 'resistance', ohms: 100 };
  const design = (driver: object) => benchDesign({ driver, ladder: { stages: 2 }, load });
  const recorded = design({ waveform: 'sampled', samples });
  const meant = design({});
  expect(predict(recorded).output.meanVolts).toBeCloseTo(predict(meant).output.meanVolts!, 9);
  const settled = [recorded, meant].map((one) => finish(transientOf(one)).transient);
  expect(settled[0].converged).toBe(true);
  expect(Math.abs(settled[0].meanVolts / settled[1].meanVolts - 1)).toBeLessThan(2e-3);
});

describe('meters', () => {
  it.each([
    ['sine', Math.SQRT1_2, Math.SQRT1_2],
    // RMS of a square is its peak; an average-responding meter shows 11 % too much (handbook).
    ['square', 1, 1.1107],
  ] as const)('of 1 V peak %s', (waveform, rms, average) => {
    const readings = meterReadings({ ...sineDrive(1), waveform });
    expect(readings.trueRmsVolts).toBeCloseTo(rms, 4);
    expect(readings.averageRespondingVolts).toBeCloseTo(average, 4);
    expect(readings.meanVolts).toBeCloseTo(0, 9);
  });
  it('of a narrow pulse: mean by its duty, RMS about it sqrt(d (1 - d)) of peak to peak (handbook)', () => {
    const pulse = {
      ...sineDrive(1),
      waveform: 'pulse' as const,
      duty: 0.1,
      positivePeakVolts: 900,
      negativePeakVolts: 100,
    };
    const readings = meterReadings(pulse);
    expect(readings.meanVolts).toBeCloseTo(0, 0);
    expect(readings.trueRmsVolts / 1000).toBeCloseTo(0.3, 3);
    expect(readings.averageRespondingVolts).toBeLessThan(readings.trueRmsVolts);
  });
});
