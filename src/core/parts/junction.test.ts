import { newDesign } from '../design/new-design';
import { operatingPoint } from '../operating/operating-point';
import { predict } from '../predict/predict';
import { effectiveJunction, junctionByVoltage, swungJunction } from './junction';

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

it('lets thin capacitors climb', () => {
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
  // The swing of the drive is 2 kV; strays leave each diode less of it, and its junction more.
  const { strayFarads } = operatingPoint(thin(4)).inputs;
  expect(strayFarads).toBeGreaterThan(effectiveJunction(10e-12, 4, 2000, 12));
  expect(strayFarads).toBeLessThan(effectiveJunction(10e-12, 4, 1200, 12));
  expect(predict(thin(null)).findings.map(({ code }) => code)).toContain('strays-large');
});

it.each([3, 50, 2000, 40_000])(
  'in steps up to %d V its charge is within 0.7 %% of the most, and right at the end',
  (most) => {
    const { farads, steps } = junctionByVoltage(10e-12, 4, most, 12);
    const stepped = (volts: number) =>
      steps.reduce((sum, step) => sum + step.farads * Math.min(volts, step.reverseVolts), farads * volts);
    const exact = (volts: number) => volts * effectiveJunction(10e-12, 4, volts, 12);
    for (let part = 0.001; part < 1; part *= 1.1)
      expect(Math.abs(stepped(part * most) - exact(part * most)) / exact(most)).toBeLessThan(0.007);
    expect(stepped(most) / exact(most)).toBeCloseTo(1, 9);
    for (const step of steps) expect(step.farads).toBeGreaterThan(0);
  },
);

it('without the voltage it was measured at there are no steps; at no swing it has what stands at no voltage', () => {
  expect(junctionByVoltage(10e-12, null, 2000, 12)).toEqual({ farads: 10e-12, steps: [] });
  expect(junctionByVoltage(0, 4, 2000, 12).steps).toEqual([]);
  const atNone = effectiveJunction(10e-12, 4, 0, 12);
  expect(junctionByVoltage(10e-12, 4, 0, 12)).toEqual({ farads: atNone, steps: [] });
  const junction = { junctionFarads: 10e-12, measuredVolts: 4, forwardVolts: 12 };
  expect(swungJunction(junction, 0, 0)).toBe(atNone);
  expect(swungJunction(junction, 5, 12)).toBeCloseTo(atNone, 20);
  expect(swungJunction(junction, 2000, 0)).toBeCloseTo(effectiveJunction(10e-12, 4, 2000, 12), 20);
});
