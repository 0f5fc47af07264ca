import { FLYBACK, PUSH_PULL, suppliedDesign, TRANSFORMER } from '../../../tests/reference/supplied-design';
import { newDesign } from '../design/new-design';
import { predict } from '../predict/predict';
import { idleOf, isIdle } from './idle';
import { transientOf } from './transient';
import { finish } from '../numeric/finish';

it.each([1, 3])('a push-pull of %d stages draws idle what its tank and its gates take', (stages) => {
  const design = suppliedDesign(PUSH_PULL, stages, 1e8);
  const { figures } = predict(design).source;
  const idle = finish(idleOf(design))!;
  expect(Math.abs(idle.idleWatts! / figures.idleWatts! - 1)).toBeLessThan(0.02);
  expect(idle.idleAmps!).toBeCloseTo(idle.idleWatts! / figures.supplyOpenVolts!, 6);
});

it('an inverter without leakage draws idle what its magnetising current loses in the switches (handbook)', () => {
  const ohms = 0.1;
  const hertz = 30e3;
  const design = suppliedDesign(
    {
      supply: { kind: 'dc', volts: 24 },
      driver: { kind: 'inverter', bridge: 'full', frequencyHertz: hertz, transistorOhms: ohms },
      transformer: { ...TRANSFORMER, coupling: 1, primaryTurns: 20, secondaryTurns: 800, primaryHenries: 400e-6 },
    },
    1,
    1e8,
  );
  // A triangle of V / 4 f L through two switches, and what the secondary's capacitance costs at each edge of C V^2 / 2.
  const peak = 24 / (4 * hertz * 400e-6);
  const magnetising = (peak ** 2 / 3) * 2 * ohms;
  const { figures } = predict(design).source;
  expect(figures.idleWatts).toBeCloseTo(magnetising, 9);
  expect(finish(idleOf(design))!.idleWatts!).toBeGreaterThan(magnetising);
});

it('what draws nothing anyway is idle, and draws more with a load', () => {
  const loaded = suppliedDesign(PUSH_PULL, 1, 1e7);
  const open = { ...loaded, load: { kind: 'open' as const } };
  expect([isIdle(loaded), isIdle(open)]).toEqual([false, true]);
  expect(isIdle({ ...open, output: { ...open.output, bleederOhms: 1e9 } })).toBe(false);
  const { driver } = finish(transientOf(loaded)).transient;
  if (driver.kind !== 'circuit') throw new Error('not a circuit');
  expect(finish(idleOf(loaded))!.idleWatts!).toBeLessThan(driver.figures.supplyWatts!);
});

it('a waveform that was measured has nothing to draw from', () => {
  expect(finish(idleOf(newDesign('Measured')))).toBeNull();
  expect(finish(idleOf(suppliedDesign(FLYBACK, 1, 1e8)))).not.toBeNull();
});
