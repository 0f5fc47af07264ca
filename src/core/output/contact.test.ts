import { benchDesign } from '../../../tests/reference/bench-design';
import { finish } from '../numeric/finish';
import { predict } from '../predict/predict';
import { dischargeOf } from '../transient/discharge';
import { transientOf } from '../transient/transient';
import { contactOf, hungOn, shortedAmps } from './contact';

it('150 pF behind 10 M at 30 kV: 67.5 mJ, 4.5 uC, within 5 % after 4.5 ms', () =>
  expect(hungOn(150e-12, 30e3, 10e6)).toEqual({
    joules: expect.closeTo(67.5e-3, 12),
    coulombs: expect.closeTo(4.5e-6, 15),
    chargedSeconds: expect.closeTo(4.5e-3, 12),
  }));

it('a body behind a resistor, by hand', () => {
  // 40 kV through 1 MΩ and 500 to 2,000 Ω; of 4 J two thousandths of 1.002 MΩ.
  const contact = contactOf(40e3, 4, { seriesOhms: 1e6, count: 4 }, 1e-4);
  expect(contact.mostBodyAmps).toBeCloseTo(40e3 / 1.0005e6, 12);
  expect(contact.leastBodyAmps).toBeCloseTo(40e3 / 1.002e6, 12);
  expect(contact.shortAmps).toBeCloseTo(0.04, 12);
  expect(contact.bodyJoules).toBeCloseTo((4 * 2e3) / 1.002e6, 12);
  // Each of four: 10 kV shorted; 0.1 mA through 250 kΩ at the load.
  expect(contact.shortVoltsEach).toBe(10e3);
  expect(contact.loadVoltsEach).toBeCloseTo(25, 12);
  expect(contact.loadWattsEach).toBeCloseTo(2.5e-3, 12);
});

it('without a resistor a body takes all, and nothing limits a short', () => {
  expect(contactOf(10e3, 1, { seriesOhms: 0, count: 1 }, 1e-4)).toEqual({
    leastBodyAmps: 5,
    mostBodyAmps: 20,
    shortAmps: null,
    bodyJoules: 1,
    shortVoltsEach: null,
    loadVoltsEach: null,
    loadWattsEach: null,
    front: null,
  });
  expect(shortedAmps(1e4, 0)).toBeNull();
  expect(contactOf(0, 0, { seriesOhms: 1e6, count: 2 }, null)).toEqual({
    leastBodyAmps: 0,
    mostBodyAmps: 0,
    shortAmps: 0,
    bodyJoules: 0,
    shortVoltsEach: 0,
    loadVoltsEach: null,
    loadWattsEach: null,
    front: null,
  });
});

it('thirteen resistors of 850 kΩ let 15 mA out of 170 kV, 13 kV on each (common practice, no source)', () => {
  const ohms = 13 * 850e3;
  expect(ohms).toBe(11.05e6);
  const { mostBodyAmps, shortAmps, shortVoltsEach } = contactOf(170e3, 10, { seriesOhms: ohms, count: 13 }, null);
  expect(shortAmps! * 1e3).toBeCloseTo(15.4, 1);
  expect(shortVoltsEach! / 1e3).toBeCloseTo(13.1, 1);
  expect(mostBodyAmps / shortAmps!).toBeGreaterThan(0.9999);
});

it.each([
  [1, 0],
  [3, 10e3],
  [3, 1e6],
])('%d stages behind %d Ω: the engine’s discharge through a body stays under the bounds', (stages, seriesOhms) => {
  const design = benchDesign({ ladder: { stages }, output: { seriesOhms }, load: { kind: 'open' } });
  const { contact } = predict(design);
  const { nodes } = finish(transientOf(design, 100)).transient;
  const volts = new Map(nodes.map(({ id, meanVolts }) => [id, meanVolts]));
  const body = 2000;
  const ohms = seriesOhms + body;
  const { farads } = design.ladder.capacitor;
  const { samples, joules } = dischargeOf(design, volts, { ohms, seconds: 50 * ohms * farads, absorption: 0 });
  const share = body / ohms;
  expect(samples[0].volts / ohms).toBeLessThanOrEqual(contact.leastBodyAmps * 1.001);
  expect(samples[0].volts / ohms).toBeGreaterThan(0.97 * contact.leastBodyAmps);
  expect(joules.resistor * share).toBeLessThanOrEqual(contact.bodyJoules * 1.001);
  // The bound is near where one stage's capacitors give all they have.
  expect(joules.resistor * share).toBeGreaterThan(0.2 * contact.bodyJoules);
});
