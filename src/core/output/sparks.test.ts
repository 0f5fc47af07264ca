import { benchDesign } from '../../../tests/reference/bench-design';
import { finish } from '../numeric/finish';
import { predict } from '../predict/predict';
import { chargeUpOf } from '../transient/charge-up';
import { sparksOf } from './sparks';

const gap = { kind: 'gap', strikeVolts: 2, arcOhms: 0.05, quenchAmps: 0.1 } as const;
const output = { seriesOhms: 200, electrodeFarads: 0.01, bleederOhms: null, divider: null, smoothing: [] };

it('20 nF on a grid that strikes at 5 kV: 0.25 J; behind 1 M from 10 kV at least 20 ms ln 2 apart', () => {
  const grid = { ...output, seriesOhms: 1e6, electrodeFarads: 20e-9 };
  const { joules, leastSeconds, goesOut } = sparksOf(
    { load: { ...gap, strikeVolts: 5e3, quenchAmps: 20e-3 }, output: grid },
    10e3,
    10e3,
  )!;
  expect(joules).toBeCloseTo(0.25, 12);
  expect(leastSeconds).toBeCloseTo(0.02 * Math.LN2, 12);
  expect(goesOut).toBe(true);
});

it('stays lit where more comes through the resistor than it goes out under', () => {
  const at = (quenchAmps: number) => sparksOf({ load: { ...gap, quenchAmps }, output }, 4, 4)!.goesOut;
  expect([at(4 / 200.05 - 1e-6), at(4 / 200.05 + 1e-6)]).toEqual([false, true]);
});

it('says nothing of another load or a gap that is out of reach, and no time where none is set', () => {
  expect(sparksOf({ load: { kind: 'open' }, output }, 4, 4)).toBeNull();
  expect(sparksOf({ load: gap, output }, 1.9, 1.9)).toBeNull();
  expect(sparksOf({ load: gap, output: { ...output, electrodeFarads: 0 } }, 4, 4)).toMatchObject({
    joules: null,
    leastSeconds: null,
  });
  // Its ripple alone reaches the gap.
  expect(sparksOf({ load: gap, output }, 1.9, 2.1)!.leastSeconds).toBeNull();
});

it.each([0.005, 0.01, 0.02])('the time domain has no spark sooner, and each takes C V: %d F', (electrodeFarads) => {
  const design = benchDesign({
    ladder: { topology: 'half-wave', stages: 2 },
    output: { seriesOhms: 200, electrodeFarads },
    load: gap,
  });
  const { sparks, output: predicted } = predict(design);
  const { strikesPerSecond, coulombsEach } = finish(chargeUpOf(design, predicted.noLoadVolts, false)).gap!;
  expect(strikesPerSecond! * sparks!.leastSeconds!).toBeLessThanOrEqual(1);
  // Not far under it either, though the ladder is still filling: within a half.
  expect(strikesPerSecond! * sparks!.leastSeconds!).toBeGreaterThan(0.5);
  // Besides what hangs there the arc takes what comes through the resistor while it burns.
  expect(coulombsEach / (electrodeFarads * gap.strikeVolts)).toBeGreaterThan(1);
  expect(coulombsEach / (electrodeFarads * gap.strikeVolts)).toBeLessThan(1.05);
});
