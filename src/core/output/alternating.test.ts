import { newDesign } from '../design/new-design';
import { readDesign } from '../design/read-design';
import { plainDrive } from '../drive/drive-result';
import type { Drive } from '../drive/drive';
import { predict } from '../predict/predict';
import { transientOf } from '../transient/transient';
import { finish } from '../numeric/finish';
import { alternatingPoint } from './alternating';
import { outputElements } from './elements';

const sine = (changes: Partial<Drive> = {}): Drive =>
  plainDrive({ waveform: 'sine', positivePeakVolts: 5000, negativePeakVolts: 5000, frequencyHertz: 30e3, ...changes });
const into = (ohms: number, seriesOhms = 0, bleederOhms: number | null = null) =>
  outputElements({ seriesOhms, bleederOhms }, { kind: 'resistance', ohms });

describe('a winding straight onto a resistance', () => {
  it.each([
    [0, 0, 1e6],
    [20e3, 0, 1e6],
    [20e3, 0.5, 1e6],
    [1e3, 2, 50e3],
    [0, 1e4, 1],
    [0, 1e12, 1e-6],
  ])('a sine behind %d ohm and %d H into %d ohm: V / |Z| (handbook)', (seriesOhms, seriesHenries, ohms) => {
    const reactance = 2 * Math.PI * 30e3 * seriesHenries;
    const amps = 5000 / Math.SQRT2 / Math.hypot(seriesOhms + ohms, reactance);
    const point = alternatingPoint(sine({ seriesOhms, seriesHenries }), into(ohms))!;
    expect(point.rmsAmps / amps).toBeCloseTo(1, 4);
    expect(point.rmsVolts / (amps * ohms)).toBeCloseTo(1, 4);
    expect(point.peakVolts / (amps * ohms * Math.SQRT2)).toBeCloseTo(1, 4);
    expect(point.sourceWatts / (amps ** 2 * (seriesOhms + ohms))).toBeCloseTo(1, 4);
  });
  it('a pulse of a quarter: RMS by its two levels', () => {
    const drive = plainDrive({
      waveform: 'pulse',
      duty: 0.25,
      positivePeakVolts: 3000,
      negativePeakVolts: 1000,
      frequencyHertz: 20e3,
    });
    const point = alternatingPoint(drive, into(1e6))!;
    expect(point.rmsVolts).toBeCloseTo(Math.sqrt(0.25 * 3000 ** 2 + 0.75 * 1000 ** 2), 6);
    expect(point.peakVolts).toBe(3000);
  });
  it('a square behind L: the exponential of its corner (handbook)', () => {
    const drive = plainDrive({
      waveform: 'square',
      positivePeakVolts: 1000,
      negativePeakVolts: 1000,
      frequencyHertz: 10e3,
      seriesHenries: 1,
    });
    // tanh(T / 4 tau) of the height at the end of each half.
    const tau = 1 / 100e3;
    const { peakVolts } = alternatingPoint(drive, into(100e3))!;
    expect(peakVolts / (1000 * Math.tanh(0.25 / 10e3 / tau))).toBeCloseTo(1, 2);
  });
  it('series resistor and bleeder share as they do on direct voltage', () => {
    const point = alternatingPoint(sine({ seriesOhms: 10e3 }), into(1e6, 200e3, 5e6))!;
    const terminal = 1 / (1 / 5e6 + 1 / 1.2e6);
    const atTerminal = (5000 / Math.SQRT2) * (terminal / (terminal + 10e3));
    expect(point.rmsVolts).toBeCloseTo((atTerminal * 1e6) / 1.2e6, 3);
    expect(point.sourceRmsAmps).toBeCloseTo(atTerminal / terminal, 9);
  });
});

describe('other loads', () => {
  const drive = sine({ seriesOhms: 20e3, seriesHenries: 0.2 });
  const drawn = (amps: number) =>
    alternatingPoint(drive, outputElements({ seriesOhms: 1e3, bleederOhms: null }, { kind: 'current', amps }));
  it('a current is its RMS, whatever resistance that takes', () => {
    for (const amps of [1e-6, 1e-3, 0.05]) expect(drawn(amps)!.rmsAmps / amps).toBeCloseTo(1, 6);
  });
  it('a source of reactance alone gives what V / |Z| gives (handbook)', () => {
    const reactance = 2 * Math.PI * 30e3 * 0.2;
    const pure = sine({ seriesHenries: 0.2 });
    const amps = (0.6 * 5000) / Math.SQRT2 / reactance;
    const elements = outputElements({ seriesOhms: 0, bleederOhms: null }, { kind: 'current', amps });
    const { rmsVolts } = alternatingPoint(pure, elements)!;
    // At six tenths of the short's current the load has eight tenths of the volts.
    expect(rmsVolts / ((0.8 * 5000) / Math.SQRT2)).toBeCloseTo(1, 4);
  });
  it('more than a short draws is none', () => {
    const short = 5000 / Math.SQRT2 / Math.hypot(21e3, 2 * Math.PI * 30e3 * 0.2);
    expect(drawn(0.999 * short)!.rmsAmps).toBeCloseTo(0.999 * short, 6);
    expect(drawn(1.001 * short)).toBeNull();
  });
  it('open, all of it arrives; a corona or a gap has no figure', () => {
    expect(
      alternatingPoint(drive, outputElements({ seriesOhms: 0, bleederOhms: null }, { kind: 'open' })),
    ).toMatchObject({
      rmsAmps: 0,
      sourceWatts: 0,
    });
    const corona = { kind: 'corona', onsetVolts: 2000, ampsPerSquareVolt: 1e-12 } as const;
    const gap = { kind: 'gap', strikeVolts: 9000, arcOhms: 1000, quenchAmps: 1e-3 } as const;
    for (const load of [corona, gap])
      expect(alternatingPoint(drive, outputElements({ seriesOhms: 0, bleederOhms: null }, load))).toBeNull();
  });
});

describe('a design without ladder', () => {
  const plain = newDesign('Straight');
  const design = (changes: object) => {
    const read = readDesign({ ...plain, ladder: { ...plain.ladder, topology: 'none', stages: 1 }, ...changes });
    if (!read.ok) throw new Error(JSON.stringify(read.faults));
    return read.design;
  };
  it.each([
    ['sine', {}, { kind: 'resistance', ohms: 100e3 }],
    ['sine behind a reactance', { seriesHenries: 0.2 }, { kind: 'resistance', ohms: 30e3 }],
    ['square', { waveform: 'square', seriesOhms: 5e3 }, { kind: 'meter', ohms: 10e6 }],
    ['pulse', { waveform: 'pulse', duty: 0.3 }, { kind: 'resistance', ohms: 20e3 }],
  ])('%s: closed form and time domain agree within 0.5 %%', (_name, driver, load) => {
    const one = design({ driver: { ...plain.driver, ...driver }, load });
    const { output, input, findings } = predict(one);
    const { transient } = finish(transientOf(one));
    expect(transient.converged).toBe(true);
    expect(findings.filter(({ severity }) => severity === 'stop')).toEqual([]);
    expect(Math.abs(transient.rmsVolts / output.alternating!.rmsVolts! - 1)).toBeLessThan(0.005);
    expect(Math.abs(transient.rmsAmps / output.alternating!.rmsAmps! - 1)).toBeLessThan(0.005);
    expect(Math.abs(transient.watts.in / input.watts! - 1)).toBeLessThan(0.005);
    expect(transient.watts.load / output.alternating!.watts!).toBeCloseTo(1, 2);
  });
  it('a corona draws alike either way in the time domain, and its power adds up', () => {
    const one = design({ load: { kind: 'corona', onsetVolts: 400, ampsPerSquareVolt: 1e-9 } });
    expect(predict(one).output.alternating!.rmsVolts).toBeNull();
    const { transient } = finish(transientOf(one));
    expect(transient.amps / transient.rmsAmps).toBeCloseTo(0, 3);
    expect(transient.rmsAmps).toBeGreaterThan(1e-5);
    expect(Math.abs(transient.error.powerResidue!)).toBeLessThan(1e-3);
  });
  it('is held against its target by RMS, and runs out of power as any other', () => {
    const target = { volts: 600, amps: 5e-3 };
    const one = (maxWatts: number | null) =>
      predict(design({ driver: { ...plain.driver, maxWatts }, target, load: { kind: 'resistance', ohms: 100e3 } }));
    const free = one(null);
    expect(free.target).toMatchObject({ voltsMet: true, ampsMet: true, rippleMet: null });
    expect(free.target!.voltsExcess).toBeCloseTo(free.output.alternating!.rmsVolts! / 600 - 1, 12);
    const limited = one(free.input.watts! / 4);
    expect(limited.source.driveScale).toBeCloseTo(0.5, 3);
    expect(limited.target!.voltsMet).toBe(false);
  });
});
