import { benchDesign } from '../../../tests/reference/bench-design';
import { chargedOf } from '../dead/charged';
import type { Design } from '../design/design-schema';
import { predict } from '../predict/predict';
import { Falling } from '../transient/falling';
import { atRest } from '../topology/at-rest';
import { sineDrive } from '../../../tests/reference/drives';
import { recorded } from '../../../tests/reference/recorded';
import { halfWaveNetwork } from '../topology/half-wave';
import { unloadedLadder } from '../ladder/unloaded';
import { bleedSeconds } from './bleed';

const charged = (stages: number, farads = 1e-9) => {
  const network = halfWaveNetwork(stages, farads);
  return { network, unloaded: unloadedLadder(network, sineDrive(1000, 1e3), 0, 0) };
};

/** Time to 60 V by small steps: the bleeder draws from the smoothing column; diodes join what would stand reversed. */
function integrateBleed(stages: number, ohms: number): number {
  const { network, unloaded } = charged(stages);
  const index = new Map(network.nodes.map((node, at) => [node.id, at]));
  const capacitorVolts = [...unloaded.capacitorVolts];
  const farads = network.capacitors[0].farads;
  const nodeVolts = () => {
    const volts = new Array<number>(network.nodes.length).fill(0);
    network.capacitors.forEach((part, at) => {
      volts[index.get(part.upper)!] = volts[index.get(part.lower)!] + capacitorVolts[at];
    });
    return volts;
  };
  /** Moves charge q out of one node into another through the columns' capacitors. */
  const move = (from: string, to: string, coulombs: number) => {
    for (const [node, sign] of [
      [from, -1],
      [to, 1],
    ] as const) {
      let at = node;
      while (at !== 'ground' && at !== 'source') {
        const part = network.capacitors.findIndex((candidate) => candidate.upper === at);
        capacitorVolts[part] += (sign * coulombs) / farads;
        at = network.capacitors[part].lower;
      }
    }
  };
  const step = (ohms * farads) / 2000;
  let seconds = 0;
  for (; nodeVolts()[index.get(network.output)!] > 60; seconds += step) {
    move(network.output, 'ground', (nodeVolts()[index.get(network.output)!] / ohms) * step);
    for (let sweep = 0; sweep < 60; sweep += 1)
      for (const diode of network.diodes) {
        const volts = nodeVolts();
        const forward = volts[index.get(diode.anode)!] - volts[index.get(diode.cathode)!];
        if (forward > 1e-6) move(diode.anode, diode.cathode, (forward * farads) / 6);
      }
  }
  return seconds;
}

/** The same from what was written down of it. */
const integratedBleed = recorded('bleed', integrateBleed);

it('the integration gives today what was written down', () =>
  expect(integrateBleed(0.5, 1e9)).toBeCloseTo(integratedBleed(0.5, 1e9), 9));

it.each([0.5, 1, 2, 3, 1.5])('%d stages: the time is that of an integration by small steps, within 1 %%', (stages) => {
  const { network, unloaded } = charged(stages);
  const seconds = bleedSeconds(network, unloaded.capacitorVolts, unloaded.outputVolts, 1e9);
  expect(seconds / integratedBleed(stages, 1e9)).toBeGreaterThan(0.99);
  expect(seconds / integratedBleed(stages, 1e9)).toBeLessThan(1.01);
});

/** Time the engine takes to 60 V, s, carried on from two lengths of step. */
function engineSeconds(design: Design, most: number): number {
  const { network, volts } = chargedOf(design);
  const [coarse, fine] = [320, 640].map((steps) => {
    const falling = new Falling(design, design.output, atRest(network, volts), most);
    let before = { seconds: 0, volts: falling.terminalVolts() };
    let found = Infinity;
    falling.run(steps, (seconds) => {
      const now = { seconds, volts: falling.terminalVolts() };
      if (found === Infinity && now.volts < 60)
        found =
          before.seconds +
          ((now.seconds - before.seconds) * Math.log(before.volts / 60)) / Math.log(before.volts / now.volts);
      before = now;
    });
    return found;
  });
  return 2 * fine - coarse;
}

it.each([
  ['half-wave', 2.5, 'equal', 0],
  ['half-wave', 4.5, 'equal', 20e-9],
  ['half-wave', 4, 'tapered', 0],
  ['half-wave', 3, 'tapered', 100e-9],
  ['half-wave', 4, 'first-doubled', 0],
  ['half-wave', 3, 'equal', 60e-9],
  ['half-wave', 12, 'equal', 16e-9],
  ['full-wave', 3, 'equal', 16e-9],
  ['full-wave', 3, 'tapered', 0],
  ['bipolar', 3, 'equal', 16e-9],
  ['bipolar', 2, 'tapered', 0],
  ['two-ended', 1, 'equal', 0],
  ['two-ended', 3, 'equal', 20e-9],
  ['bridge-doubler', 1, 'equal', 10e-9],
  ['clamp', 1, 'equal', 0],
] as const)(
  '%s, %p stages, %s, %d F behind: the time is what the engine takes, within 0.5 %%',
  (topology, stages, grading, electrodeFarads) => {
    const design = benchDesign({
      driver: { positivePeakVolts: 5e3, frequencyHertz: 30e3 },
      ladder: { topology, stages, grading, capacitor: { farads: 10e-9, ratedVolts: 15e3 } },
      output: { electrodeFarads, bleederOhms: 1e9 },
    });
    const seconds = predict(design).energy.bleedSeconds!;
    expect(Math.abs(seconds / engineSeconds(design, seconds * 1.5) - 1)).toBeLessThan(0.005);
  },
);

it('diode drops leave less to wait for, and values of all sizes have a time', () => {
  const of = (forwardVolts: number) => {
    const design = benchDesign({
      driver: { positivePeakVolts: 5e3, frequencyHertz: 30e3 },
      ladder: { topology: 'half-wave', stages: 4, capacitor: { farads: 10e-9, ratedVolts: 15e3 } },
      diode: { forwardVolts },
      output: { bleederOhms: 1e9 },
    });
    return { seconds: predict(design).energy.bleedSeconds!, engine: engineSeconds(design, 100) };
  };
  expect(of(30).seconds / of(30).engine).toBeGreaterThan(1);
  const { network, unloaded } = charged(3);
  const odd = {
    ...network,
    capacitors: network.capacitors.map((part, at) => ({ ...part, farads: 10 ** (9 * at - 30) })),
  };
  const seconds = bleedSeconds(odd, unloaded.capacitorVolts, unloaded.outputVolts, 1e9);
  expect([Number.isFinite(seconds), seconds > 0]).toEqual([true, true]);
});

it('nothing to wait for under 60 V', () => {
  const { network } = charged(1);
  expect(bleedSeconds(network, [20, 40], 40, 1e9)).toBe(0);
});
