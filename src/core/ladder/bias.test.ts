import { newDesign } from '../design/new-design';
import type { Design } from '../design/design-schema';
import { predict } from '../predict/predict';
import { biasDerating } from './bias';

describe('what voltage leaves of a class-2 ceramic', () => {
  it('all without voltage, the known part at its rating, the same either way', () => {
    expect(biasDerating(0, 10e3, 0.4)).toBe(1);
    expect(biasDerating(10e3, 10e3, 0.4)).toBeCloseTo(0.4, 12);
    expect(biasDerating(-6e3, 10e3, 0.4)).toBe(biasDerating(6e3, 10e3, 0.4));
  });
  // Johnson's law, from memory: (1 + A V^2)^(-1/3). With A = 7 / Vr^2 half is left at Vr; at half of it 1 / cbrt(2.75).
  it('follows Johnson’s law between', () => {
    expect(biasDerating(5e3, 10e3, 0.5)).toBeCloseTo(1 / Math.cbrt(2.75), 12);
  });
});

describe('a ladder of such capacitors', () => {
  const plain = newDesign('Bias');
  const design = (dcBiasDerating: number | null, series = 1): Design => ({
    ...plain,
    ladder: {
      ...plain.ladder,
      stages: 3,
      diode: { ...plain.ladder.diode, junctionFarads: 0, forwardVolts: 0 },
      capacitor: { ...plain.ladder.capacitor, farads: 1e-9, ratedVolts: 2000, dcBiasDerating, series },
    },
    driver: { ...plain.driver, seriesOhms: 0 },
    load: { kind: 'current', amps: 20e-6 },
  });

  it('droops as if each had what is left of it: the first at the peak, the others at twice', () => {
    const whole = predict(design(null));
    const biased = predict(design(0.5));
    const listed = predict({
      ...design(null),
      ladder: {
        ...design(null).ladder,
        capacitorFarads: biased.capacitors.map(({ workingVolts }) => 1e-9 * biasDerating(workingVolts, 2000, 0.5)),
      },
    });
    expect(biased.capacitors.map(({ biasedFarads }) => biasedFarads / 1e-9)).toEqual([
      expect.closeTo(biasDerating(1000, 2000, 0.5), 9),
      ...Array.from({ length: 5 }, () => expect.closeTo(0.5, 9)),
    ]);
    expect(biased.output.meanVolts!).toBeCloseTo(listed.output.meanVolts!, 6);
    expect(biased.output.droopVolts! / whole.output.droopVolts!).toBeGreaterThan(1.7);
    expect(biased.output.noLoadVolts).toBeCloseTo(whole.output.noLoadVolts, 6);
  });

  it('stores what is marked on it, so that the energy is never told too small', () => {
    expect(predict(design(0.3)).energy).toEqual(predict(design(null)).energy);
    expect(predict(design(0.3)).capacitors.map(({ farads }) => farads)).toEqual(Array(6).fill(1e-9));
  });

  it('loses less in strings, whose parts share the voltage', () => {
    const [one, two] = [predict(design(0.5)), predict(design(0.5, 2))];
    expect(two.capacitors[1].biasedFarads / 0.5e-9).toBeCloseTo(biasDerating(1000, 2000, 0.5), 9);
    expect(two.capacitors[1].biasedFarads / 0.5e-9).toBeGreaterThan(one.capacitors[1].biasedFarads / 1e-9);
  });
});
