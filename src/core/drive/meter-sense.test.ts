import { sineDrive } from '../../../tests/reference/drives';
import type { Drive } from './drive';
import { meterReadings, meterSchema, meterView, readingDoubts, timesForReading, type Meter } from './meter-sense';

const sine: Drive = sineDrive(1000, 40e3);
const square: Drive = { ...sine, waveform: 'square' };
const pulse: Drive = { ...sine, waveform: 'pulse', positivePeakVolts: 900, negativePeakVolts: 100, duty: 0.1 };
const meter = (changes: Partial<Meter> = {}): Meter =>
  meterSchema.parse({ bandHertz: null, inputFarads: 0, ...changes });

it('an average-responding meter shows 1.11 times the rectified mean: 1.11 of a square, the RMS of a sine (handbook)', () => {
  expect(meterReadings(sine).averageRespondingVolts).toBeCloseTo(1000 / Math.SQRT2, 1);
  expect(meterReadings(square).averageRespondingVolts).toBeCloseTo(1110.7, 1);
  expect(meterReadings(square).trueRmsVolts).toBeCloseTo(1000, 6);
});

it('a pulse by hand: mean zero, RMS 300 V, rectified mean 180 V', () => {
  const readings = meterReadings(pulse);
  expect(readings.meanVolts).toBeCloseTo(0, 6);
  expect(readings.trueRmsVolts).toBeCloseTo(300, 6);
  expect(readings.averageRespondingVolts).toBeCloseTo(180 * 1.1107, 1);
  expect(readings.positivePeakVolts).toBe(900);
});

it.each([1, 0.5, 2, 10])('a sine at %d times the band limit shows 1 / sqrt(1 + x^2) of itself (handbook)', (times) => {
  const readings = meterReadings(sine, sine.frequencyHertz / times);
  const part = 1 / Math.hypot(1, times);
  expect(readings.trueRmsVolts / (part * 707.107)).toBeCloseTo(1, 2);
  expect(readings.positivePeakVolts / (part * 1000)).toBeCloseTo(1, 2);
});

it('a slow meter makes a triangle of a square: rectified mean V T / 8 tau, by integration', () => {
  const bandHertz = square.frequencyHertz / 100;
  const tau = 1 / (2 * Math.PI * bandHertz);
  const byHand = (1000 / (square.frequencyHertz * 8 * tau)) * 1.1107;
  expect(meterReadings(square, bandHertz).averageRespondingVolts / byHand).toBeCloseTo(1, 2);
});

it('loading: 10 MΩ behind 10 MΩ halves, capacitance turns with the frequency', () => {
  expect(meterView({ ...sine, seriesOhms: 10e6 }, meter({ kind: 'true-rms' })).trueness).toBeCloseTo(0.5, 9);
  // 100 pF at 40 kHz are 39.8 kΩ; behind 39.8 kΩ the voltage falls to 0.707, twice that of dc unchanged.
  const behind = { ...sine, seriesOhms: 1 / (2 * Math.PI * 40e3 * 100e-12) };
  const loaded = meter({ kind: 'true-rms', inputFarads: 100e-12, inputOhms: 1e15 });
  expect(meterView(behind, loaded).trueness).toBeCloseTo(Math.SQRT1_2, 6);
  expect(meterView({ ...behind, positivePeakVolts: 2000 }, { ...loaded, kind: 'dc' }).trueness).toBeCloseTo(1, 6);
});

it('the way back: peaks from a reading show that reading', () => {
  for (const kind of ['average-responding', 'true-rms', 'peak'] as const) {
    const slow = meter({ kind, bandHertz: 20e3, probeRatio: 1000, inputFarads: 3e-12 });
    const drive = { ...pulse, seriesOhms: 20e3 };
    const times = timesForReading(drive, slow, 1.5)!;
    const scaled = { ...drive, positivePeakVolts: 900 * times, negativePeakVolts: 100 * times };
    expect(meterView(scaled, slow).shownVolts).toBeCloseTo(1.5, 9);
  }
  expect(timesForReading(sine, meter({ kind: 'dc' }), 5)).toBeNull();
});

it('says what is wrong with a reading, and nothing of a right one', () => {
  const codes = (drive: Drive, of: Meter) => meterView(drive, of).findings.map(({ code }) => code);
  expect(codes(sine, meter({ kind: 'true-rms', limitVolts: 1000 }))).toEqual([]);
  expect(codes(sine, meter({ kind: 'true-rms' }))).toEqual(['meter-over-voltage']);
  expect(codes(sine, meter({ kind: 'true-rms', probeRatio: 1000 }))).toEqual([]);
  expect(codes(sine, meter({ bandHertz: 1000, limitVolts: 1000 }))).toEqual(['meter-too-slow']);
  expect(codes(square, meter({ limitVolts: 1000 }))).toEqual(['meter-scaled-for-sine']);
  expect(codes({ ...sine, seriesOhms: 2e6 }, meter({ kind: 'true-rms', limitVolts: 1000 }))).toEqual(['meter-loads']);
});

it('a reading by itself is doubted for frequency and jacks only', () => {
  const doubts = (volts: number, hertz: number) =>
    readingDoubts({ volts, hertz }, meter({ bandHertz: 20e3 })).map(({ code }) => code);
  expect(doubts(20, 1000)).toEqual([]);
  expect(doubts(20, 20e3)).toEqual(['meter-too-slow']);
  expect(doubts(900, 1000)).toEqual(['meter-over-voltage']);
  expect(doubts(0, 1e6)).toEqual([]);
});
