import { joined, turnedDiode, unitSiemens, wired, withoutGround } from '../circuit-changes';
import type { FaultKind, TestBench } from '../fault';

const nodesOf = ({ network }: TestBench) =>
  network.nodes.filter(({ column }) => column !== 'ground' && column !== 'source').map(({ id }) => id);
const NOWHERE = [''] as const;

export const nodeToGround: FaultKind = {
  id: 'node-to-ground',
  said: (place) => `${place} leaks to ground`,
  places: nodesOf,
  degree: { least: 0.0005, most: 1, unit: 'Ω', isLogarithmic: true },
  apply: (bench, place, degree) => {
    const { circuit } = bench;
    return { ...bench, circuit: joined(circuit, circuit.place.get(place)!, -1, degree * unitSiemens(circuit)) };
  },
  why: (place) => `Something draws a current from ${place}: a track, damp, corona, or a wire that lies too near.`,
  confirm: (place) =>
    `${place} against ground with an insulation tester, at no more than the parts there are rated for; then the board under it, cleaned and dry.`,
  besides: 'A track carbonises and becomes a short.',
  shownBy: 'the current drawn at full drive, or a glow in the dark from a distance,',
};

export const stageReversed: FaultKind = {
  id: 'stage-reversed',
  said: (place) => `both diodes of stage ${place} the wrong way round`,
  places: ({ network }) =>
    [...new Set(network.diodes.map(({ stage }) => stage))]
      .filter((stage) => network.diodes.filter((one) => one.stage === stage).length > 1)
      .map(String),
  degree: null,
  apply: (bench, place) => ({
    ...bench,
    circuit: bench.network.diodes.reduce(
      (circuit, { stage }, at) => (String(stage) === place ? turnedDiode(circuit, at) : circuit),
      bench.circuit,
    ),
  }),
  why: (place) => `Stage ${place} climbs the other way: it takes down what the stages under it bring up.`,
  confirm: (place) => `Stage ${place}: its diodes’ bands against those of the next stage.`,
  besides: 'Its capacitors stand at the wrong polarity; electrolytic ones suffer.',
  shownBy: 'the bands',
};

export const ladderReversed: FaultKind = {
  id: 'ladder-reversed',
  said: () => 'the whole ladder is built for the other polarity, or the meter’s leads are swapped',
  places: () => NOWHERE,
  degree: null,
  apply: (bench) => ({
    ...bench,
    circuit: bench.network.diodes.reduce((circuit, _, at) => turnedDiode(circuit, at), bench.circuit),
  }),
  why: () => 'Every reading is what it should be with the other sign.',
  confirm: () => 'The meter’s leads first, then the bands of the diodes.',
  besides: 'Nothing, unless its capacitors have a polarity of their own.',
  shownBy: 'the sign of any reading',
};

export const groundMissing: FaultKind = {
  id: 'ground-missing',
  said: () => 'the ladder’s ground is missing',
  places: ({ network }) => (network.return === 'ground' ? NOWHERE : []),
  degree: null,
  apply: (bench) => ({ ...bench, circuit: withoutGround(bench.circuit) }),
  why: () => 'The foot of the ladder floats: against ground no tap stands where it should.',
  confirm: () => 'From the ladder’s foot to the winding’s ground end: no resistance to speak of.',
  besides: 'The foot floats at full drive, up to what the winding gives; it may arc to whatever is near.',
  shownBy: 'the foot against ground',
};

export const outputShorted: FaultKind = {
  id: 'output-shorted',
  said: () => 'the output is shorted',
  places: () => NOWHERE,
  degree: null,
  apply: (bench) => ({ ...bench, circuit: wired(bench.circuit, bench.circuit.output, bench.circuit.return) }),
  why: () => 'All charge goes through the short: the output is at nothing and the taps under it droop.',
  confirm: () => 'From the output to its return: no resistance to speak of, the load taken off.',
  besides: 'At full drive its diodes carry the short’s current for as long as it lasts.',
  shownBy: 'the output’s resistance',
};
