import { benchDesign } from '../../../tests/reference/bench-design';
import { finish } from '../numeric/finish';
import { transientOf } from './transient';

const OHMS = 10;
/** 1 V, 1 Hz, 1 F: a doubler that gives 2 mA, and what hangs behind its series resistor. */
const settled = (electrodeFarads: number) => {
  const design = benchDesign({
    ladder: { topology: 'half-wave', stages: 1 },
    output: { seriesOhms: OHMS, electrodeFarads },
    load: { kind: 'current', amps: 2e-3 },
  });
  return finish(transientOf(design, 400)).transient;
};

it('what hangs behind the series resistor smooths the ripple as R and C do, and leaves the mean alone', () => {
  const bare = settled(0);
  const hung = settled(1);
  // A sawtooth of S peak to peak makes of R C much longer than its period a parabola of S T / (8 R C) (by hand).
  expect(hung.ripplePeakToPeakVolts / (bare.ripplePeakToPeakVolts / (8 * OHMS))).toBeCloseTo(1, 1);
  // The ladder gives a steadier current then, which moves its own mean by less than its ripple.
  expect(Math.abs(hung.meanVolts - bare.meanVolts)).toBeLessThan(0.02 * bare.ripplePeakToPeakVolts);
  expect(hung.reason).toBeNull();
});
