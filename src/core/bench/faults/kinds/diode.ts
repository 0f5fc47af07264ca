import { joined, turnedDiode, unitSiemens, wired, withoutDiode } from '../circuit-changes';
import type { FaultKind, TestBench } from '../fault';

const places = ({ network }: TestBench) => network.diodes.map(({ id }) => id);
const indexOf = ({ network }: TestBench, place: string) => network.diodes.findIndex(({ id }) => id === place);
const stageOf = ({ network }: TestBench, place: string) => network.diodes.find(({ id }) => id === place)?.stage ?? 0;

const OUT_OF_CIRCUIT =
  'Lift one end and read its drop both ways; a stick of many junctions passes nothing under its own drop, so put batteries of more volts than that and 100 kΩ in series with it, and read the current instead.';

export const diodeOpen: FaultKind = {
  id: 'diode-open',
  said: (place) => `${place} open`,
  places,
  degree: null,
  apply: (bench, place) => ({ ...bench, circuit: withoutDiode(bench.circuit, indexOf(bench, place)) }),
  why: (place, bench) =>
    `No charge comes past ${place}, in stage ${stageOf(bench, place)}: what is above it floats, and drains through the meter.`,
  confirm: (place) => `${place}: no current either way. ${OUT_OF_CIRCUIT}`,
  besides:
    'At full drive and load the capacitors on both sides of it may take twice their voltage, and the gap in it may arc.',
  shownBy: 'its own voltage, or full load',
};

export const diodeShorted: FaultKind = {
  id: 'diode-shorted',
  said: (place) => `${place} shorted`,
  places,
  degree: null,
  apply: (bench, place) => {
    const { anode, cathode } = bench.circuit.diodes[indexOf(bench, place)];
    return { ...bench, circuit: wired(bench.circuit, anode, cathode) };
  },
  why: (place, bench) =>
    `What goes up past ${place} comes back through it: the rung at stage ${stageOf(bench, place)} holds both columns together, so nothing climbs there.`,
  confirm: (place) => `${place}: next to no resistance both ways, out of circuit.`,
  besides:
    'Its neighbours took twice their step and the surge of the short; check them as well. At full drive they go next.',
  shownBy: 'its resistance out of circuit',
};

export const diodeReversed: FaultKind = {
  id: 'diode-reversed',
  said: (place) => `${place} the wrong way round`,
  places,
  degree: null,
  often: 3,
  apply: (bench, place) => ({ ...bench, circuit: turnedDiode(bench.circuit, indexOf(bench, place)) }),
  why: (place, bench) =>
    `${place}, in stage ${stageOf(bench, place)}, lets charge back instead of on: what is above gets none of it, and what is below gives it away.`,
  confirm: (place) => `${place}: compare its band with its neighbours’, then read its drop both ways.`,
  besides: 'Nothing at low voltage; at full drive it shorts a stage with every period, and the winding with it.',
  shownBy: 'its band',
};

export const diodeLeaky: FaultKind = {
  id: 'diode-leaky',
  said: (place) => `${place} leaky, or its rung bridged`,
  places,
  degree: { least: 0.002, most: 3, unit: 'Ω', isLogarithmic: true },
  apply: (bench, place, degree) => {
    const { circuit } = bench;
    const { anode, cathode } = circuit.diodes[indexOf(bench, place)];
    return { ...bench, circuit: joined(circuit, anode, cathode, degree * unitSiemens(circuit)) };
  },
  why: (place, bench) =>
    `Part of what goes up past ${place} in stage ${stageOf(bench, place)} comes back between the periods, through the diode itself or a track beside it.`,
  confirm: (place) =>
    `${place}: its current the wrong way at some tens of volts, out of circuit; then the board under it, cleaned and dry.`,
  besides: 'It heats as it leaks, and shorts in time; a track beside it carbonises.',
  shownBy: 'its resistance out of circuit, or the output under load',
};
