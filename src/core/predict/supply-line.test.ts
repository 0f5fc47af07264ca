import { benchDesign } from '../../../tests/reference/bench-design';
import { loadLine, supplyLine } from './curves';

const behind = (topology: string, more: object = {}) =>
  benchDesign({
    driver: { positivePeakVolts: 3000, frequencyHertz: 50, seriesOhms: 20e3, ...more },
    ladder: { topology, capacitor: { farads: 1e-6 } },
    // Its own load counts for nothing here.
    load: { kind: 'current', amps: 1e-3 },
  });

it('of a winding is RMS: what is left of it behind its resistance, by Ohm’s law', () => {
  const line = supplyLine(behind('none'));
  expect(line.length).toBeGreaterThan(15);
  for (const { amps, volts } of line) expect(volts + amps * 20e3).toBeCloseTo(3000 / Math.SQRT2, 3);
  expect(line.map(({ amps }) => amps)).toEqual([...line.map(({ amps }) => amps)].sort((one, other) => one - other));
  expect(line.at(-1)!.amps / (3000 / Math.SQRT2 / 20e3)).toBeGreaterThan(0.95);
});

it('of a ladder is its load line, and of what no closed form knows there is none', () => {
  const ladder = behind('half-wave');
  expect(supplyLine(ladder)).toEqual(loadLine(ladder).map(({ amps, meanVolts }) => ({ amps, volts: meanVolts })));
  expect(supplyLine(behind('none', { burstHertz: 10, burstFraction: 0.5 }))).toEqual([]);
});
