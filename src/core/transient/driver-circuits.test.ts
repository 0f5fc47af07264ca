import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import {
  circuitOfSupply,
  FLYBACK,
  PUSH_PULL,
  suppliedDesign,
  TRANSFORMER,
} from '../../../tests/reference/supplied-design';
import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { readDesign } from '../design/read-design';
import { driverOfKind } from '../drive/driver-kinds';
import { predict } from '../predict/predict';
import { chargeUpOf } from './charge-up';
import { compareWithTimeDomain, overInTimeDomain } from './comparison';
import { emptyState } from './period';
import { phasedGrid } from './time-grid';
import { Traces } from './traces';
import { wander } from './wandering';
import { transientOf, type Transient } from './transient';
import { finish } from '../numeric/finish';

const settled = (design: Design) => finish(transientOf(design)).transient;

function figuresOf({ driver }: Transient) {
  if (driver.kind !== 'circuit') throw new Error(driver.reason ?? 'a drive');
  return driver.figures;
}

const INVERTER = {
  supply: { kind: 'dc', volts: 24 },
  driver: { kind: 'inverter', bridge: 'full', frequencyHertz: 30e3, transistorOhms: 0.1 },
  transformer: { ...TRANSFORMER, primaryTurns: 20, secondaryTurns: 800, primaryHenries: 400e-6 },
};

describe('a resonant push-pull finds for itself', () => {
  it.each([
    [220e-9, 92e3],
    [470e-9, 65e3],
    [1e-6, 45e3],
    [2.2e-6, 33e3],
  ])('the frequency of a tank of %d F: about %d Hz', (tankFarads, hertz) => {
    // Common practice, no source: the table of one closed-core primary, which one inductance explains within 12 %.
    const primaryHenries = 12.4e-6;
    const design = suppliedDesign(
      {
        ...PUSH_PULL,
        driver: { ...PUSH_PULL.driver, tankFarads },
        transformer: { ...TRANSFORMER, primaryHenries, secondaryTurns: 100 },
      },
      1,
      50e6,
    );
    expect(Math.abs(figuresOf(settled(design)).frequencyHertz! / hertz - 1)).toBeLessThan(0.12);
  });

  it('a tank that swings to pi times the supply, as the choke’s mean asks', () => {
    const { tankPeakVolts, transistorPeakVolts } = figuresOf(settled(suppliedDesign(PUSH_PULL, 1, 200e6)));
    expect(tankPeakVolts! / (Math.PI * 24)).toBeCloseTo(1, 1.5);
    expect(transistorPeakVolts! / tankPeakVolts!).toBeCloseTo(1, 1.5);
  });
});

it('a core past saturation draws what is left of its inductance lets through', () => {
  // Flux linkage V t = 192 uVs; straight to 180 uVs, from there a twentieth of the inductance: I = 6 A + 12 uVs / 1.5 uH.
  const coreSquareMetres = 180e-6 / (10 * 0.3);
  const design = (area: number | null) =>
    suppliedDesign(
      {
        ...FLYBACK,
        driver: { ...FLYBACK.driver, duty: 0.4, transistorOhms: 1e-3, switchFarads: 1e-9, clampVolts: 60 },
        transformer: { ...TRANSFORMER, secondaryTurns: 40, coreSquareMetres: area },
      },
      1,
      1e6,
    );
  const { switchPeakAmps: straight } = figuresOf(settled(design(null)));
  const { switchPeakAmps: saturated } = figuresOf(settled(design(coreSquareMetres)));
  expect(Math.abs(straight! / 6.4 - 1)).toBeLessThan(0.06);
  expect(Math.abs(saturated! / 14 - 1)).toBeLessThan(0.06);
});

it('a clamped flyback with next to no load is lifted by its leakage: about as far as said, within the bound of a step', () => {
  const clampVolts = 90;
  const design = suppliedDesign({ ...FLYBACK, driver: { ...FLYBACK.driver, clampVolts } }, 1, 1e9);
  const { secondaryPeakVolts } = figuresOf(settled(design));
  const { findings, source } = predict(design);
  const clamped = (clampVolts - 12) * 30 * 0.97;
  // A step on L and C overshoots by as much as it is high (handbook): from -12 V to 78 V, thirty times and coupling.
  const most = (2 * (clampVolts - 12) + 12) * 30 * 0.97;
  expect(findings.map(({ code }) => code)).toContain('leakage-lifts-output');
  expect(secondaryPeakVolts).toBeGreaterThan(1.3 * clamped);
  expect(secondaryPeakVolts).toBeLessThan(1.02 * most);
  expect(Math.abs(source.figures.flybackVolts! / secondaryPeakVolts! - 1)).toBeLessThan(0.15);
});

it.each([1, 2, 3])('an inverter behind leakage is lifted to about what is said, of %d stages', (stages) => {
  // The square alone, of 24 V times 40 and coupling, would give this much without load.
  const square = 2 * stages * 24 * 40 * 0.97;
  for (const ohms of [3e7, 1e8, 1e9]) {
    const design = suppliedDesign(INVERTER, stages, ohms);
    const { meanVolts } = settled(design);
    expect(meanVolts).toBeGreaterThan(1.2 * square);
    expect(Math.abs(predict(design).output.meanVolts! / meanVolts - 1)).toBeLessThan(0.15);
  }
});

it('parts that only the time domain has over their ratings are named, the worst of each kind', () => {
  const lifted = suppliedDesign({ ...FLYBACK, driver: { ...FLYBACK.driver, clampVolts: 90 } }, 1, 1e9);
  const transient = settled(lifted);
  const rated = (volts: number) => ({
    ...lifted,
    ladder: {
      ...lifted.ladder,
      capacitor: { ...lifted.ladder.capacitor, ratedVolts: null },
      diode: { ...lifted.ladder.diode, peakInverseVolts: volts },
    },
  });
  const highest = Math.max(...transient.diodes.map(({ reverseVolts }) => reverseVolts));
  const predicted = Math.max(...predict(lifted).diodes.map(({ reverseVolts }) => reverseVolts));
  expect(highest).toBeGreaterThan(predicted);
  const between = rated((highest + predicted) / 2);
  expect(overInTimeDomain(between, predict(between), transient)).toEqual([
    { part: expect.stringMatching(/^D/), volts: highest, ratedVolts: (highest + predicted) / 2 },
  ]);
  // Enough for both, or too little for either, which the margins say.
  for (const volts of [1.1 * highest, 0.9 * predicted])
    expect(overInTimeDomain(rated(volts), predict(rated(volts)), transient)).toEqual([]);
});

it('no supply gives its load more than it draws, and its power adds up', () => {
  const kinds = { flyback: FLYBACK, 'push-pull': PUSH_PULL, inverter: INVERTER };
  fc.assert(
    fc.property(
      fc.record({
        kind: fc.constantFrom(...(Object.keys(kinds) as (keyof typeof kinds)[])),
        stages: fc.integer({ min: 1, max: 3 }),
        megohms: fc.integer({ min: 1, max: 100 }),
        coupling: fc.double({ min: 0.9, max: 0.995, noNaN: true }),
        seriesOhms: fc.constantFrom(0, 0.2),
      }),
      ({ kind, stages, megohms, coupling, seriesOhms }) => {
        const { supply, driver, transformer } = kinds[kind];
        const sections = { supply: { ...supply, seriesOhms }, driver, transformer: { ...transformer, coupling } };
        const { watts, error, driver: run, converged } = settled(suppliedDesign(sections, stages, megohms * 1e6));
        expect([run.kind, converged]).toEqual(['circuit', true]);
        expect(watts.load).toBeLessThan(watts.in);
        expect(Math.abs(error.powerResidue!)).toBeLessThanOrEqual(1e-3);
        // Every loss is one: nothing along the way gives power but the supply.
        for (const part of ['driver', 'source', 'load'] as const) expect(watts[part]).toBeGreaterThan(0);
      },
    ),
    { numRuns: 15, seed: 3 },
  );
});

it('a supply that does repeat has the same mean and the same extremes over many cycles', () => {
  const design = suppliedDesign(PUSH_PULL, 1, 20e6);
  const { circuit } = circuitOfSupply(design);
  const grid = phasedGrid(circuit.supply!.phases, 400);
  const state = emptyState(circuit);
  state.flux.set(circuitOfSupply(design).supply.inductors.map(({ startFlux }) => startFlux));
  const wandered = finish(wander(circuit, grid, state))!;
  const transient = settled(design);
  expect(wandered.measured.load.mean / transient.meanVolts).toBeCloseTo(1, 3);
  const figures = figuresOf(transient);
  circuit.supply!.probes.forEach(({ figure }, at) =>
    expect(wandered.measured.probes[at] / figures[figure]!).toBeCloseTo(1, 2),
  );
  const highest = Math.max(...wandered.measured.diodes.map(({ reverseVolts }) => reverseVolts));
  expect(highest / Math.max(...transient.diodes.map(({ reverseVolts }) => reverseVolts))).toBeCloseTo(1, 2);
});

it('the same design gives the same figures, to the last digit', () => {
  const design = suppliedDesign(FLYBACK, 2, 20e6);
  expect(settled(design)).toEqual(settled(design));
});

describe('where a driver cannot be run as a circuit', () => {
  it.each<[string, Design, RegExp]>([
    ['under its gate threshold', suppliedDesign({ ...PUSH_PULL, supply: { kind: 'dc', volts: 3 } }, 1, 1e7), /run/],
    [
      'of a transformer whose inductance is not known',
      suppliedDesign({ ...INVERTER, transformer: { ...INVERTER.transformer, primaryHenries: null } }, 1, 1e7),
      /inductance/,
    ],
    [
      'with a rectifier inside',
      suppliedDesign({ ...FLYBACK, transformer: { ...TRANSFORMER, rectifierInside: true } }, 1, 1e7),
      /rectifier/,
    ],
  ])('%s, its ladder runs on the drive, and why is said', (_case, design, why) => {
    const transient = settled(design);
    expect(transient.driver).toEqual({ kind: 'drive', reason: expect.stringMatching(why) });
    expect(compareWithTimeDomain(design, predict(design), transient).doubt).toMatch(why);
  });
  it('with the rectifier inside as the only one it runs as one circuit', () => {
    const starved = suppliedDesign({ ...FLYBACK, transformer: { ...TRANSFORMER, rectifierInside: true } }, 1, 1e7);
    const { driver, meanVolts } = settled(changeDesign(starved, { path: '$.ladder.topology', value: 'rectifier' }));
    expect(driver.kind).toBe('circuit');
    // Where that diode stands makes no difference.
    const outside = changeDesign(suppliedDesign(FLYBACK, 1, 1e7), { path: '$.ladder.topology', value: 'rectifier' });
    expect(meanVolts).toBe(settled(outside).meanVolts);
  });
  it('a drive that is a circuit already has no reason to give', () => {
    const design = suppliedDesign(
      { supply: { kind: 'mains' }, driver: { kind: 'mains', secondaryVolts: 2000 }, transformer: null },
      1,
      1e7,
    );
    expect(settled(design).driver).toEqual({ kind: 'drive', reason: null });
  });
});

it('a supply that would draw more than it gives is said to', () => {
  const design = suppliedDesign({ ...FLYBACK, supply: { kind: 'dc', volts: 12, maxAmps: 0.1 } }, 1, 5e6);
  const { doubt, why } = compareWithTimeDomain(design, predict(design), settled(design));
  expect(doubt).toMatch(/100\s?mA/);
  expect(why).toContain('limit');
});

describe('charged from dead', () => {
  it('a push-pull starts, and its envelope is within a tenth of every period run', () => {
    const design = suppliedDesign(PUSH_PULL, 2, 20e6);
    const volts = settled(design).terminalMeanVolts;
    const [exact, envelope] = [true, false].map((each) => finish(chargeUpOf(design, volts, each)));
    expect(exact.reason).toBeNull();
    exact.reached.forEach(({ seconds }, at) =>
      expect(Math.abs(envelope.reached[at].seconds! / seconds! - 1)).toBeLessThan(0.1),
    );
    // Into a discharged ladder its choke carries far more than once it has settled.
    expect(exact.driver.chokePeakAmps).toBeGreaterThan(1.5 * figuresOf(settled(design)).chokePeakAmps!);
  });
});

it('what the driver does over the cycle can be shown, and stands in the table', () => {
  const design = suppliedDesign(FLYBACK, 1, 5e6);
  const { transient, waveforms } = finish(transientOf(design));
  const traces = new Traces(predict(design), waveforms);
  const across = traces.of('switch-volts')!;
  expect(across.values).toHaveLength(traces.times.length);
  expect(Math.max(...across.values)).toBeCloseTo(figuresOf(transient).transistorPeakVolts!, 9);
  expect(Math.max(...traces.drive().values)).toBeCloseTo(figuresOf(transient).secondaryPeakVolts!, 9);
  expect(traces.table()[0]).toContain('across the switch, V');
});

it('a driver that repeats in no cycle of usual steps is settled on shorter ones, its ladder neither filling nor emptying', () => {
  // Between two that settle, near 22.5 and 23.4 kV; led astray the search once stood at 44 kV, and hardly moved.
  const pair = JSON.parse(readFileSync('demo/electrospinning-bench-pair.ladder.json', 'utf8'));
  const diode = { peakInverseVolts: 4000, forwardVolts: 6, recoverySeconds: 1.5e-7, junctionFarads: 1.5e-12 };
  const read = readDesign({
    ...pair,
    driver: { ...pair.driver, clampVolts: 50 },
    ladder: { ...pair.ladder, stages: 3, diode },
    load: { kind: 'open' },
  });
  if (!read.ok) throw new Error('the demo does not read');
  const { driver, meanVolts, diodes, acrossAmps } = settled(read.design);
  expect(driver.kind).toBe('circuit');
  expect(meanVolts).toBeGreaterThan(22.3e3);
  expect(meanVolts).toBeLessThan(23.6e3);
  for (const { averageAmps } of diodes) expect(Math.abs(averageAmps / acrossAmps - 1)).toBeLessThan(0.3);
});

it('where none repeats many are averaged, and a ladder with nothing drawn stands no higher than its winding lifts it', () => {
  // Led astray the search once stood at 36 kV on a winding that swings through 17, where nothing brings it down again.
  const plain: Design = { ...newDesign('Open'), load: { kind: 'open' } };
  const { drive } = predict({ ...plain, ladder: { ...plain.ladder, stages: 1 } });
  const lively = { ...drive, positivePeakVolts: 12e3, negativePeakVolts: 12e3, frequencyHertz: 60e3 };
  const design = {
    ...plain,
    ladder: { ...plain.ladder, stages: 1 },
    ...driverOfKind('flyback', plain, lively, 2e-12),
  };
  const { driver, meanVolts, nodes } = settled(design);
  expect(driver).toMatchObject({ kind: 'circuit', wandering: { cycles: expect.any(Number) } });
  const { minVolts, maxVolts } = nodes.find(({ id }) => id === 'source')!;
  expect(meanVolts).toBeLessThan(maxVolts - minVolts);
  expect(meanVolts).toBeGreaterThan(0.8 * (maxVolts - minVolts));
});

it('a flyback whose ringing no stride foresees is followed by shorter ones, and never falls back on its way', () => {
  const design = readDesign(JSON.parse(readFileSync('demo/electrospinning-bench-pair.ladder.json', 'utf8')));
  if (!design.ok) throw new Error('the demo does not read');
  const settledVolts = 19e3;
  const [strided, exact] = [false, true].map((every) => finish(chargeUpOf(design.design, settledVolts, every)));
  expect(strided.reason).toBeNull();
  strided.samples.forEach(({ meanVolts }, at) => {
    if (at > 0) expect(meanVolts).toBeGreaterThan(strided.samples[at - 1].meanVolts - 0.02 * settledVolts);
  });
  // The last few per cent are slow, and their time is told that much less well.
  [0.1, 0.1, 0.4].forEach((slack, at) =>
    expect(Math.abs(strided.reached[at].seconds! / exact.reached[at].seconds! - 1)).toBeLessThan(slack),
  );
});

describe('without a ladder', () => {
  const straight = (sections: Parameters<typeof suppliedDesign>[0], ohms: number) =>
    changeDesign(suppliedDesign(sections, 1, ohms), { path: '$.ladder.topology', value: 'none' });
  it.each([
    ['push-pull', PUSH_PULL, 2e6],
    ['push-pull', PUSH_PULL, 2e5],
    ['inverter without leakage', { ...INVERTER, transformer: { ...INVERTER.transformer, coupling: 1 } }, 5e5],
  ])('a %s straight onto a resistance: RMS within 2 %% of the closed form', (_name, sections, ohms) => {
    const design = straight(sections, ohms);
    const { driver, rmsVolts, watts } = settled(design);
    expect(driver.kind).toBe('circuit');
    expect(Math.abs(rmsVolts / predict(design).output.alternating!.rmsVolts! - 1)).toBeLessThan(0.02);
    // What is held in tank and choke comes back to the same: where a period begins with the tank at zero, no voltage tells.
    expect(Math.abs(watts.stored / watts.in)).toBeLessThan(1e-5);
  });
  it('a flyback’s pulses have their RMS in the time domain alone, and its power adds up', () => {
    const design = straight(FLYBACK, 5e6);
    const { output, findings } = predict(design);
    expect(output.alternating!.rmsVolts).toBeNull();
    expect(findings.map(({ code }) => code)).toContain('waveform-unknown');
    const { driver, rmsVolts, maxVolts, error } = settled(design);
    expect(driver.kind).toBe('circuit');
    expect(rmsVolts).toBeLessThan(maxVolts);
    expect(Math.abs(error.powerResidue!)).toBeLessThan(1e-3);
  });
});
