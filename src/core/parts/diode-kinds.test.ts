import { DIODE_KINDS, kindOfDiode, likelyKind, usualDiode } from './diode-kinds';
import { forwardDrop, junctionsOf } from './forward-drop';

it.each(DIODE_KINDS)('%s is told by its values, and no longer once one is typed over', (kind) => {
  const usual = usualDiode(kind);
  expect(kindOfDiode(usual)).toBe(kind);
  expect(kindOfDiode({ ...usual, forwardVolts: usual.forwardVolts + 0.1 })).toBeNull();
  expect(kindOfDiode({ ...usual, forwardAmps: null })).toBeNull();
});

it('a junction drops some 0.3 V at a microampere and 0.6 V at a milliampere (common practice)', () => {
  const { forwardVolts, forwardAmps } = usualDiode('silicon');
  expect(Math.abs(forwardDrop(forwardVolts, forwardAmps, 1e-6) - 0.3)).toBeLessThan(0.05);
  expect(Math.abs(forwardDrop(forwardVolts, forwardAmps, 1e-3) - 0.6)).toBeLessThan(0.08);
});

it('a stick of other voltage has more or fewer of the same junctions', () => {
  const [short, long] = [usualDiode('stick', 5e3), usualDiode('stick', 40e3)];
  expect(long.forwardVolts / short.forwardVolts).toBeCloseTo(8, 2);
  expect(short.junctionFarads / long.junctionFarads).toBeCloseTo(8, 2);
  // Each blocks 0.6 to 1 kV (common practice).
  for (const stick of [short, long]) {
    const each = stick.peakInverseVolts / junctionsOf(stick.forwardVolts);
    expect(each).toBeGreaterThan(500);
    expect(each).toBeLessThan(1000);
  }
  expect(kindOfDiode(short)).toBe('stick');
  expect(usualDiode('stick', 100)).toEqual(usualDiode('stick'));
  expect(usualDiode('silicon', 20e3).peakInverseVolts).toBe(1000);
});

it.each([
  [20e3, 5e-3, 100e-9, 'stick'],
  [12e3, 0.35, null, 'oven-stick'],
  [1e3, 1, null, 'silicon'],
  [600, 1, 300e-9, 'fast-silicon'],
  [1e3, 1, 75e-9, 'ultrafast-silicon'],
] as const)('%d V, %d A, %s s is likely %s', (peakInverseVolts, averageAmps, recoverySeconds, kind) => {
  expect(likelyKind({ peakInverseVolts, averageAmps, recoverySeconds })).toBe(kind);
});
