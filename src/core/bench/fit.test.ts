import { benchDesign } from '../../../tests/reference/bench-design';
import type { MeasuredDesign } from '../design/design-schema';
import { meterSchema, type Meter } from '../drive/meter-sense';
import { seeded } from '../numeric/chance';
import { finish } from '../numeric/finish';
import { predict } from '../predict/predict';
import { fitOf, isExplained, type Fit } from './fit';
import { canBeFitted, statedOf, timedReadings, type UnknownId } from './fit-model';
import { takenInto, withFitted } from './fit-to-design';
import { lowSourceSchema, type LowSource } from './low-source';

const ACCURACY = 0.005;
const METER = meterSchema.parse({ accuracy: ACCURACY });

type Tested = { design: MeasuredDesign; source: LowSource; meter: Meter };
const testedOf = (stages: number, farads: number, source: object = {}): Tested => ({
  design: benchDesign({
    driver: { positivePeakVolts: 5e3, frequencyHertz: 30e3 },
    ladder: { topology: 'half-wave', stages, capacitor: { farads } },
    diode: { forwardVolts: 0.5 },
  }),
  source: lowSourceSchema.parse({ kind: 'winding', hertz: 500, ...source }),
  meter: METER,
});
const nodesOf = (stages: number) => Array.from({ length: stages }, (_, at) => `B${at + 1}`);

/** What the time domain has for a ladder that is not quite what it is stated to be, each reading off by chance within the meter's accuracy. */
function readingsOf(tested: Tested, nodes: string[], truth: object, seed: number | null) {
  const { design, source, meter } = tested;
  const points = nodes.map((node) => ({ node, source, meter }));
  const volts = finish(timedReadings(design, points, { ...statedOf(design), ...truth }))!;
  const random = seed === null ? null : seeded(seed);
  return points.map((point, at) => ({
    ...point,
    volts: volts[at] * (1 + (random ? ACCURACY * (2 * random() - 1) : 0)),
  }));
}
const fit = ({ design }: Tested, readings: ReturnType<typeof readingsOf>, ids: UnknownId[]) => {
  const found = finish(fitOf(design, readings, ids));
  if ('why' in found) throw new Error(found.why);
  return found;
};
const valueOf = ({ fitted }: Fit, id: UnknownId) => fitted.find((one) => one.id === id)!;

it('finds what the readings were made of, by the time domain', () => {
  const tested = testedOf(3, 20e-9);
  const truth = { forward: 0.62, farads: 0.9 };
  const found = fit(tested, readingsOf(tested, nodesOf(3), truth, null), ['forward', 'farads']);
  expect(valueOf(found, 'forward').value).toBeCloseTo(0.62, 3);
  expect(valueOf(found, 'farads').value).toBeCloseTo(0.9, 3);
  expect(found).toMatchObject({ isTimed: true, alike: null, freedom: 1 });
  expect(found.chiSquared).toBeLessThan(1e-3);
  for (const { read, volts } of found.residuals) expect(volts / read).toBeCloseTo(1, 4);
});

it('true values are inside the 90 % interval in 85 to 96 of 100 draws', () => {
  const tested = testedOf(2, 10e-9);
  const truth = { forward: 0.62, farads: 0.9 };
  const nodes = nodesOf(2);
  const exact = readingsOf(tested, nodes, truth, null);
  const inside = { forward: 0, farads: 0 };
  for (let seed = 1; seed <= 100; seed += 1) {
    const random = seeded(seed);
    const noisy = exact.map((one) => ({ ...one, volts: one.volts * (1 + ACCURACY * (2 * random() - 1)) }));
    const found = fit(tested, noisy, ['forward', 'farads']);
    for (const id of ['forward', 'farads'] as const) {
      const { low, high } = valueOf(found, id);
      if (low <= truth[id] && truth[id] <= high) inside[id] += 1;
    }
  }
  for (const id of ['forward', 'farads'] as const) {
    expect(inside[id]).toBeGreaterThanOrEqual(85);
    expect(inside[id]).toBeLessThanOrEqual(96);
  }
});

describe('what readings cannot tell apart is named', () => {
  it('source and drop, at one voltage: another voltage would tell', () => {
    const tested = testedOf(6, 20e-9);
    const found = fit(tested, readingsOf(tested, nodesOf(6), {}, 3), ['source', 'forward', 'farads']);
    expect(found.alike).toMatchObject({ ids: ['source', 'forward'], wouldTell: { kind: 'volts' } });
    // Once it is taken, they are told.
    const { wouldTell } = found.alike!;
    if (wouldTell?.kind !== 'volts') throw new Error('no other voltage');
    const other = testedOf(6, 20e-9, { rmsVolts: wouldTell.rmsVolts });
    const both = [...readingsOf(tested, nodesOf(6), {}, 3), ...readingsOf(other, [wouldTell.node], {}, 4)];
    const told = fit(tested, both, ['source', 'forward', 'farads']);
    expect(told.alike).toBeNull();
    expect(Math.abs(valueOf(told, 'forward').value - 0.5)).toBeLessThan(0.1);
  });

  it('capacitance and the meter’s resistance, which only go together', () => {
    const tested = testedOf(3, 20e-9);
    const found = fit(tested, readingsOf(tested, nodesOf(3), {}, 3), ['farads', 'meter']);
    expect(found.alike!.ids).toEqual(['farads', 'meter']);
  });

  it('capacitance where the meter takes next to nothing: a lower frequency would tell', () => {
    const tested = testedOf(2, 10e-6);
    const found = fit(tested, readingsOf(tested, nodesOf(2), {}, 3), ['forward', 'farads']);
    expect(found.alike).toMatchObject({ ids: ['farads'], wouldTell: { kind: expect.stringMatching(/hertz|probe/) } });
  });
});

it('too few readings, and a ladder that is not for it', () => {
  const tested = testedOf(3, 20e-9);
  expect(finish(fitOf(tested.design, readingsOf(tested, ['B1'], {}, null), ['forward', 'farads']))).toEqual({
    why: 'too few',
  });
  expect(finish(fitOf(tested.design, [], []))).toEqual({ why: 'too few' });
  const of = (topology: string, output: object = {}) =>
    canBeFitted(benchDesign({ ladder: { topology, stages: 1 }, output }));
  expect([of('half-wave'), of('full-wave'), of('bipolar'), of('none')]).toEqual([true, true, false, false]);
  expect(of('half-wave', { bleederOhms: 1e9 })).toBe(false);
});

it('what no value explains is said, and goes into no design', () => {
  const tested = testedOf(3, 20e-9);
  const readings = readingsOf(tested, nodesOf(3), {}, null);
  const [first, , last] = readings;
  expect(finish(fitOf(tested.design, [{ ...first, volts: -first.volts }, last], ['forward']))).toEqual({
    why: 'other sign',
  });
  // A tap at nothing, as behind a diode that is open.
  const broken = fit(tested, [first, readings[1], { ...last, volts: 0 }], ['forward']);
  expect(isExplained(broken)).toBe(false);
  expect(takenInto(tested.design, [tested.source], broken)).toEqual([]);
  // It pulls at the others, and does not outweigh them.
  expect(Math.abs(broken.residuals[2].volts)).toBeGreaterThan(1);
});

describe('into the design', () => {
  const tested = testedOf(3, 20e-9);
  const found = fit(tested, readingsOf(tested, nodesOf(3), { forward: 0.62, farads: 0.9 }, null), [
    'forward',
    'farads',
  ]);

  it('goes what was told, its spread as narrow as the interval, with its reason', () => {
    const taken = takenInto(tested.design, [tested.source], found);
    const { ladder, spread, notes } = withFitted(tested.design, taken, '1 Dec 2026');
    expect(ladder.diode.forwardVolts).toBeCloseTo(0.62, 3);
    expect(ladder.capacitor.farads).toBeCloseTo(18e-9, 11);
    const { low, high, value } = valueOf(found, 'farads');
    expect(ladder.capacitor.tolerance).toBeCloseTo((high - low) / 2 / value, 9);
    expect(spread.forward).toBeLessThan(tested.design.spread.forward);
    expect(notes).toMatch(/Bench, 1 Dec 2026: the diodes’ forward drop 620/);
  });

  it('a drop that goes with the current is moved as a whole', () => {
    const diode = { ...tested.design.ladder.diode, forwardVolts: 1, forwardAmps: 1 };
    const design = { ...tested.design, ladder: { ...tested.design.ladder, diode } };
    const stated = statedOf(design).forward;
    expect(stated).toBeLessThan(0.5);
    const [forward] = found.fitted;
    const moved = withFitted(design, [{ ...forward, value: stated + 0.1 }], 'today');
    expect(moved.ladder.diode.forwardVolts).toBeCloseTo(1.1, 9);
    expect(predict(moved).output.noLoadVolts).toBeLessThan(predict(design).output.noLoadVolts);
  });

  it('not what was cut short, nor what is alike, nor what is of the test alone', () => {
    const cut = { ...found, fitted: found.fitted.map((one) => ({ ...one, isCut: true })) };
    expect(takenInto(tested.design, [tested.source], cut)).toEqual([]);
    const alike = { ...found, alike: { ids: ['farads' as const], wouldTell: null } };
    expect(takenInto(tested.design, [tested.source], alike).map(({ id }) => id)).toEqual(['forward']);
    const source = { ...found, fitted: [{ ...found.fitted[0], id: 'source' as const, value: 1.02 }] };
    expect(takenInto(tested.design, [tested.source], source)).toEqual([]);
    const turned = lowSourceSchema.parse({ kind: 'turned-down', fraction: 0.05 });
    const [peaks] = takenInto(tested.design, [turned], source);
    expect(withFitted(tested.design, [peaks], 'today').driver).toMatchObject({ positivePeakVolts: 5100 });
  });
});
