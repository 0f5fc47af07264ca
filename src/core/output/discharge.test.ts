import { designSchema } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { predict } from '../predict/predict';
import { dischargeOf } from '../transient/discharge';
import { sineDrive } from '../../../tests/reference/drives';
import { recorded } from '../../../tests/reference/recorded';
import { halfWaveNetwork } from '../topology/half-wave';
import { unloadedLadder } from '../ladder/unloaded';
import { bleedSeconds, storedCharge } from './discharge';

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

it.each([0.5, 1, 2, 3, 1.5])('%d stages: the bound is never under the integrated time, nor far over it', (stages) => {
  const { network, unloaded } = charged(stages);
  const bound = bleedSeconds(network, unloaded.capacitorVolts, unloaded.outputVolts, 1e9);
  const integrated = integratedBleed(stages, 1e9);
  expect(bound).toBeGreaterThan(integrated * 0.995);
  expect(bound).toBeLessThan(integrated * 1.25);
});

// The engine's steps of 6 % in time are the finest that can be told here.
it.each([1, 2, 4])(
  'driven in its middle, %d stages a side: the bound is never under what the engine takes',
  (stages) => {
    const bench = newDesign('two ends');
    const design = designSchema.parse({
      ...bench,
      driver: { ...bench.driver, positivePeakVolts: 1000, negativePeakVolts: 1000 },
      ladder: { ...bench.ladder, topology: 'two-ended', stages },
      output: { seriesOhms: 0, bleederOhms: 1e9 },
      load: { kind: 'open' },
    });
    const { energy, nodes } = predict(design);
    const charged = new Map(nodes.map(({ id, noLoadVolts }) => [id, noLoadVolts]));
    const alone = { ...design, output: { ...design.output, bleederOhms: null } };
    const { secondsTo60 } = dischargeOf(alone, charged, { ohms: 1e9, seconds: 30, absorption: 0 });
    expect(energy.bleedSeconds! / secondsTo60!).toBeGreaterThan(0.995);
    expect(energy.bleedSeconds! / secondsTo60!).toBeLessThan(3.5);
  },
);

it('nothing to wait for under 60 V', () => {
  const { network } = charged(1);
  expect(bleedSeconds(network, [20, 40], 40, 1e9)).toBe(0);
});

it('stores C V^2 / 2 in each and gives at most one stage of charge to a short', () => {
  const { network, unloaded } = charged(3);
  const stored = storedCharge(network, unloaded.capacitorVolts, unloaded.outputVolts);
  expect(stored.joules).toBeCloseTo((1e-9 * (1000 ** 2 + 5 * 2000 ** 2)) / 2, 12);
  expect(stored.terminalCoulombs).toBeCloseTo(4e-6, 12);
});

it('calls it hazardous over 45 microcoulomb up to 15 kV, over 350 mJ above (IEC 61010-1, from memory)', () => {
  const hazard = (stages: number, farads: number) => {
    const { network, unloaded } = charged(stages, farads);
    return storedCharge(network, unloaded.capacitorVolts, unloaded.outputVolts).hazardous;
  };
  expect(hazard(3, 11e-9)).toBe(false);
  expect(hazard(3, 12e-9)).toBe(true);
  expect(hazard(10, 18e-9)).toBe(true);
  expect(hazard(10, 5e-9)).toBe(false);
});
