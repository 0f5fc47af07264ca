import { joined, unitSiemens, wired, withFarads, withoutCapacitor } from '../circuit-changes';
import type { FaultKind, TestBench } from '../fault';

const places = ({ network }: TestBench) => network.capacitors.map(({ id }) => id);
const indexOf = ({ network }: TestBench, place: string) => network.capacitors.findIndex(({ id }) => id === place);
const stageOf = ({ network }: TestBench, place: string) =>
  network.capacitors.find(({ id }) => id === place)?.stage ?? 0;

export const capacitorOpen: FaultKind = {
  id: 'capacitor-open',
  said: (place) => `${place} open`,
  places,
  degree: null,
  apply: (bench, place) => ({ ...bench, circuit: withoutCapacitor(bench.circuit, indexOf(bench, place)) }),
  why: (place, bench) =>
    `Nothing alternates past ${place} in stage ${stageOf(bench, place)}: what is connected to it no longer swings with the drive, or no longer holds.`,
  confirm: (place) => `${place}: its capacitance out of circuit, next to none.`,
  besides: 'A break in it arcs at full drive; the diodes beside it then stand at more than their step.',
  shownBy: 'its capacitance, or the ripple under load',
};

export const capacitorShorted: FaultKind = {
  id: 'capacitor-shorted',
  said: (place) => `${place} shorted`,
  places,
  degree: null,
  apply: (bench, place) => {
    const { from, to } = bench.circuit.capacitors[indexOf(bench, place)];
    return { ...bench, circuit: wired(bench.circuit, from, to) };
  },
  why: (place, bench) =>
    `${place} holds nothing: the two nodes beside it in stage ${stageOf(bench, place)} stand at the same voltage.`,
  confirm: (place) => `${place}: next to no resistance, out of circuit.`,
  besides:
    'Its voltage fell on its neighbours of the column, and its charge went through the diodes beside it; check both.',
  shownBy: 'its resistance out of circuit',
};

export const capacitorLow: FaultKind = {
  id: 'capacitor-low',
  said: (place) => `${place} far below its value`,
  places,
  degree: { least: 0.03, most: 0.5, unit: '%', isLogarithmic: true },
  apply: (bench, place, degree) => ({ ...bench, circuit: withFarads(bench.circuit, indexOf(bench, place), degree) }),
  why: (place, bench) =>
    `${place} in stage ${stageOf(bench, place)} passes on less in a period than its neighbours: what is above droops under the meter’s own current.`,
  confirm: (place) => `${place}: its capacitance out of circuit; a class 2 ceramic has less still at working voltage.`,
  besides: 'Nothing; under load the output droops and ripples more than computed.',
  shownBy: 'its capacitance, or droop and ripple under load',
};

export const capacitorLeaky: FaultKind = {
  id: 'capacitor-leaky',
  said: (place) => `${place} leaky`,
  places,
  degree: { least: 0.002, most: 3, unit: 'Ω', isLogarithmic: true },
  apply: (bench, place, degree) => {
    const { circuit } = bench;
    const { from, to } = circuit.capacitors[indexOf(bench, place)];
    return { ...bench, circuit: joined(circuit, from, to, degree * unitSiemens(circuit)) };
  },
  why: (place, bench) => `${place} in stage ${stageOf(bench, place)} loses some of its charge between the periods.`,
  confirm: (place) =>
    `${place}: out of circuit, charge it through 1 MΩ to a voltage that the meter takes, take the source off and read whether it falls faster than the meter’s own resistance lets it; at working voltage it may leak more.`,
  besides: 'It heats and breaks down in time, at its working voltage first.',
  shownBy: 'its leakage at working voltage',
};
