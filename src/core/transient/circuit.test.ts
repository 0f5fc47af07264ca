import { sineDrive } from '../../../tests/reference/drives';
import type { Load } from '../load/load-kinds';
import { outputElements } from '../output/elements';
import { bipolarNetwork } from '../topology/bipolar';
import { fullWaveNetwork } from '../topology/full-wave';
import { halfWaveNetwork } from '../topology/half-wave';
import type { LadderNetwork } from '../topology/network';
import { circuitOf } from './ladder-circuit';

const parts = {
  forwardVolts: 0.5,
  strayFarads: 1e-12,
  onOhms: 1e4,
  leakSiemens: 1e-9,
  transitSeconds: 0,
  junctionSteps: [],
};
const bare = { seriesOhms: 0, bleederOhms: null };
const make = (network: LadderNetwork, seriesOhms: number, load: Load = { kind: 'open' }, output: object = {}) =>
  circuitOf(network, sineDrive(1000, 1e4, seriesOhms), parts, outputElements({ ...bare, ...output }, load));

it('numbers every node that is not known, the source only behind a resistance', () => {
  expect(make(halfWaveNetwork(3, 1e-9), 0).names).toHaveLength(6);
  const behind = make(halfWaveNetwork(3, 1e-9), 100);
  expect(behind.names).toHaveLength(7);
  expect(behind.names).toContain('source');
  expect(behind.inductors).toEqual([
    {
      terms: [
        { node: -2, weight: 1 },
        { node: behind.place.get('source'), weight: -1 },
      ],
      ohms: 100,
      henries: 0,
      dampingSiemens: 0,
      saturation: null,
    },
  ]);
});

it('knows both halves of a centre-tapped winding by their signs', () => {
  const stiff = make(fullWaveNetwork(2, 1e-9), 0);
  expect(stiff.known).toEqual([
    { drive: 1, volts: 0 },
    { drive: -1, volts: 0 },
  ]);
  expect(stiff.sources).toEqual({ stiff: true, count: 2 });
  const resistive = make(fullWaveNetwork(2, 1e-9), 50);
  expect(resistive.known.map(({ drive }) => drive)).toEqual([1, -1]);
  expect(resistive.sources).toEqual({ stiff: false, count: 2 });
});

it('puts a stray across every diode, behind the ladder’s own capacitors', () => {
  const circuit = make(bipolarNetwork(2, 1e-9), 10);
  expect(circuit.ladderCapacitors).toBe(8);
  expect(circuit.capacitors).toHaveLength(16);
  circuit.diodes.forEach(({ anode, cathode }, at) =>
    expect(circuit.capacitors[8 + at]).toEqual({ from: anode, to: cathode, farads: 1e-12 }),
  );
});

it('gives the load a node of its own behind a series resistor, when there is a load', () => {
  const load: Load = { kind: 'resistance', ohms: 1e9 };
  const without = make(halfWaveNetwork(1, 1e-9), 10, load);
  expect(without.load).toBe(without.output);
  const behind = make(halfWaveNetwork(1, 1e-9), 10, load, { seriesOhms: 1e6, bleederOhms: 1e10 });
  expect(behind.load).toBe(behind.place.get('load'));
  expect(behind.resistors.map((part) => Math.round(1 / part.siemens)).sort((a, b) => a - b)).toEqual([1e6, 1e9, 1e10]);
  expect(make(halfWaveNetwork(1, 1e-9), 10, { kind: 'open' }, { seriesOhms: 1e6 }).place.has('load')).toBe(false);
});

it('gives a diode without on-resistance one that changes no output, and every diode a leak', () => {
  const { diodes } = circuitOf(
    halfWaveNetwork(2, 1e-9),
    sineDrive(1000, 1e4),
    { ...parts, onOhms: 0, leakSiemens: 0 },
    outputElements(bare, { kind: 'open' }),
  );
  // f C is 1e-5 S here.
  for (const diode of diodes) {
    expect(diode.onSiemens).toBeCloseTo(0.5, 12);
    expect(diode.leakSiemens).toBeCloseTo(1e-12, 18);
  }
});

it('every load but an open one, a resistance and a meter stands among the loads', () => {
  const kinds: [Load, number, number][] = [
    [{ kind: 'open' }, 0, 0],
    [{ kind: 'current', amps: 1e-6 }, 1, 0],
    [{ kind: 'resistance', ohms: 1e9 }, 0, 1e-9],
    [{ kind: 'meter', ohms: 1e7 }, 0, 1e-7],
    [{ kind: 'corona', onsetVolts: 100, ampsPerSquareVolt: 1e-12 }, 1, 0],
    [{ kind: 'gap', strikeVolts: 100, arcOhms: 1000, quenchAmps: 1e-3 }, 1, 0],
  ];
  for (const [load, loads, siemens] of kinds) {
    const circuit = make(halfWaveNetwork(1, 1e-9), 0, load);
    expect(circuit.loads).toHaveLength(loads);
    expect(circuit.loadSiemens).toBeCloseTo(siemens, 18);
  }
});
