import fc from 'fast-check';
import { changeDesign } from '../design/change-design';
import { newDesign } from '../design/new-design';
import { predict } from '../predict/predict';
import { CHOSEN_MARGIN } from '../quantity/margin';
import { balancing, ladderParts, seriesFor, worstShare } from './bank';

/** The greatest share over all corners of a tolerance: every capacitor at its least or most, enumerated. */
function shareByCorners(count: number, tolerance: number): number {
  let most = 0;
  for (let corner = 0; corner < 2 ** count; corner += 1) {
    const inverse = Array.from({ length: count }, (_, at) => 1 / (1 + (corner & (1 << at) ? tolerance : -tolerance)));
    const sum = inverse.reduce((a, b) => a + b, 0);
    most = Math.max(most, ...inverse.map((one) => one / sum));
  }
  return most;
}

it.each([
  [1, 0.1],
  [2, 0.1],
  [3, 0.2],
  [5, 0.05],
  [8, 0.2],
])('%d in series within %d: the worst share is that of the worst corner', (count, tolerance) => {
  expect(worstShare(count, tolerance)).toBeCloseTo(shareByCorners(count, tolerance), 12);
});

/** A bank solved as a network, part by part: strings of charge, then strings side by side. */
function bankByNetwork(series: number, parallel: number, farads: number): number {
  let bank = 0;
  for (let string = 0; string < parallel; string += 1) {
    let elastance = 0;
    for (let part = 0; part < series; part += 1) elastance += 1 / farads;
    bank += 1 / elastance;
  }
  return bank;
}

const plain = newDesign('Strings');
const withStrings = (capacitor: object, diode: object = {}) => ({
  ...plain,
  ladder: {
    ...plain.ladder,
    capacitor: { ...plain.ladder.capacitor, ...capacitor },
    diode: { ...plain.ladder.diode, ...diode },
  },
});

it('a bank has the value of its network', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 }), (series, parallel) => {
      const { capacitor } = ladderParts(withStrings({ series, parallel }).ladder);
      expect(capacitor.farads / bankByNetwork(series, parallel, 1e-9)).toBeCloseTo(1, 12);
    }),
  );
});

it('a bank is its value to the whole prediction, and stands more', () => {
  const bank = predict(withStrings({ farads: 2e-9, series: 2, tolerance: 0.1 }));
  const single = predict(withStrings({ farads: 1e-9 }));
  expect(bank.output).toEqual(single.output);
  // Two at 10 %: 1.1 / 2 of the voltage on the worse one.
  expect(bank.capacitors[0].ratedVolts! / single.capacitors[0].ratedVolts!).toBeCloseTo(2 / 1.1, 9);
});

it('diodes in series add their drops, halve their junctions and block nearly twice', () => {
  const two = predict(withStrings({}, { series: 2 }));
  const alike = predict(
    withStrings(
      {},
      { forwardVolts: 2 * plain.ladder.diode.forwardVolts, junctionFarads: plain.ladder.diode.junctionFarads / 2 },
    ),
  );
  expect(two.output).toEqual(alike.output);
  expect(two.diodes[0].ratedVolts! / plain.ladder.diode.peakInverseVolts!).toBeCloseTo(1 / worstShare(2, 0.2), 9);
});

it('the smallest string carries the stress with its margin, and one fewer does not', () => {
  const part = { ratedVolts: 4000, tolerance: 0.1 };
  const count = seriesFor('capacitor', part, 9000)!;
  const stands = (number: number) => part.ratedVolts / worstShare(number, part.tolerance);
  expect(stands(count)).toBeGreaterThanOrEqual(9000 * (1 + CHOSEN_MARGIN));
  expect(stands(count - 1)).toBeLessThan(9000 * (1 + CHOSEN_MARGIN));
  expect(seriesFor('diode', part, 3000)).toBe(1);
  expect(seriesFor('diode', { ...part, ratedVolts: null }, 9000)).toBeNull();
  expect(seriesFor('diode', part, 1e6)).toBeNull();
});

it('a listed capacitance is that of the place, whatever it is made of', () => {
  const listed = changeDesign(withStrings({ series: 2 }), {
    path: '$.ladder.capacitorFarads',
    value: [1e-9, 1e-9, 1e-9, 1e-9],
  });
  expect(predict(listed).capacitors.map((part) => part.farads)).toEqual([1e-9, 1e-9, 1e-9, 1e-9]);
});

describe('balancing resistors', () => {
  /** The most that one of a string stands, each with a resistor across it, over every corner of who leaks and who does not. */
  const worstByCorners = (count: number, volts: number, ohms: number, leakageAmps: number) => {
    let most = 0;
    for (let corner = 0; corner < 2 ** count; corner += 1) {
      const leaks = Array.from({ length: count }, (_, at) => (corner & (1 << at) ? leakageAmps : 0));
      // The same current passes all; what does not leak passes the resistor.
      const current = volts / (count * ohms) + leaks.reduce((a, b) => a + b, 0) / count;
      most = Math.max(most, ...leaks.map((leak) => (current - leak) * ohms));
    }
    return most;
  };
  it.each([
    [2, 4000, 6000, 1e-6],
    [5, 1000, 3200, 5e-6],
    [8, 12e3, 70e3, 0.2e-6],
  ])(
    '%d in series keep the worst placed at its rating, and hardly larger ones do not',
    (count, rated, volts, leakage) => {
      const { ohms, wattsEach } = balancing(count, rated, volts, leakage)!;
      expect(worstByCorners(count, volts, ohms, leakage)).toBeCloseTo(rated, 6);
      expect(worstByCorners(count, volts, 1.05 * ohms, leakage)).toBeGreaterThan(rated);
      expect(wattsEach).toBeCloseTo(rated ** 2 / ohms, 12);
    },
  );
  it('cannot help a string that is too short', () => expect(balancing(2, 1000, 2500, 1e-6)).toBeNull());
  it('are told of a design’s strings whose leakage is known', () => {
    const told = predict(withStrings({ series: 2, leakageAmps: 1e-7 }, { series: 2, leakageAmps: 0 })).balancing;
    const { capacitors } = predict(withStrings({ series: 2 }, { series: 2 }));
    const across = Math.max(...capacitors.map(({ workingVolts }) => workingVolts));
    expect(told.diode).toBeNull();
    expect(told.capacitor).toEqual(balancing(2, plain.ladder.capacitor.ratedVolts!, across, 1e-7));
  });
});
