import type { Design } from '../../design/design-schema';
import type { Meter } from '../../drive/meter-sense';
import type { Circuit } from '../../transient/circuit';
import { closedReadings, statedOf, unknownsOf, usualSpread, type Point } from '../fit-model';
import type { LowSource } from '../low-source';
import type { ProvingTest } from '../proving';
import type { TestBench } from './fault';

/** How far things may be off that are no fault, each as a standard deviation: what a fit of readings knows as well. */
export type Nuisance = {
  /** Of all voltages of the ladder, as a fraction: the source, and what its resistance costs. */
  drive: number;
  /** Of every diode's drop, as a fraction. */
  forward: number;
  /** Of each capacitor by itself, and of all together, as a fraction. */
  farads: number;
  /** Of the meter's resistance, as a fraction. */
  meter: number;
  /** Of the capacitance of each node to ground, F. */
  strays: number;
  /** Of the conductance past each capacitor, S. */
  leak: number;
};

/** A low test: of its plan the taps. */
type NuisanceOf = { design: Design; source: LowSource; meter: Meter; test: Pick<ProvingTest, 'taps'> };

/** A tolerance's standard deviation, its values taken as even within the limits (JCGM 100:2008 4.3.7, from memory). */
const EVEN = 1 / Math.sqrt(3);

/** What is no fault: a winding was measured, the design's own drive is as its spread says; the rest as a fit takes it. */
export function nuisanceOf({ design, source, meter, test }: NuisanceOf): Nuisance {
  const { spread, ladder } = design;
  const top = test.taps.at(-1)?.node;
  const point: Point = { kind: 'tap', node: top ?? '', source, meter };
  const usual = usualSpread(design, [point]);
  const drive = source.kind === 'winding' ? meter.accuracy : spread.peaks;
  return {
    drive: EVEN * Math.hypot(drive, top === undefined ? 0 : lostToSource(design, point, usual.ohms)),
    forward: EVEN * spread.forward,
    farads: EVEN * ladder.capacitor.tolerance,
    meter: EVEN * usual.meter,
    strays: EVEN * usual.strays,
    leak: EVEN * usual.leak,
  };
}

/** Of what the meter reads there, what so much more resistance of the source takes, as a fraction; none where nothing is known of that. */
function lostToSource(design: Design, point: Point, ohms: number): number {
  if (!unknownsOf(design, [point]).includes('ohms')) return 0;
  const stated = statedOf(design);
  const [before] = closedReadings(design, [point], stated) ?? [0];
  const [after] = closedReadings(design, [point], { ...stated, ohms }) ?? [before];
  return before > 0 ? (before - after) / before : 0;
}

/** Benches that are off by one standard deviation in what no single part is to blame for. */
export function benchesOff(bench: TestBench, nuisance: Nuisance): TestBench[] {
  const { circuit, network, meter } = bench;
  const withCircuit = (changed: Partial<Circuit>): TestBench => ({ ...bench, circuit: { ...circuit, ...changed } });
  const nodes = network.nodes.flatMap(({ id }) => circuit.place.get(id) ?? []).filter((at) => at >= 0);
  const ladder = circuit.capacitors.slice(0, circuit.ladderCapacitors);
  const [more, others] = [1 + nuisance.farads, circuit.capacitors.slice(circuit.ladderCapacitors)];
  return [
    withCircuit({
      diodes: circuit.diodes.map((one) => ({ ...one, forwardVolts: one.forwardVolts * (1 + nuisance.forward) })),
    }),
    withCircuit({ capacitors: [...ladder.map((one) => ({ ...one, farads: one.farads * more })), ...others] }),
    withCircuit({
      capacitors: [...circuit.capacitors, ...nodes.map((from) => ({ from, to: -1, farads: nuisance.strays }))],
    }),
    withCircuit({
      resistors: [...circuit.resistors, ...ladder.map(({ from, to }) => ({ from, to, siemens: nuisance.leak }))],
    }),
    { ...bench, meter: { ...meter, inputOhms: meter.inputOhms * (1 + nuisance.meter) } },
  ];
}
