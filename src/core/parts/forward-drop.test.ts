import { benchDesign } from '../../../tests/reference/bench-design';
import { predict } from '../predict/predict';
import { transientOf } from '../transient/transient';
import { finish } from '../numeric/finish';
import { forwardDrop, junctionsOf } from './forward-drop';

it('falls by 120 mV a decade and junction (diode equation with eta of 2, handbook)', () => {
  expect(forwardDrop(1, 1, 1)).toBe(1);
  expect(forwardDrop(1, 1, 1) - forwardDrop(1, 1, 0.1)).toBeCloseTo(0.119, 3);
  // A stick of about twelve junctions.
  expect(junctionsOf(12)).toBe(12);
  expect(forwardDrop(12, 5e-3, 5e-5)).toBeCloseTo(12 - 12 * 2 * 0.119, 1);
});

it('a silicon rectifier of 1 V at 1 A drops some 0.3 V at microamps, 0.6 V at milliamps (common practice, no source)', () => {
  expect(forwardDrop(0.95, 1, 5e-6)).toBeCloseTo(0.32, 1);
  expect(forwardDrop(0.95, 1, 1e-3)).toBeCloseTo(0.6, 1);
});

it('stands as entered without its current, never falls under zero, and no further under a microamp', () => {
  expect(forwardDrop(0.7, null, 1e-6)).toBe(0.7);
  expect(forwardDrop(0, 1, 1e-6)).toBe(0);
  expect(forwardDrop(0.2, 1, 1e-6)).toBe(0);
  expect(forwardDrop(1, 1, 0)).toBe(forwardDrop(1, 1, 1e-6));
});

it.each([
  [1.5, 49],
  [2, 64.7],
])(
  '%d stages on 16.5 V peak read through 10 MΩ as at the bench: %d V (common practice, no source)',
  (stages, volts) => {
    const design = benchDesign({
      driver: { positivePeakVolts: 16.5, frequencyHertz: 50 },
      // So large that droop does not come into it; what is left is within a hand meter’s 1.5 %.
      ladder: { stages, capacitor: { farads: 10e-6 } },
      diode: { forwardVolts: 0.95, forwardAmps: 1 },
      load: { kind: 'meter', ohms: 10e6 },
    });
    const { output } = predict(design);
    expect(Math.abs(output.meanVolts! / volts - 1)).toBeLessThan(0.015);
    // The engine has the same drop.
    expect(finish(transientOf(design)).transient.meanVolts / output.meanVolts!).toBeCloseTo(1, 2);
    const stiff = predict({
      ...design,
      ladder: { ...design.ladder, diode: { ...design.ladder.diode, forwardAmps: null } },
    });
    expect(stiff.output.meanVolts!).toBeLessThan(output.meanVolts!);
  },
);
