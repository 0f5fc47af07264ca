import { benchDesign } from '../../../tests/reference/bench-design';
import fc from 'fast-check';
import type { Design, MeasuredDesign } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { closedFormReach, loadLine, stagesCurve } from './curves';
import { formatQuantity } from '../quantity/format-quantity';
import { predict, WITHOUT_OPTIMUM } from './predict';

/** A design with ideal parts, the fields a check speaks of set by name. */
function ideal(part: {
  stages: number;
  farads?: number;
  peakVolts: number;
  hertz: number;
  load?: Design['load'];
  sourceOhms?: number;
  forwardVolts?: number;
}): MeasuredDesign {
  const base = newDesign('check');
  return {
    ...base,
    driver: {
      ...base.driver,
      positivePeakVolts: part.peakVolts,
      frequencyHertz: part.hertz,
      seriesOhms: part.sourceOhms ?? 0,
    },
    ladder: {
      ...base.ladder,
      stages: part.stages,
      capacitor: { ...base.ladder.capacitor, farads: part.farads ?? 1e-9 },
      diode: { ...base.ladder.diode, forwardVolts: part.forwardVolts ?? 0, junctionFarads: 0 },
    },
    load: part.load ?? { kind: 'open' },
  };
}
const current = (amps: number) => ({ kind: 'current' as const, amps });
const mean = (design: Design) => predict(design, WITHOUT_OPTIMUM).output.meanVolts!;

describe('published worked examples, from memory', () => {
  it('Naidu and Kamaraju, High Voltage Engineering, chapter 6: eight stages', () => {
    const { output, textbookOptimumStages } = predict(
      ideal({ stages: 8, farads: 0.05e-6, peakVolts: 125e3, hertz: 150, load: current(5e-3) }),
    );
    expect(output.textbookRipplePeakToPeakVolts! / 1e3).toBeCloseTo(24, 1);
    expect(output.textbookDroopVolts! / 1e3).toBeCloseTo(248, 0);
    expect(Math.round(textbookOptimumStages!)).toBe(14);
  });
  it('Wadhwa, High Voltage Engineering: ten stages', () => {
    const { output, textbookOptimumStages, optimumStages } = predict(
      ideal({ stages: 10, farads: 0.06e-6, peakVolts: 100e3, hertz: 150, load: current(1e-3) }),
    );
    expect(output.textbookDroopVolts! / 1e3).toBeCloseTo(79.4, 1);
    expect(output.textbookRipplePeakToPeakVolts! / 1e3).toBeCloseTo(6.1, 1);
    expect(textbookOptimumStages).toBeCloseTo(30, 6);
    expect(optimumStages).toBe(30);
    // The mean lies half the smoothing column's charge further down than the textbook's peak figure.
    expect(output.droopVolts! - output.textbookDroopVolts!).toBeGreaterThan(0);
  });
});

describe('common practice, no source', () => {
  const bench = (stages: number, peakVolts: number) =>
    mean(
      ideal({
        stages,
        farads: 10e-6,
        peakVolts,
        hertz: 50,
        forwardVolts: 0.4,
        load: { kind: 'resistance', ohms: 10e6 },
      }),
    );
  it('a tripler from a 16.5 V peak transformer reads about 49 V on a 10 megohm meter', () => {
    expect(bench(1.5, 16.5)).toBeGreaterThan(47.5);
    expect(bench(1.5, 16.5)).toBeLessThan(49.5);
  });
  it('and a fourth part of each about 65 V', () => {
    expect(bench(2, 16.5)).toBeGreaterThan(63.5);
    expect(bench(2, 16.5)).toBeLessThan(66);
  });
  it('a clamp and its rectifier from 27.6 V peak read 54 to 56 V', () => {
    expect(bench(1, 27.6)).toBeGreaterThan(54);
    expect(bench(1, 27.6)).toBeLessThan(56);
  });
  it('a doubler from 10 V RMS reads about 28 V', () =>
    expect(Math.abs(bench(1, 10 * Math.SQRT2) - 28)).toBeLessThan(1));
});

describe('optimum stage count', () => {
  // Integer optimum of an ideal ladder for K = V f C / I, integrated elsewhere: the floor of sqrt(K).
  it.each([
    [2, 1],
    [4, 2],
    [9, 3],
    [16, 4],
    [30, 5],
    [50, 7],
    [100, 10],
  ])('K = %i: %i stages', (k, stages) => {
    const design = ideal({ stages: 1, farads: 1e-9, peakVolts: 1e4, hertz: 1e4, load: current(0.1 / k) });
    expect(predict(design).optimumStages).toBe(stages);
  });
  it('is the same as trying every count', () => {
    const anyLoad = fc.record({
      farads: fc.double({ min: 1e-10, max: 1e-8, noNaN: true }),
      hertz: fc.double({ min: 50, max: 1e5, noNaN: true }),
      sourceOhms: fc.double({ min: 0, max: 2e4, noNaN: true }),
      amps: fc.double({ min: 1e-7, max: 1e-3, noNaN: true }),
      strayFarads: fc.constantFrom(0, 1e-12, 5e-12),
    });
    fc.assert(
      fc.property(anyLoad, ({ amps, strayFarads, ...part }) => {
        const base = ideal({ ...part, stages: 1, peakVolts: 5e3, forwardVolts: 10, load: current(amps) });
        const at = (stages: number) => ({ ...base, ladder: { ...base.ladder, stages, strayFarads } });
        const curve = stagesCurve(at(1), [50]);
        expect(curve).toHaveLength(50);
        const best = curve.reduce((a, b) => ((b.meanVolts ?? 0) > (a.meanVolts ?? 0) ? b : a));
        const expected = best.meanVolts !== null && best.stages < 50 ? best.stages : null;
        expect(predict(at(1)).optimumStages).toBe(expected);
      }),
      { numRuns: 100 },
    );
  });
  it('there is none without load', () => {
    const { optimumStages, textbookOptimumStages } = predict(ideal({ stages: 3, peakVolts: 1e3, hertz: 1e4 }));
    expect([optimumStages, textbookOptimumStages]).toEqual([null, null]);
  });
});

const designs = fc.record({
  halves: fc.integer({ min: 1, max: 24 }),
  farads: fc.double({ min: 1e-10, max: 1e-7, noNaN: true }),
  peakVolts: fc.double({ min: 10, max: 2e4, noNaN: true }),
  hertz: fc.double({ min: 50, max: 1e5, noNaN: true }),
  drawn: fc.double({ min: 0.01, max: 0.5, noNaN: true }),
});
/** A load that draws part of what the closed form allows. */
const drawing = (part: { halves: number; farads: number; peakVolts: number; hertz: number; drawn: number }) => {
  const open = ideal({ ...part, stages: part.halves / 2 });
  return { ...open, load: current(part.drawn * predict(open, WITHOUT_OPTIMUM).output.closedFormAmps) };
};

describe('properties', () => {
  it('output falls with load and rises with capacitance and frequency', () => {
    fc.assert(
      fc.property(designs, (part) => {
        const design = drawing(part);
        const present = mean(design);
        const amps = design.load.kind === 'current' ? design.load.amps : 0;
        expect(mean({ ...design, load: current(amps * 1.1) })).toBeLessThan(present);
        const { capacitor } = design.ladder;
        const larger = { ...design.ladder, capacitor: { ...capacitor, farads: capacitor.farads * 1.1 } };
        expect(mean({ ...design, ladder: larger })).toBeGreaterThan(present);
        const faster = { ...design.driver, frequencyHertz: design.driver.frequencyHertz * 1.1 };
        expect(mean({ ...design, driver: faster })).toBeGreaterThan(present);
      }),
    );
  });
  it('a half stage lies between its neighbours without load and at light load', () => {
    fc.assert(
      fc.property(designs, fc.double({ min: 0, max: 0.01, noNaN: true }), ({ halves, ...part }, share) => {
        const n = Math.ceil(halves / 2);
        // A load that the tallest of the three still hardly feels.
        const most = predict(ideal({ ...part, stages: n + 1 }), WITHOUT_OPTIMUM).output.closedFormAmps;
        const at = (stages: number) => mean(ideal({ ...part, stages, load: current(share * most) }));
        expect(at(n + 0.5)).toBeGreaterThan(at(n));
        expect(at(n + 0.5)).toBeLessThan(at(n + 1));
      }),
    );
  });
  it('working voltages of the smoothing column add up to the output, loaded and not', () => {
    fc.assert(
      fc.property(designs, (part) => {
        const { capacitors, output } = predict(drawing(part), WITHOUT_OPTIMUM);
        const smoothing = capacitors.filter((capacitor) => capacitor.column === 'smoothing');
        const sum = (read: (c: (typeof smoothing)[number]) => number) =>
          smoothing.reduce((total, c) => total + read(c), 0);
        expect(sum((c) => c.loadedMeanVolts!) / output.meanVolts!).toBeCloseTo(1, 9);
        expect(sum((c) => c.workingVolts) / output.noLoadVolts).toBeCloseTo(1, 9);
      }),
    );
  });
  it('no part of a ladder gives out more power than goes in', () => {
    fc.assert(
      fc.property(designs, fc.double({ min: 0, max: 1e4, noNaN: true }), (part, seriesOhms) => {
        const design = drawing(part);
        const { input } = predict({ ...design, driver: { ...design.driver, seriesOhms } }, WITHOUT_OPTIMUM);
        if (input.efficiency !== null) expect(input.efficiency).toBeLessThanOrEqual(1 + 1e-12);
      }),
    );
  });
});

describe('loads', () => {
  const base = { stages: 4, farads: 2e-9, peakVolts: 4000, hertz: 30e3, sourceOhms: 2000 };
  it('solves a resistance for its own current', () => {
    const { output } = predict(ideal({ ...base, load: { kind: 'resistance', ohms: 50e6 } }));
    expect(output.amps! * 50e6).toBeCloseTo(output.meanVolts!, 3);
    expect(mean(ideal({ ...base, load: current(output.amps!) }))).toBeCloseTo(output.meanVolts!, 3);
  });
  it('feeds the bleeder from the ladder and drops the series resistor before the load', () => {
    const design = ideal({ ...base, load: current(100e-6) });
    const { output } = predict({ ...design, output: { ...design.output, bleederOhms: 1e9, seriesOhms: 2e6 } });
    expect(output.bleederAmps! * 1e9).toBeCloseTo(output.terminalMeanVolts!, 3);
    expect(output.terminalMeanVolts! - output.meanVolts!).toBeCloseTo(200, 6);
    expect(output.terminalMeanVolts!).toBeLessThan(mean(design));
    expect(output.droopVolts!).toBeCloseTo(output.noLoadVolts - output.meanVolts!, 6);
  });
  it('with little droop V = V_no-load R / (R + R_out)', () => {
    const { output } = predict(ideal({ ...base, sourceOhms: 0, load: { kind: 'resistance', ohms: 1e10 } }));
    const n = 4;
    const sourceOhms = ((2 * n ** 3) / 3 + n ** 2 / 2 + n / 3) / (30e3 * 2e-9);
    expect(output.meanVolts! / ((output.noLoadVolts * 1e10) / (1e10 + sourceOhms))).toBeCloseTo(1, 5);
  });
  it('past the hard limit gives no figure and says so', () => {
    const prediction = predict(ideal({ ...base, load: current(0.05) }));
    expect(prediction.output.meanVolts).toBeNull();
    expect(prediction.output.validity).toBe('beyond');
    expect(prediction.findings.map((finding) => finding.code)).toContain('closed-form-fails');
  });
  it('takes unequal peaks of a measured waveform: first coupling capacitor the negative one', () => {
    const design = ideal({ ...base, sourceOhms: 0 });
    const prediction = predict({
      ...design,
      driver: { ...design.driver, positivePeakVolts: 3000, negativePeakVolts: 1000 },
    });
    expect(prediction.output.noLoadVolts).toBeCloseTo(16_000, 6);
    expect(prediction.capacitors.slice(0, 3).map((part) => Math.round(part.workingVolts))).toEqual([1000, 4000, 4000]);
    const odd = predict({
      ...ideal({ ...base, stages: 1.5, sourceOhms: 0 }),
      driver: { ...design.driver, positivePeakVolts: 3000, negativePeakVolts: 1000 },
    });
    expect(odd.output.noLoadVolts).toBeCloseTo(2 * 3000 + 1000, 6);
    expect(odd.output.idealNoLoadVolts).toBeCloseTo(7000, 6);
  });
});

describe('nodes', () => {
  it('meet at the peaks and part by twice the peak between them', () => {
    const { nodes } = predict(ideal({ stages: 3, peakVolts: 1000, hertz: 1e4, load: current(1e-5) }));
    const node = (id: string) => nodes.find((candidate) => candidate.id === id)!;
    expect(node('A2').maxVolts).toBeCloseTo(node('B2').maxVolts!, 9);
    expect(node('A2').minVolts).toBeCloseTo(node('B1').minVolts!, 9);
    expect(node('A2').maxVolts! - node('A2').minVolts!).toBeGreaterThan(1900);
    expect(node('A2').maxVolts! - node('A2').minVolts!).toBeLessThanOrEqual(2001);
  });
});

describe('a topology of one form', () => {
  it.each(['clamp', 'bridge-doubler'] as const)('%s: no stages to add, no optimum, no curve', (topology) => {
    const base = ideal({ stages: 1, peakVolts: 1000, hertz: 1e4, load: current(1e-5) });
    const design = { ...base, ladder: { ...base.ladder, topology } };
    expect(predict(design).optimumStages).toBeNull();
    expect(stagesCurve(design, [1])).toEqual([]);
    // Whatever its stage count says, it is the same ladder.
    expect(mean({ ...design, ladder: { ...design.ladder, stages: 7 } })).toBe(mean(design));
  });
});

describe('curves', () => {
  const design = ideal({ stages: 5, farads: 2e-9, peakVolts: 4000, hertz: 30e3, load: current(1e-4), sourceOhms: 500 });
  it('the load line passes through the working point and falls', () => {
    const line = loadLine(design);
    expect(line[0].meanVolts).toBeCloseTo(predict(design).output.noLoadVolts, 6);
    for (let at = 1; at < line.length; at += 1) expect(line[at].meanVolts).toBeLessThan(line[at - 1].meanVolts);
    const { amps } = line[7];
    expect(mean({ ...design, load: current(amps) })).toBeCloseTo(line[7].meanVolts, 6);
  });
  it('reaches as far as there is an output, by the ladder alone or with what its drive gives', () => {
    const limited = { ...design, driver: { ...design.driver, maxAmps: 0.02 } };
    for (const [one, least] of [
      [design, 0.999],
      [limited, 0],
    ] as const) {
      const reach = closedFormReach(one);
      expect(reach).toBeGreaterThan(least * predict(one).output.closedFormAmps);
      expect(predict({ ...one, load: current(0.99 * reach) }).output.meanVolts).not.toBeNull();
      const past = predict({ ...one, load: current(1.01 * reach) });
      expect(past.output.meanVolts).toBeNull();
      const told = past.findings.find(({ code }) => code === 'closed-form-fails' || code === 'drive-cannot-carry');
      expect(told?.message).toContain(formatQuantity(reach, 'A'));
    }
    expect(closedFormReach(limited)).toBeLessThan(0.9 * closedFormReach(design));
    // A bleeder draws from the ladder before any load does.
    const bled = { ...design, output: { ...design.output, bleederOhms: 1e8 } };
    expect(closedFormReach(bled)).toBeCloseTo(closedFormReach(design), 6);
    const drained = { ...design, output: { ...design.output, bleederOhms: 1e3 } };
    expect(closedFormReach(drained)).toBe(0);
    expect(predict(drained).findings.find(({ code }) => code === 'closed-form-fails')?.message).toMatch(
      /across the terminal takes it there alone/,
    );
  });
  it('the stages curve holds the present design and peaks at the optimum', () => {
    const { optimumStages } = predict(design);
    const curve = stagesCurve(design, [5, optimumStages!]);
    expect(curve[4].meanVolts).toBeCloseTo(mean(design), 6);
    const best = curve.reduce((a, b) => ((b.meanVolts ?? 0) > (a.meanVolts ?? 0) ? b : a));
    expect(best.stages).toBe(optimumStages);
  });
});

it('what the drive swings at an output without smoothing stands about the mean behind the series resistor as well', () => {
  const design = benchDesign({
    ladder: { topology: 'clamp' },
    output: { seriesOhms: 1 },
    load: { kind: 'current', amps: 0.1 },
  });
  const direct = predict({ ...design, output: { ...design.output, seriesOhms: 0 } }).output;
  const { meanVolts, minVolts, maxVolts } = predict(design).output;
  // A steady current takes its 0.1 V off all of it.
  expect(direct.meanVolts! - meanVolts!).toBeCloseTo(0.1, 9);
  expect(direct.minVolts! - minVolts!).toBeCloseTo(0.1, 9);
  expect(direct.maxVolts! - maxVolts!).toBeCloseTo(0.1, 9);
});
