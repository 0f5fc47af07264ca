import type { Design } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { finish } from '../numeric/finish';
import { ladderInputs } from '../operating/ladder-inputs';
import { operatingPoint } from '../operating/operating-point';
import { predict } from './predict';
import { elastancesOf } from '../ladder/elastances';
import { SPREAD_GROUPS, toleranceOf } from './tolerance';
import { seeded } from '../numeric/chance';
import { histogramOf } from '../numeric/statistics';

const plain = newDesign('Spread');
const ladderOf = (stages: number, tolerance: number, spread: Partial<Design['spread']> = {}): Design => ({
  ...plain,
  driver: { ...plain.driver, positivePeakVolts: 5000, seriesOhms: 2000 },
  ladder: {
    ...plain.ladder,
    stages,
    capacitor: { ...plain.ladder.capacitor, tolerance },
    diode: { ...plain.ladder.diode, junctionFarads: 0 },
  },
  load: { kind: 'current', amps: 200e-6 },
  spread: { peaks: 1e-9, frequency: 1e-9, forward: 1e-9, source: 1e-9, bias: 1e-9, strays: 1, ...spread },
});
const classTwo = (design: Design): Design => ({
  ...design,
  ladder: {
    ...design.ladder,
    capacitor: { ...design.ladder.capacitor, ratedVolts: 12e3, dcBiasDerating: 0.4 },
  },
});
const run = (design: Design, seed = 1, samples?: number) => finish(toleranceOf(design, seed, samples))!;

it.each([1, 2, 3, 5])('each capacitor’s part in droop and ripple adds up to the whole, %d stages', (stages) => {
  const { ladder } = operatingPoint(ladderOf(stages, 0.1));
  const { farads, droop, ripple } = elastancesOf(ladder);
  const sum = (parts: number[]) => parts.reduce((total, part, at) => total + part / farads[at], 0);
  expect(sum(droop) / ladder.lightLoad.droop).toBeCloseTo(1, 9);
  expect(sum(ripple) / ladder.lightLoad.ripple).toBeCloseTo(1, 9);
  // m^2 for an oscillating capacitor, m^2 + m + 1/2 for a smoothing one, m from the output (charge bookkeeping).
  const known = ladder.network.capacitors.map(({ column, stage }) => {
    const m = column === 'smoothing' ? stages - stage : stages - stage + 1;
    return column === 'smoothing' ? m ** 2 + m + 0.5 : m ** 2;
  });
  droop.forEach((part, at) => expect(part).toBeCloseTo(known[at], 6));
});

/** Standard deviation of the mean output by linear propagation: each factor moved alone, evenly spread within its limit. */
function linearDeviation(design: Design): number {
  const listed = ladderInputs(design).marked.capacitors.map((part) => part.farads);
  const mean = (changed: Design) => predict(changed).output.meanVolts!;
  const present = mean(design);
  const step = 1e-4;
  const { spread, driver, ladder } = design;
  if (driver.kind !== 'measured') throw new Error('measured only');
  const moved: [number, Design][] = [
    ...listed.map((_, at): [number, Design] => [
      ladder.capacitor.tolerance,
      {
        ...design,
        ladder: { ...ladder, capacitorFarads: listed.map((farads, i) => (i === at ? farads * (1 + step) : farads)) },
      },
    ]),
    [spread.peaks, { ...design, driver: { ...driver, positivePeakVolts: driver.positivePeakVolts * (1 + step) } }],
    [spread.frequency, { ...design, driver: { ...driver, frequencyHertz: driver.frequencyHertz * (1 + step) } }],
    [spread.source, { ...design, driver: { ...driver, seriesOhms: driver.seriesOhms * (1 + step) } }],
    [
      spread.forward,
      {
        ...design,
        ladder: { ...ladder, diode: { ...ladder.diode, forwardVolts: ladder.diode.forwardVolts * (1 + step) } },
      },
    ],
  ];
  const { dcBiasDerating } = ladder.capacitor;
  if (dcBiasDerating !== null) {
    const kept = 1 - (1 - dcBiasDerating) * (1 + step);
    moved.push([
      spread.bias,
      { ...design, ladder: { ...ladder, capacitor: { ...ladder.capacitor, dcBiasDerating: kept } } },
    ]);
  }
  const squares = moved.map(([limit, changed]) => (((mean(changed) - present) / step) * limit) ** 2 / 3);
  return Math.sqrt(squares.reduce((sum, square) => sum + square, 0));
}

it.each([
  ['capacitors alone', ladderOf(4, 0.02)],
  ['everything', ladderOf(4, 0.05, { peaks: 0.01, frequency: 0.02, forward: 0.1, source: 0.1 })],
  ['class-2 ceramic', classTwo(ladderOf(4, 1e-9, { bias: 0.1 }))],
  ['class-2 ceramic, everything', classTwo(ladderOf(4, 0.05, { peaks: 0.01, bias: 0.1 }))],
])('small tolerances spread the output as linear propagation says: %s', (_, design) => {
  const { outputs } = run(design);
  const mean = outputs.reduce((sum, volts) => sum + volts, 0) / outputs.length;
  const deviation = Math.sqrt(outputs.reduce((sum, volts) => sum + (volts - mean) ** 2, 0) / outputs.length);
  // 5000 draws tell a deviation within 1 % (one in three hundred of them off by 3 %).
  expect(Math.abs(deviation / linearDeviation(design) - 1)).toBeLessThan(0.03);
  expect(Math.abs(mean / predict(design).output.meanVolts! - 1)).toBeLessThan(1e-3);
});

it('the same seed draws the same, another one others', () => {
  const design = ladderOf(3, 0.1, { peaks: 0.05 });
  expect(run(design, 7, 500)).toEqual(run(design, 7, 500));
  expect(run(design, 7, 500).meanVolts).not.toEqual(run(design, 8, 500).meanVolts);
  const random = seeded(3);
  const drawn = Array.from({ length: 20_000 }, random);
  expect(drawn.reduce((sum, value) => sum + value, 0) / drawn.length).toBeCloseTo(0.5, 2);
  expect(Math.max(...drawn)).toBeLessThan(1);
});

it('peaks that alone are off spread the output evenly: its band is nine tenths of what they can do', () => {
  const design = ladderOf(2, 1e-9, { peaks: 0.1 });
  const { meanVolts, shares, smallestMargin } = run(design);
  const at = (part: number) => {
    const { driver } = design;
    if (driver.kind !== 'measured') throw new Error('measured only');
    return predict({ ...design, driver: { ...driver, positivePeakVolts: 5000 * part } }).output.meanVolts!;
  };
  expect(Math.abs(meanVolts.low / at(0.91) - 1)).toBeLessThan(0.005);
  expect(Math.abs(meanVolts.high / at(1.09) - 1)).toBeLessThan(0.005);
  expect(shares[0]).toMatchObject({ group: 'peaks' });
  // The variance of 400 even draws is known within 4.5 % (its kurtosis is 1.8): three times that.
  expect(shares[0].share).toBeGreaterThan(0.86);
  expect(shares.map(({ group }) => group).sort()).toEqual([...SPREAD_GROUPS].sort());
  // The drive at its highest, 1.1, is the very end of what is drawn.
  const { smallestMargin: driveHigh } = predict(design);
  expect(smallestMargin!.low).toBeCloseTo(((1 + driveHigh!) * 1.1) / 1.09 - 1, 3);
});

it('the chance to meet a target is half where the target is the median, none far above, and says nothing without one', () => {
  const design = ladderOf(3, 0.1, { peaks: 0.05 });
  const median = run(design).meanVolts.median;
  const aiming = (volts: number) =>
    run({ ...design, target: { volts, amps: 0, ripplePeakToPeakFraction: null, of: 'mean' } }).chance!;
  expect(aiming(median)).toBeCloseTo(0.5, 1);
  expect(aiming(2 * median)).toBe(0);
  expect(aiming(median / 2)).toBe(1);
  expect(run(design).chance).toBeNull();
});

it('the band over the load’s current holds the load line, and at the load the band of the output', () => {
  const design = ladderOf(3, 0.1, { peaks: 0.05, frequency: 0.03 });
  const tolerance = finish(toleranceOf(design, 1, 4000, 400e-6))!;
  expect(tolerance.loadLine).toHaveLength(13);
  for (const { amps, low, high } of tolerance.loadLine) {
    const nominal = predict({ ...design, load: { kind: 'current', amps } }).output.meanVolts!;
    expect(low).toBeLessThan(nominal);
    expect(high).toBeGreaterThan(nominal);
  }
  const there = tolerance.loadLine.find(({ amps }) => Math.abs(amps / 200e-6 - 1) < 1e-9)!;
  // 160 draws tell the ends of a band within a tenth of its width.
  const width = tolerance.meanVolts.high - tolerance.meanVolts.low;
  expect(Math.abs(there.low - tolerance.meanVolts.low)).toBeLessThan(0.12 * width);
  expect(Math.abs(there.high - tolerance.meanVolts.high)).toBeLessThan(0.12 * width);
});

it('ripple spreads about the one predicted, the drive’s own swing through strays included', () => {
  const strays: Design = { ...ladderOf(4, 0.05), ladder: { ...ladderOf(4, 0.05).ladder, strayFarads: 3e-12 } };
  const { output } = predict(strays);
  const { low, median, high } = run(strays).ripplePeakToPeakVolts;
  expect(median / output.ripplePeakToPeakVolts!).toBeCloseTo(1, 2);
  expect(low).toBeLessThan(median);
  expect(high).toBeGreaterThan(median);
});

it('a load that solves for its own current, and a design without a working point', () => {
  const resistive: Design = { ...ladderOf(3, 0.1), load: { kind: 'resistance', ohms: 200e6 } };
  expect(run(resistive).meanVolts.median / predict(resistive).output.meanVolts!).toBeCloseTo(1, 2);
  expect(finish(toleranceOf({ ...resistive, load: { kind: 'current', amps: 1 } }))).toBeNull();
});

it('a histogram counts every draw once, the greatest in the last bar', () => {
  const bars = histogramOf([0, 1, 1, 2, 3, 4], 4);
  expect(bars.map(({ share }) => share * 6)).toEqual([1, 2, 1, 2]);
  expect([bars[0].from, bars[3].to]).toEqual([0, 4]);
  expect(histogramOf([5, 5], 3).map(({ share }) => share)).toEqual([1, 0, 0]);
});

it('where the drive’s power runs out parts matter as little as a prediction of each says', () => {
  const power: Design = { ...ladderOf(3, 0.1), load: { kind: 'resistance', ohms: 50e6 } };
  const full = predict(power).input.watts!;
  const limited = { ...power, driver: { ...power.driver, maxWatts: full / 2 } } as Design;
  const width = (design: Design) => {
    const { meanVolts } = run(design);
    return (meanVolts.high - meanVolts.low) / meanVolts.median;
  };
  // Ten draws by whole predictions: capacitances by hand, each through its own limit.
  const listed = ladderInputs(limited).marked.capacitors.map((part) => part.farads);
  const random = seeded(5);
  const outputs = Array.from({ length: 200 }, () => {
    const capacitorFarads = listed.map((farads) => farads * (1 + 0.1 * (2 * random() - 1)));
    return predict({ ...limited, ladder: { ...limited.ladder, capacitorFarads } }).output.meanVolts!;
  }).sort((a, b) => a - b);
  const whole = (outputs[189] - outputs[10]) / outputs[100];
  expect(width(limited) / whole).toBeGreaterThan(0.7);
  expect(width(limited) / whole).toBeLessThan(1.4);
  expect(width(limited)).toBeLessThan(width(power) / 2);
});

it('strays spread by their factor, as predictions with the strays themselves do, and lead where capacitors are small', () => {
  const base = ladderOf(3, 0.02, { strays: 2 });
  const thin: Design = {
    ...base,
    ladder: { ...base.ladder, capacitor: { ...base.ladder.capacitor, farads: 120e-12 }, strayFarads: 3e-12 },
    load: { kind: 'current', amps: 1e-7 },
  };
  const { meanVolts, shares } = run(thin);
  const at = (times: number) =>
    predict({ ...thin, ladder: { ...thin.ladder, strayFarads: 3e-12 * times } }).output.meanVolts!;
  // Drawn evenly over the logarithm: nine tenths of it lie between these.
  expect(meanVolts.low / at(2 ** 0.9)).toBeCloseTo(1, 2);
  expect(meanVolts.high / at(2 ** -0.9)).toBeCloseTo(1, 2);
  expect(shares[0].group).toBe('strays');
});
