import { benchDesign } from '../../../../tests/reference/bench-design';
import { integrateCircuit, type PlainCircuit } from '../../../../tests/reference/faulty-ladder';
import { meterSchema } from '../../drive/meter-sense';
import { finish } from '../../numeric/finish';
import type { Circuit } from '../../transient/circuit';
import { settledNear } from '../../transient/settled-near';
import { lowSourceSchema } from '../low-source';
import { ChargeBalance, leakingLeast } from './charge-balance';
import { unitSiemens } from './circuit-changes';
import type { TestBench } from './fault';
import { degreeAt, FAULT_KINDS, singleFaults, withFault, withFaults } from './faults';
import { soundBenchOf, type SoundBench } from './read-through';

const METER = meterSchema.parse({ inputOhms: 1e6, inputFarads: 0 });
const soundOf = (topology: string, stages: number): SoundBench =>
  soundBenchOf(
    benchDesign({
      driver: { positivePeakVolts: 5e3, frequencyHertz: 30e3 },
      ladder: { topology, stages, capacitor: { farads: 100e-9 } },
      diode: { forwardVolts: 0.5 },
    }),
    lowSourceSchema.parse({ kind: 'winding', rmsVolts: 12, hertz: 500, ohms: 50 }),
    METER,
    { source: null, taps: [] },
  )!;

/** With a meter on the output, and nothing in it that lies too far apart in size to be integrated: an open capacitor keeps 3 %. */
function tamed(bench: TestBench): Circuit {
  const { circuit } = bench;
  const unit = unitSiemens(circuit);
  const least = 0.03 * Math.max(...circuit.capacitors.map(({ farads }) => farads));
  return leakingLeast({
    ...circuit,
    capacitors: circuit.capacitors.map((one) => ({ ...one, farads: Math.max(one.farads, least) })),
    resistors: [
      ...circuit.resistors.map((one) => ({ ...one, siemens: Math.min(one.siemens, 100 * unit) })),
      { from: circuit.output, to: -1, siemens: 1 / bench.meter.inputOhms },
    ],
  });
}

const balancedOf = (circuit: Circuit, bench: TestBench) => new ChargeBalance(circuit, bench.peaks).balanced()!.means;

describe('one fault of each kind that changes the circuit, beside odex and the engine', () => {
  const sound = soundOf('half-wave', 2);
  const changing = FAULT_KINDS.flatMap((kind) => {
    const places = kind.places(sound.bench);
    const place = places[Math.floor(places.length / 2)];
    if (place === undefined) return [];
    const bench = withFault(sound.bench, { kind: kind.id, place, degree: degreeAt(kind, 0.6) });
    const isOther =
      bench.circuit !== sound.bench.circuit || bench.peaks !== sound.bench.peaks || bench.meter !== sound.bench.meter;
    return isOther ? [[`${kind.id} ${place}`, bench] as const] : [];
  });

  it.each([['sound', sound.bench] as const, ...changing])('%s', (name, bench) => {
    const circuit = tamed(bench);
    const fed = circuit.inductors.map(({ terms }) => terms.at(-1)!.node);
    const plain: PlainCircuit = {
      hertz: circuit.hertz,
      names: circuit.names,
      capacitors: circuit.capacitors,
      resistors: [
        ...circuit.resistors,
        ...circuit.diodes.map(({ anode, cathode, leakSiemens }) => ({
          from: anode,
          to: cathode,
          siemens: leakSiemens,
        })),
      ],
      diodes: circuit.diodes,
      peaks: bench.peaks,
      fed,
    };
    const balanced = balancedOf(circuit, bench);
    const { positivePeakVolts } = sound.drive;
    const negative = Math.max(bench.peaks.negative, 1e-3);
    const drive = { ...sound.drive, positivePeakVolts: bench.peaks.positive, negativePeakVolts: negative };
    const engine = finish(settledNear(circuit, drive, balanced));
    expect(engine === null).toBe(name.startsWith('rectifier-inside'));
    const integrated = integrateCircuit(plain, [...balanced].map(Math.round), 120);
    const steady = bench.network.nodes.filter(({ column }) => column === 'smoothing').map(({ id }) => id);
    // Source and diodes of some ohms, which the charge balance leaves out, soft diodes: a few hundredths of the peak.
    integrated.forEach((volts, at) => {
      // Where a meter reads dc. Nodes that swing have the mean of the drive's own form.
      if (!steady.includes(circuit.names[at])) return;
      expect(Math.abs(balanced[at] - volts)).toBeLessThan(0.08 * positivePeakVolts);
      if (engine) expect(Math.abs(engine[at] - volts)).toBeLessThan(0.08 * positivePeakVolts);
    });
  });
});

it('a meter on a node is the same as a circuit that has it, with every fault and at every node', () => {
  const sound = soundOf('full-wave', 3);
  const [ohms, farads] = [2e6, 50e-9];
  let most = 0;
  for (const faults of [[], ...singleFaults(sound.bench)]) {
    const bench = withFaults(sound.bench, faults.slice(0, 1));
    const { circuit } = bench;
    const bare = new ChargeBalance(circuit, bench.peaks);
    for (const node of circuit.names.keys()) {
      const metered = {
        ...circuit,
        resistors: [...circuit.resistors, { from: node, to: -1, siemens: 1 / ohms }],
        capacitors: [...circuit.capacitors, { from: node, to: -1, farads }],
      };
      const whole = balancedOf(metered, bench);
      const changed = bare.withMeter(node, 1 / ohms, farads)!.means;
      whole.forEach((volts, at) => (most = Math.max(most, Math.abs(volts - changed[at]))));
    }
  }
  expect(most).toBeLessThan(1e-4 * sound.peakVolts);
});
