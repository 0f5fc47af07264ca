import { loadAmpsAt, loadSchema } from '../load-kinds';
import { biasString, stringFigures } from './bias-string';

const string = (change: object = {}) =>
  biasString.schema.parse({ kind: 'bias-string', ohms: 10e6, steps: 10, tubeAmps: 10e-6, ...change });

it('ten resistors of 1 M at 1,000 V: 100 V and 10 mW each, ten times what a tube of 10 uA takes', () => {
  expect(stringFigures(string(), 1000)).toEqual({ voltsEach: 100, wattsEach: 0.01, stringAmps: 1e-4, overTube: 10 });
  expect(stringFigures(string({ tubeAmps: 0 }), 1000).overTube).toBeNull();
});

it('behind a resistor draws what string and tube take of the voltage that is left', () => {
  for (const [volts, seriesOhms] of [
    [1000, 0],
    [1000, 1e6],
    [1200, 5e6],
  ]) {
    const amps = loadAmpsAt(string(), volts, seriesOhms);
    const left = volts - amps * seriesOhms;
    expect(amps).toBeCloseTo(left / 10e6 + 10e-6, 15);
  }
});

it('in the time domain draws the same, and is a resistance alone where the tube takes nothing', () => {
  const branch = biasString.branch(string(), 1000)!;
  expect(branch.amps(1000, false)).toBeCloseTo(110e-6, 12);
  expect(branch.slope(1000, false)).toBeCloseTo(1e-7, 15);
  expect(branch.amps(0, false)).toBe(0);
  expect(biasString.branch(string({ tubeAmps: 0 }), 1000)).toBeNull();
  expect(biasString.ohms(string({ tubeAmps: 0 }))).toBe(10e6);
});

it('refuses no steps, and a tube that gives current', () => {
  for (const change of [{ steps: 0 }, { tubeAmps: -1e-6 }, { ohms: 0 }])
    expect(loadSchema.safeParse({ ...string(), ...change }).success).toBe(false);
});
