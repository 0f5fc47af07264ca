import { driverSchema } from './driver-kinds';
import { supplySchema } from './supply';
import { newDesign } from '../design/new-design';
import { predict } from '../predict/predict';
import { phaseCut, phaseCutSamples } from './phase-cut';

const plain = newDesign('Dimmed');
const dimmed = (degrees: number) =>
  predict({
    ...plain,
    supply: supplySchema.parse({ kind: 'mains', dimmedDegrees: degrees }),
    driver: driverSchema.parse({ kind: 'mains', secondaryVolts: 1000 }),
  });

it.each([
  // Phase control of a resistive load at 0, 90 and 180 degrees: all, half and none of the power (handbook).
  [0, 1, Math.SQRT1_2],
  [90, 1, 0.5],
  [150, 0.5, 0.12],
  [180, 0, 0],
])('cut for %d degrees a sine keeps a peak of %d and an RMS of %d', (degrees, peak, rms) => {
  expect(phaseCut(degrees).peak).toBeCloseTo(peak, 9);
  expect(phaseCut(degrees).rms).toBeCloseTo(rms, 2);
});

it.each([30, 75, 120])('its samples have that RMS and peak at %d degrees, both halves alike', (degrees) => {
  const samples = phaseCutSamples(degrees, 100);
  const rms = Math.sqrt(samples.reduce((sum, volts) => sum + volts ** 2, 0) / samples.length);
  expect(Math.abs(rms / (100 * phaseCut(degrees).rms) - 1)).toBeLessThan(0.02);
  expect(Math.max(...samples) / (100 * phaseCut(degrees).peak)).toBeCloseTo(1, 9);
  expect(samples.reduce((sum, volts) => sum + volts, 0)).toBeCloseTo(0, 6);
});

it('before a ladder a dimmer does nothing to the output up to 90 degrees, then lowers it', () => {
  const at = (degrees: number) => dimmed(degrees).output.noLoadVolts;
  expect(at(80)).toBe(at(0));
  // The diodes’ drops are the same whatever the peak.
  expect((at(0) - at(150)) / (2 * 2 * 1000 * Math.SQRT2)).toBeCloseTo(0.5, 2);
  expect(dimmed(30).findings.map(({ code }) => code)).toEqual(
    expect.arrayContaining(['dimmer-before-transformer', 'sampled-as-sine']),
  );
});
