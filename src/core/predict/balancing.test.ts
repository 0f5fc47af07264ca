import { newDesign } from '../design/new-design';
import type { Design } from '../design/design-schema';
import { predict } from './predict';

const plain = newDesign('Strings');
const withString = (
  diode: Partial<Design['ladder']['diode']>,
  capacitor: Partial<Design['ladder']['capacitor']> = {},
) => ({
  ...plain,
  ladder: {
    ...plain.ladder,
    diode: { ...plain.ladder.diode, ...diode },
    capacitor: { ...plain.ladder.capacitor, ...capacitor },
  },
});

it('a string of diodes is balanced by (n Vr − V) / ((n − 1) I) (handbook, series connection of rectifiers)', () => {
  const design = withString({ series: 3, peakInverseVolts: 1000, leakageAmps: 1e-6 });
  const prediction = predict(design);
  const volts = Math.max(...prediction.diodes.map(({ reverseVolts }) => reverseVolts));
  const { ohms, wattsEach } = prediction.balancing.diode!;
  expect(ohms).toBeCloseTo((3 * 1000 - volts) / (2 * 1e-6), 0);
  // The worst placed stands its rating across its resistor.
  expect(wattsEach).toBeCloseTo(1000 ** 2 / ohms, 9);
  // Proof by the circuit: one that leaks nothing beside two that leak their most stands just its rating.
  const through = (1000 - 0) / ohms;
  const others = (volts - 1000) / 2;
  expect(others / ohms + 1e-6).toBeCloseTo(through, 12);
});

it('capacitors go by their working voltage and their own leakage', () => {
  const design = withString({}, { series: 2, ratedVolts: 1500, leakageAmps: 5e-7 });
  const prediction = predict(design);
  const volts = Math.max(...prediction.capacitors.map(({ workingVolts }) => workingVolts));
  expect(prediction.balancing.capacitor!.ohms).toBeCloseTo((2 * 1500 - volts) / 5e-7, -3);
});

it('there is none to say where one part stands alone, nothing leaks, no rating is known, or the string cannot carry it', () => {
  for (const diode of [
    { series: 1, peakInverseVolts: 3000, leakageAmps: 1e-6 },
    { series: 3, peakInverseVolts: 3000, leakageAmps: 0 },
    { series: 3, peakInverseVolts: null, leakageAmps: 1e-6 },
    { series: 3, peakInverseVolts: 100, leakageAmps: 1e-6 },
  ])
    expect(predict(withString(diode)).balancing.diode).toBeNull();
});
