import { newDesign } from '../design/new-design';
import { operatingPoint } from '../operating/operating-point';
import { predict } from '../predict/predict';
import { finish, transientOf } from '../transient/transient';
import { effectiveJunction } from './junction';

/** C(V) of one junction with a known value at 4 V, summed up by Simpson's rule and divided by the voltage. */
function integrated(atFour: number, volts: number): number {
  const capacitance = (v: number) => (atFour * (1 + 4 / 0.7) ** 0.4) / (1 + v / 0.7) ** 0.4;
  const parts = 20_000;
  let charge = capacitance(0) + capacitance(volts);
  for (let part = 1; part < parts; part += 1) charge += (part % 2 === 1 ? 4 : 2) * capacitance((part * volts) / parts);
  return charge / (3 * parts);
}

it.each([1, 20, 400])('of one junction, 15 pF at 4 V, swung to %d V: its charge over its voltage', (volts) => {
  expect(effectiveJunction(15e-12, 4, volts, 1) / integrated(15e-12, volts)).toBeCloseTo(1, 4);
});

it('a low-voltage value overstates it several times at kilovolts, and stands as it is without its voltage', () => {
  expect(10e-12 / effectiveJunction(10e-12, 4, 6000, 12)).toBeGreaterThan(4);
  expect(effectiveJunction(10e-12, null, 6000, 12)).toBe(10e-12);
  expect(effectiveJunction(0, 4, 6000, 12)).toBe(0);
  // At no swing at all it is what stands at zero volts, and tends to it.
  expect(effectiveJunction(1e-12, 4, 0, 1)).toBeCloseTo(effectiveJunction(1e-12, 4, 1e-5, 1), 16);
});

it('counts in closed form and time domain alike, and lets thin capacitors climb', () => {
  const plain = newDesign('Thin');
  const thin = (junctionVolts: number | null) => ({
    ...plain,
    ladder: {
      ...plain.ladder,
      stages: 3,
      strayFarads: 0,
      capacitor: { ...plain.ladder.capacitor, farads: 150e-12 },
      diode: { ...plain.ladder.diode, junctionFarads: 10e-12, junctionVolts, forwardVolts: 12 },
    },
  });
  const [low, high] = [thin(null), thin(4)].map((design) => predict(design).output.noLoadVolts);
  expect(high).toBeGreaterThan(1.4 * low);
  const { inputs } = operatingPoint(thin(4));
  // The swing of the drive, 2 kV, across each diode.
  expect(inputs.strayFarads).toBeCloseTo(effectiveJunction(10e-12, 4, 2000, 12), 15);
  const { transient } = finish(transientOf(thin(4)));
  expect(transient.meanVolts / high).toBeCloseTo(1, 3);
  expect(predict(thin(null)).findings.map(({ code }) => code)).toContain('strays-large');
});
