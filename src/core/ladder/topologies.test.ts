import fc from 'fast-check';
import { integratedLadder, integrateLadder } from '../../../tests/reference/smooth-diode-ladder';
import { lightLoadOf, sineDrive } from '../../../tests/reference/drives';
import type { Drive } from '../drive/drive';
import { bipolarNetwork } from '../topology/bipolar';
import { bridgeDoublerNetwork } from '../topology/bridge-doubler';
import { clampNetwork } from '../topology/clamp';
import { fullWaveNetwork } from '../topology/full-wave';
import { gradedNetwork } from '../topology/grading';
import { halfWaveNetwork } from '../topology/half-wave';
import { twoEndedNetwork } from '../topology/two-ended';
import { rectifierNetwork } from '../topology/rectifier';
import { droopAt, loadedLadder, rippleAt } from './loaded';
import type { LadderNetwork } from '../topology/network';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { idealVolts, unloadedLadder } from './unloaded';

const ideal = { forwardVolts: 0, strayFarads: 0, onOhms: 0 };
const range = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, index) => from + index);
const halfWave = (n: number) => (2 * n ** 3) / 3 + n ** 2 / 2 + n / 3;
const pulse = (duty: number): Drive => ({ ...sineDrive(1), waveform: 'pulse', duty });

// Sums of squared charges, C = 1 F, f = 1 Hz; the half-wave one: E. Everhart and P. Lorrain (1953) and textbooks since, the rest derived.
describe('droop and ripple on a sine in units of I / f C', () => {
  it.each(range(1, 8))('full-wave, n = %i', (n) => {
    const light = lightLoadOf(fullWaveNetwork(n, 1));
    expect(light.droop).toBeCloseTo(n ** 3 / 6 + n ** 2 / 4 + n / 3, 9);
    expect(light.ripple).toBeCloseTo(n / 2, 9);
    expect(light.windingPulses[0].positive).toBeCloseTo(n / 2, 9);
  });
  it.each(range(1, 8))('bipolar, n = %i a side: twice the half-wave droop, ripple n', (n) => {
    const light = lightLoadOf(bipolarNetwork(n, 1));
    expect(light.droop).toBeCloseTo(2 * halfWave(n), 9);
    expect(light.ripple).toBeCloseTo(n, 9);
    expect(light.windingPulses[0].positive).toBeCloseTo(2 * n, 9);
  });
  // Charges of a chain of 4n diodes driven in its middle: the coupling pair takes ±2n q, each side's columns m q and (m ± 1) q.
  it.each(range(1, 8))('two-ended, n = %i a side', (n) => {
    const light = lightLoadOf(twoEndedNetwork(n, 1));
    expect(light.droop).toBeCloseTo((4 * n ** 3) / 3 + 8 * n ** 2 + (2 * n) / 3, 8);
    expect(light.ripple).toBeCloseTo(n, 9);
    expect(light.windingPulses[0].positive).toBeCloseTo(2 * n, 9);
    expect(unloadedLadder(twoEndedNetwork(n, 1), sineDrive(1000), 0, 0).outputVolts).toBeCloseTo(4000 * n, 6);
  });
  it('a listed capacitance is that of each of the two at the winding', () => {
    const listed = gradedNetwork(twoEndedNetwork(1, 1), 'equal', [6, 2, 2, 2]);
    expect(listed.capacitors.map((part) => part.farads)).toEqual([3, 2, 2, 2]);
    expect(gradedNetwork(twoEndedNetwork(1, 1), 'first-doubled', null).capacitors[0].farads).toBe(1);
  });
  it.each(range(1, 8))('tapered, n = %i', (n) => {
    const light = lightLoadOf(gradedNetwork(halfWaveNetwork(n, 1), 'tapered', null));
    const harmonic = range(1, n).reduce((sum, k) => sum + 1 / k, 0);
    expect(light.droop).toBeCloseTo(n ** 2 + harmonic / 2, 9);
    expect(light.ripple).toBeCloseTo(n, 9);
  });
  it.each(range(1, 8))('first coupling capacitor doubled, n = %i', (n) => {
    const light = lightLoadOf(gradedNetwork(halfWaveNetwork(n, 1), 'first-doubled', null));
    expect(light.droop).toBeCloseTo(halfWave(n) - n ** 2 / 2, 9);
    expect(light.ripple).toBeCloseTo((n * (n + 1)) / 2, 9);
  });
  it('bridge doubler with unlike capacitors', () => {
    const light = lightLoadOf(gradedNetwork(bridgeDoublerNetwork(1), 'equal', [2, 5]));
    expect(light.droop).toBeCloseTo((1 / 2 + 1 / 5) / 2, 12);
    expect(light.ripple).toBeCloseTo(1 / 2, 12);
  });
  it('rectifier: half a charge of droop, a whole one of ripple, the winding’s peak without load', () => {
    const light = lightLoadOf(rectifierNetwork(1));
    expect(light.droop).toBeCloseTo(1 / 2, 12);
    expect(light.ripple).toBeCloseTo(1, 12);
    expect(unloadedLadder(rectifierNetwork(1), sineDrive(1000), 0, 3)).toMatchObject({
      outputVolts: 997,
      reverseVolts: [2000],
    });
  });
  it('clamp: half a charge, and the drive’s whole swing on the output', () => {
    expect(lightLoadOf(clampNetwork(1)).droop).toBeCloseTo(1 / 2, 12);
    const { outputVolts, feedthroughPeakToPeakVolts } = unloadedLadder(clampNetwork(1), sineDrive(1000), 0, 0);
    expect([outputVolts, feedthroughPeakToPeakVolts]).toEqual([1000, 2000]);
  });
  it('full-wave columns of their own capacitances: m^2 / 4fC oscillating, 1 / 4fC smoothing', () => {
    const n = 4;
    const farads = fullWaveNetwork(n, 1).capacitors.map((part) => (part.column === 'smoothing' ? 3 : 0.5) * part.stage);
    const network = gradedNetwork(fullWaveNetwork(n, 1), 'equal', farads);
    const sums = network.capacitors.reduce(
      (sum, part, at) => {
        const m = n - part.stage + 1;
        return part.column === 'smoothing'
          ? { droop: sum.droop + 1 / (4 * farads[at]), ripple: sum.ripple + 1 / (2 * farads[at]) }
          : { ...sum, droop: sum.droop + m ** 2 / (4 * farads[at]) };
      },
      { droop: 0, ripple: 0 },
    );
    const light = lightLoadOf(network);
    expect(light.droop).toBeCloseTo(sums.droop, 9);
    expect(light.ripple).toBeCloseTo(sums.ripple, 9);
  });
});

describe('droop and ripple on a pulse of duty d', () => {
  it.each(range(1, 6).flatMap((n) => [0.1, 0.5, 0.8].map((duty) => [n, duty])))('half-wave, n = %d, d = %d', (n, d) => {
    const light = lightLoadOf(halfWaveNetwork(n, 1), pulse(d));
    expect(light.droop).toBeCloseTo(halfWave(n) - (d * n * (n + 1)) / 2 + (n * d ** 2) / 4, 9);
    expect(light.ripple).toBeCloseTo((n * (n + 1)) / 2 - (n * d) / 2, 9);
  });
  it.each(range(1, 6))('full-wave on a square, n = %i', (n) => {
    const light = lightLoadOf(fullWaveNetwork(n, 1), pulse(0.5));
    expect(light.droop).toBeCloseTo(n ** 3 / 6 + n ** 2 / 8 + n / 12, 9);
    expect(light.ripple).toBeCloseTo(n / 4, 9);
  });
  it('without load a whole-stage ladder gives n times both peaks, whatever the duty', () => {
    const lopsided = { ...pulse(0.2), positivePeakVolts: 3000, negativePeakVolts: 500 };
    const { outputVolts, capacitorVolts } = unloadedLadder(halfWaveNetwork(3, 1), lopsided, 0, 0);
    expect(outputVolts).toBeCloseTo(3 * 3500, 9);
    expect(capacitorVolts[0]).toBeCloseTo(500, 9);
    expect(capacitorVolts[1]).toBeCloseTo(3500, 9);
  });
});

it.each([
  ['half-wave', halfWaveNetwork(3, 1), 6],
  ['odd', halfWaveNetwork(2.5, 1), 5],
  ['full-wave', fullWaveNetwork(3, 1), 6],
  ['bipolar', bipolarNetwork(2, 1), 8],
  ['two-ended', twoEndedNetwork(2, 1), 8],
  ['bridge doubler', bridgeDoublerNetwork(1), 2],
  ['clamp', clampNetwork(1), 1],
] as [string, LadderNetwork, number][])('%s without load: peaks counted once each', (_name, network, peaks) => {
  expect(idealVolts(network, sineDrive(100), 0)).toBeCloseTo(peaks * 100, 9);
  expect(idealVolts(network, sineDrive(100), 2)).toBeCloseTo(peaks * 98, 9);
});

/** Two diodes feed each node from columns of different capacitance: not both of them conduct. */
const unlikeFullWave = gradedNetwork(fullWaveNetwork(2, 1), 'equal', [1.5, 0.5, 1, 0.6, 1.4, 1]);

it('unlike capacitors of a full-wave ladder always have a figure, and no diode passes backwards', () => {
  expect(lightLoadOf(unlikeFullWave).diodeCharges.some((charge) => charge === 0)).toBe(true);
  const unlike = fc.array(fc.double({ min: 0.1, max: 2, noNaN: true }), { minLength: 30, maxLength: 30 });
  fc.assert(
    fc.property(
      unlike,
      fc.integer({ min: 1, max: 10 }),
      fc.constantFrom(sineDrive(1), pulse(0.3)),
      (farads, n, drive) => {
        const network = gradedNetwork(fullWaveNetwork(n, 1), 'equal', farads.slice(0, 3 * n));
        const { droop, diodeCharges } = loadedLadder(network, drive, ideal).lightLoad;
        expect(droop).toBeGreaterThan(0);
        expect(droop).toBeLessThan(Infinity);
        expect(Math.min(...diodeCharges)).toBeGreaterThanOrEqual(0);
        // Whatever passes to the output comes through the diodes of its last step.
        const into = network.diodes.flatMap(({ cathode }, at) =>
          cathode === network.output ? [diodeCharges[at]] : [],
        );
        expect(into.reduce((sum, charge) => sum + charge, 0)).toBeCloseTo(1, 6);
      },
    ),
  );
});

describe('against odex with smooth diodes', () => {
  // Mean within 0.3 % of no-load and ripple within 1 %, of which the smooth diodes' own drop takes up to 0.2 % and 0.4 %.
  it.each([
    ['bridge doubler', bridgeDoublerNetwork(1), 0.2, 10],
    ['full-wave', fullWaveNetwork(2, 1), 0.1, 16],
    ['bipolar', bipolarNetwork(1, 1), 0.1, 14],
    ['two-ended', twoEndedNetwork(1, 1), 0.1, 20],
    ['tapered', gradedNetwork(halfWaveNetwork(2, 1), 'tapered', null), 0.1, 20],
    ['full-wave of unlike capacitors, of which a diode stays idle', unlikeFullWave, 0.1, 16],
  ] as [string, LadderNetwork, number, number][])('%s', (_name, network, x, cycles) => {
    const ladder = loadedLadder(network, sineDrive(1), ideal);
    const noLoad = ladder.unloaded.outputVolts;
    const loadAmps = (x * noLoad) / ladder.lightLoad.droop;
    const droop = droopAt(ladder, loadAmps)!;
    const run = integratedLadder(network, {
      peakVolts: 1,
      frequencyHertz: 1,
      loadAmps,
      diodeOhms: 2e-4,
      softVolts: 2e-5,
      start: ladder.unloaded.capacitorVolts.map(
        (volts, at) => volts - (droop.totalVolts / ladder.lightLoad.droop) * ladder.lightLoad.capacitorDroops[at],
      ),
      cycles,
    });
    run.diodeCharges.forEach((charge, at) =>
      expect(charge / loadAmps).toBeCloseTo(ladder.lightLoad.diodeCharges[at], 2),
    );
    expect(Math.abs(noLoad - droop.totalVolts - run.meanVolts) / noLoad).toBeLessThan(0.003);
    // A two-ended ladder's diodes start one after another, and the load's draw meanwhile is left out: 2.8 % here.
    expect(Math.abs(rippleAt(ladder, loadAmps, 0).peakToPeakVolts / run.ripplePeakToPeakVolts - 1)).toBeLessThan(
      network.topology === 'two-ended' ? 0.03 : 0.01,
    );
  });
});

// What was written down is worth as much as the integrator that wrote it: two short ones run anew each time.
it.each([
  ['bridge doubler', bridgeDoublerNetwork(1)],
  ['half-wave', halfWaveNetwork(1, 1)],
])('odex integrates a %s today as it did when that was written down', (_name, network) => {
  const inputs = {
    peakVolts: 1,
    frequencyHertz: 1,
    loadAmps: 0.02,
    diodeOhms: 2e-4,
    softVolts: 2e-5,
    start: loadedLadder(network, sineDrive(1), ideal).unloaded.capacitorVolts,
    cycles: 6,
  };
  const [then, now] = [integratedLadder(network, inputs), integrateLadder(network, inputs)];
  expect(Object.keys(now)).toEqual(Object.keys(then));
  expect(now.meanVolts).toBeCloseTo(then.meanVolts, 6);
  expect(now.ripplePeakToPeakVolts).toBeCloseTo(then.ripplePeakToPeakVolts, 6);
  now.diodeCharges.forEach((charge, at) => expect(charge).toBeCloseTo(then.diodeCharges[at], 6));
});

it('every topology names parts once and joins them to nodes it has', () => {
  for (const kind of Object.values(TOPOLOGY_KINDS)) {
    const network = kind.build(3, 1);
    const ids = new Set(network.nodes.map((node) => node.id));
    const parts = [...network.capacitors, ...network.diodes];
    expect(new Set(parts.map((part) => part.id)).size).toBe(parts.length);
    for (const { lower, upper } of network.capacitors) expect(ids.has(lower) && ids.has(upper)).toBe(true);
    for (const { anode, cathode } of network.diodes) expect(ids.has(anode) && ids.has(cathode)).toBe(true);
  }
  expect(() => fullWaveNetwork(1.5, 1)).toThrow(RangeError);
  expect(() => gradedNetwork(halfWaveNetwork(2, 1), 'equal', [1, 2])).toThrow(RangeError);
});
