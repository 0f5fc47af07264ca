import { benchDesign } from '../../../tests/reference/bench-design';
import { demoDesign } from '../../../tests/reference/demo-designs';
import type { MeasuredDesign } from '../design/design-schema';
import { meterSchema, type Meter } from '../drive/meter-sense';
import { seeded } from '../numeric/chance';
import { finish } from '../numeric/finish';
import { predict } from '../predict/predict';
import { fitOf, isExplained, type Fit } from './fit';
import { closedReadings, hasClosedTaps, statedOf, timedReadings, unknownsOf, type UnknownId } from './fit-model';
import { takenInto, withFitted } from './fit-to-design';
import { lowSourceSchema, type LowSource } from './low-source';
import { stepsUpOf } from './steps-up';

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
const at = (source: LowSource) => ({ kind: 'tap' as const, node: 'B1', source, meter: METER });
const nodesOf = (stages: number) => Array.from({ length: stages }, (_, at) => `B${at + 1}`);

/** What the time domain has for a ladder that is not quite what it is stated to be, each reading off by chance within the meter's accuracy. */
function readingsOf(tested: Tested, nodes: string[], truth: object, seed: number | null) {
  const { design, source, meter } = tested;
  const points = nodes.map((node) => ({ kind: 'tap' as const, node, source, meter }));
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
    const tested = testedOf(2, 100e-9);
    const found = fit(tested, readingsOf(tested, nodesOf(2), {}, 3), ['forward', 'farads']);
    expect(found.alike).toMatchObject({ ids: ['farads'], wouldTell: { kind: expect.stringMatching(/hertz|probe/) } });
    // It stays about what is stated, and what is told does not depend on it.
    expect(Math.abs(valueOf(found, 'farads').value - 1)).toBeLessThan(0.3);
    // With a hundred times as much there is no such reading.
    const large = testedOf(2, 10e-6);
    const none = fit(large, readingsOf(large, nodesOf(2), {}, 3), ['forward', 'farads']);
    expect(none.alike).toEqual({ ids: ['farads'], wouldTell: null });
  });
});

describe('ladders of which the closed form has no taps, by the time domain alone', () => {
  it.each([
    ['on both sides of ground', { topology: 'bipolar', stages: 2 }, {}],
    ['with a bleeder that draws', { topology: 'half-wave', stages: 3 }, { bleederOhms: 100e6 }],
  ])('%s', (_, ladder, output) => {
    const design = benchDesign({
      driver: { positivePeakVolts: 5e3, frequencyHertz: 30e3 },
      ladder: { ...ladder, capacitor: { farads: 20e-9 } },
      diode: { forwardVolts: 0.5 },
      output,
    });
    expect(hasClosedTaps(design)).toBe(false);
    const tested = { ...testedOf(3, 20e-9), design };
    const nodes = predict(design).nodes.filter(({ column }) => column === 'smoothing');
    const readings = readingsOf(
      tested,
      nodes.map(({ id }) => id),
      { forward: 0.62 },
      null,
    ).map((one, at) => ({
      ...one,
      volts: one.volts * Math.sign(nodes[at].noLoadVolts),
    }));
    const found = fit(tested, readings, ['forward']);
    expect(valueOf(found, 'forward').value).toBeCloseTo(0.62, 2);
    expect(found.isTimed).toBe(true);
    // Source and drop at one voltage go together here as well; the reading that is proposed tells them.
    const both = fit(tested, readings, ['source', 'forward']);
    expect(both.alike!.ids).toEqual(['source', 'forward']);
    const { wouldTell } = both.alike!;
    if (wouldTell?.kind !== 'volts') throw new Error('no other voltage');
    const other = { ...testedOf(3, 20e-9, { rmsVolts: wouldTell.rmsVolts }), design };
    const [more] = readingsOf(other, [wouldTell.node], { forward: 0.62 }, null);
    const side = nodes.find(({ id }) => id === wouldTell.node)!.noLoadVolts;
    const told = fit(tested, [...readings, { ...more, volts: more.volts * Math.sign(side) }], ['source', 'forward']);
    expect(told.alike).toBeNull();
    expect(valueOf(told, 'forward').value).toBeCloseTo(0.62, 2);
  });
});

describe('unknowns of the source, the wiring and the load', () => {
  it('a source’s resistance, a frequency and strays come back as they were', () => {
    // A low frequency and a meter that draws much, so that each matters.
    const draws = { ...METER, inputOhms: 1e6 };
    const tested = { ...testedOf(3, 100e-9, { hertz: 200, rmsVolts: 20, ohms: 1000 }), meter: draws };
    const small = { ...testedOf(3, 500e-12, { hertz: 20e3, rmsVolts: 20 }), meter: { ...METER, inputFarads: 0 } };
    const cases: [Tested, UnknownId, number, number][] = [
      [tested, 'ohms', 2000, 2],
      [tested, 'hertz', 0.9, 3],
      [small, 'strays', 10e-12, 1],
    ];
    for (const [one, id, truth, digits] of cases) {
      const { value, isCut } = valueOf(fit(one, readingsOf(one, nodesOf(3), { [id]: truth }, null), [id]), id);
      expect(isCut).toBe(false);
      expect(value / truth).toBeCloseTo(1, digits);
    }
  });

  it('leakage past the capacitors is not taken for the meter’s resistance, where a ladder is tall enough to tell', () => {
    const tested = testedOf(6, 20e-9);
    const readings = readingsOf(tested, nodesOf(6), { leak: 20e-9, meter: 0.9 }, null);
    const alone = fit(tested, readingsOf(tested, nodesOf(6), { leak: 20e-9 }, null), ['leak']);
    // What is left of the closed form's own error after it was brought to the time domain.
    expect(Math.abs(valueOf(alone, 'leak').value / 20e-9 - 1)).toBeLessThan(0.01);
    const both = fit(tested, readings, ['leak', 'meter']);
    expect(both.alike).toBeNull();
    expect(valueOf(both, 'leak').value / 20e-9).toBeCloseTo(1, 1);
    expect(valueOf(both, 'meter').value).toBeCloseTo(0.9, 1);
    // What leaks on the bench that day is none of the design's.
    expect(takenInto(tested.design, [at(tested.source)], both)).toEqual([]);
  });

  it.each([
    ['half-wave', 4],
    ['full-wave', 3],
  ])('leakage of a %s ladder: closed form beside the time domain', (topology, stages) => {
    const { design: other, source } = testedOf(stages, 20e-9);
    const design = { ...other, ladder: { ...other.ladder, topology: topology as 'half-wave' } };
    const points = nodesOf(stages).map((node) => ({ kind: 'tap' as const, node, source, meter: METER }));
    const values = statedOf(design);
    const leaky = { ...values, leak: 50e-9 };
    const closed = [values, leaky].map((one) => closedReadings(design, points, one)!);
    const timed = [values, leaky].map((one) => finish(timedReadings(design, points, one))!);
    for (const one of points.keys()) {
      const [byForm, byTime] = [closed, timed].map(([sound, lost]) => 1 - lost[one] / sound[one]);
      expect(byTime).toBeGreaterThan(0.01);
      // What leaks past the oscillating columns goes one diode less far than the output, where the closed form counts it:
      // it says a part too much, never less, and leaves the last word to the time domain.
      expect(byForm / byTime).toBeGreaterThan(1);
      expect(byForm / byTime).toBeLessThan(1.3);
    }
  });

  it('the steps tell of source and load, at the output with what it draws', () => {
    const design = benchDesign({
      driver: { positivePeakVolts: 1e3, frequencyHertz: 30e3, seriesOhms: 20e3 },
      ladder: { topology: 'half-wave', stages: 3, capacitor: { farads: 2e-9 } },
      load: { kind: 'current', amps: 1e-3 },
    });
    const meter = { ...METER, probeRatio: 1000 };
    const truly = { ...design, load: { kind: 'current' as const, amps: 1.2e-3 } };
    const readings = stepsUpOf(truly, [0.25, 0.5, 0.75, 1], meter).flatMap(({ fraction, shown }) =>
      shown ? [{ kind: 'step' as const, fraction, meter, volts: shown.value }] : [],
    );
    expect(readings.length).toBeGreaterThanOrEqual(3);
    expect(unknownsOf(design, readings)).toEqual(['source', 'ohms', 'hertz', 'forward', 'farads', 'strays', 'load']);
    const found = finish(fitOf(design, readings, ['load']));
    if ('why' in found) throw new Error(found.why);
    expect(valueOf(found, 'load').value).toBeCloseTo(1.2, 2);
    const moved = withFitted(design, takenInto(design, readings, found), 'today');
    expect(moved.load).toMatchObject({ amps: expect.closeTo(1.2e-3, 5) });
    // Source and load both lower the output: two unknowns, which only the course over the steps tells apart.
    const both = finish(fitOf(design, readings, ['source', 'load']));
    if ('why' in both) throw new Error(both.why);
    if (!both.alike) expect(valueOf(both, 'load').value).toBeCloseTo(1.2, 1);
  });

  it('the steps of a flyback tell of its secondary’s capacitance', () => {
    const design = demoDesign('electrospinning-bench-pair');
    const { transformer } = design;
    const truly = {
      ...design,
      transformer: transformer && { ...transformer, secondaryFarads: transformer.secondaryFarads + 8e-12 },
    };
    const meter = { ...METER, probeRatio: 1000 };
    const readings = stepsUpOf(truly, [0.25, 0.5, 0.75, 1], meter).flatMap(({ fraction, shown }) =>
      shown ? [{ kind: 'step' as const, fraction, meter, volts: shown.value }] : [],
    );
    expect(readings.length).toBeGreaterThanOrEqual(2);
    expect(unknownsOf(design, readings)).toContain('secondary');
    const found = finish(fitOf(design, readings, ['secondary']));
    if ('why' in found) throw new Error(found.why);
    expect(valueOf(found, 'secondary').value / truly.transformer!.secondaryFarads).toBeCloseTo(1, 2);
    const { transformer: taken } = withFitted(design, takenInto(design, readings, found), 'today');
    expect(taken!.secondaryFarads / valueOf(found, 'secondary').value).toBeCloseTo(1, 3);
  });

  it('only what the readings can tell of is offered', () => {
    const tested = testedOf(3, 20e-9);
    const taps = nodesOf(3).map((node) => ({ kind: 'tap' as const, node, source: tested.source, meter: METER }));
    expect(unknownsOf(tested.design, taps)).not.toContain('load');
    expect(unknownsOf(tested.design, taps)).toContain('ohms');
    const step = { kind: 'step' as const, fraction: 0.5, meter: METER };
    // A winding's resistance and the drive's are not one.
    expect(unknownsOf(tested.design, [...taps, step])).not.toContain('ohms');
    expect(unknownsOf(tested.design, [step])).not.toContain('meter');
  });
});

it('too few readings, and a ladder that is not for it', () => {
  const tested = testedOf(3, 20e-9);
  expect(finish(fitOf(tested.design, readingsOf(tested, ['B1'], {}, null), ['forward', 'farads']))).toEqual({
    why: 'too few',
  });
  expect(finish(fitOf(tested.design, [], []))).toEqual({ why: 'too few' });
  const of = (topology: string, output: object = {}) =>
    hasClosedTaps(benchDesign({ ladder: { topology, stages: 1 }, output }));
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
  expect(takenInto(tested.design, [at(tested.source)], broken)).toEqual([]);
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
    const taken = takenInto(tested.design, [at(tested.source)], found);
    const { ladder, spread, notes } = withFitted(tested.design, taken, '1 Dec 2026');
    expect(ladder.diode.forwardVolts).toBeCloseTo(0.62, 3);
    expect(ladder.capacitor.farads).toBeCloseTo(18e-9, 11);
    const { low, high, value } = valueOf(found, 'farads');
    expect(ladder.capacitor.tolerance / ((high - low) / 2 / value)).toBeCloseTo(1, 3);
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
    expect(takenInto(tested.design, [at(tested.source)], cut)).toEqual([]);
    const alike = { ...found, alike: { ids: ['farads' as const], wouldTell: null } };
    expect(takenInto(tested.design, [at(tested.source)], alike).map(({ id }) => id)).toEqual(['forward']);
    const source = { ...found, fitted: [{ ...found.fitted[0], id: 'source' as const, value: 1.02 }] };
    expect(takenInto(tested.design, [at(tested.source)], source)).toEqual([]);
    const turned = lowSourceSchema.parse({ kind: 'turned-down', fraction: 0.05 });
    const [peaks] = takenInto(tested.design, [at(turned)], source);
    expect(withFitted(tested.design, [peaks], 'today').driver).toMatchObject({ positivePeakVolts: 5100 });
  });
});
