import { benchDesign } from '../../../tests/reference/bench-design';
import { predict } from '../predict/predict';
import { chargeUpOf } from './charge-up';
import { dischargeOf } from './discharge';
import { eventBeside, motionOf, placeAt, positionAt, valueAt } from './motion';
import { transientOf } from './transient';
import { finish } from '../numeric/finish';

const design = benchDesign({
  ladder: { stages: 2 },
  load: { kind: 'resistance', ohms: 2000 },
  driver: { seriesOhms: 0.5 },
});
const prediction = predict(design);
const settled = finish(transientOf(design, 200));
const start = new Map(settled.transient.nodes.map(({ id, meanVolts }) => [id, meanVolts]));
const motions = {
  settled: motionOf(prediction, settled.waveforms, 'settled'),
  'charge-up': motionOf(
    prediction,
    finish(chargeUpOf(design, settled.transient.terminalMeanVolts, false)).moments,
    'charge-up',
  ),
  discharge: motionOf(
    prediction,
    dischargeOf(design, start, { ohms: 10, seconds: 60, absorption: 0 }).moments,
    'discharge',
  ),
};

/** Charge that flows through a part over the whole motion, A s. */
const charge = (times: Float64Array, amps: Float64Array) =>
  amps.reduce((sum, now, at) => sum + now * (times[at] - (at > 0 ? times[at - 1] : 0)), 0);

describe('the settled period', () => {
  const { settled: motion } = motions;

  it('has each diode start once and stop once', () => {
    for (const { id } of prediction.diodes) {
      expect(motion.events.filter(({ starts }) => starts.includes(id))).toHaveLength(1);
      expect(motion.events.filter(({ stops }) => stops.includes(id))).toHaveLength(1);
    }
    expect(motion.cycles).toBe(1);
  });

  it('has the two kinds of diodes conduct by turns, each where its two ends meet', () => {
    motion.diodes.forEach(({ conducts }, index) => {
      const { anode, cathode } = prediction.diodes[index];
      const other = motion.diodes[(index + 1) % 4];
      conducts.forEach((on, frame) => {
        if (!on) return;
        expect(other.conducts[frame]).toBe(0);
        expect(motion.nodes.get(anode)![frame]).toBeGreaterThanOrEqual(motion.nodes.get(cathode)![frame]);
      });
    });
  });

  it('leaves every capacitor the charge it had, and takes through the diodes what the load draws', () => {
    const drawn = settled.transient.amps * motion.times[motion.times.length - 1];
    for (const { amps } of motion.capacitors) expect(Math.abs(charge(motion.times, amps))).toBeLessThan(1e-3 * drawn);
    for (const { amps } of motion.diodes) expect(charge(motion.times, amps) / drawn).toBeCloseTo(1, 1);
  });
});

describe('the charge-up', () => {
  const { 'charge-up': motion } = motions;

  it('goes from nothing to the settled output, time never back', () => {
    expect(motion.output[0]).toBe(0);
    expect(motion.output[motion.output.length - 1]).toBeGreaterThan(0.9 * settled.transient.minVolts);
    motion.times.forEach((seconds, frame) => frame === 0 || expect(seconds).toBeGreaterThan(motion.times[frame - 1]));
  });

  it('lifts stage after stage', () => {
    const halfway = ['C2', 'C4'].map((id) => {
      const { volts } = motion.capacitors.find((part) => part.id === id)!;
      return volts.findIndex((now) => now > volts[volts.length - 1] / 2);
    });
    expect(halfway[0]).toBeLessThan(halfway[1]);
  });

  it('keeps no more than it can show, however long the run', () => {
    const slow = benchDesign({ ladder: { stages: 8 }, load: { kind: 'resistance', ohms: 1e5 } });
    const { terminalMeanVolts } = finish(transientOf(slow, 64)).transient;
    const exact = finish(chargeUpOf(slow, terminalMeanVolts, true));
    expect(exact.periods).toBeGreaterThan(200);
    const { times, nodes } = exact.moments;
    expect(times.length).toBeLessThanOrEqual(161 * 25);
    const last = nodes.get(predict(slow).terminals.output)!;
    expect(last[last.length - 1] / exact.samples[exact.samples.length - 1].meanVolts).toBeCloseTo(1, 1);
    times.forEach((seconds, at) => at === 0 || expect(seconds).toBeGreaterThan(times[at - 1]));
  });
});

it('the discharge falls all the way, its diodes giving what upper stages hold', () => {
  const { discharge: motion } = motions;
  motion.output.forEach((volts, frame) => frame === 0 || expect(volts).toBeLessThanOrEqual(motion.output[frame - 1]));
  expect(motion.events.flatMap(({ starts }) => starts).length).toBeGreaterThan(0);
});

describe('places in a motion', () => {
  const { settled: motion } = motions;

  it('a time leads to its position and back', () => {
    for (const seconds of [motion.times[0], motion.times[57], motion.times[motion.times.length - 1]])
      expect(valueAt(motion.times, placeAt(motion, positionAt(motion, seconds)))).toBeCloseTo(seconds, 12);
  });

  it.each([
    [-1, 0],
    [2, motion.times.length - 1],
  ])('a position of %d is held at the end', (position, frame) => {
    const place = placeAt(motion, position);
    expect(valueAt(motion.times, place)).toBe(motion.times[frame]);
  });

  it('steps from event to event, around a period and back', () => {
    const first = eventBeside(motion, -1, 1);
    let at = first;
    for (let count = 0; count < motion.events.length; count += 1) at = eventBeside(motion, at, 1);
    expect(at).toBe(first);
    expect(eventBeside(motion, eventBeside(motion, first, 1), -1)).toBe(first);
  });

  it('steps to the ends of a run that does not repeat', () => {
    expect(eventBeside(motions['charge-up'], 1, 1)).toBe(1);
    expect(eventBeside(motions['charge-up'], 0, -1)).toBe(0);
  });
});
