import { sentence } from '../../quantity/sentence';
import type { Fault, TestBench } from './fault';
import { FAULT_KINDS, faultKind, usualDegree, withFault } from './faults';
import { shownAt, type SoundBench } from './read-through';

/** A fault to think of, by its place and by what is wrong there, and what else there is to choose from, as it is said. */
export type FaultChoice = {
  fault: Fault;
  places: { value: string; name: string }[];
  kinds: { value: string; name: string }[];
};

/**
 * A fault as it was chosen; the first there is where what was chosen is none of the bench.
 *
 * @param wanted its place, empty for the supply, the wiring and the meter, and its kind; null where none was chosen
 */
export function faultChoice({ bench }: SoundBench, wanted: { place: string; kind: string } | null): FaultChoice {
  const places = placesOfFaults(bench);
  const place = wanted && places.includes(wanted.place) ? wanted.place : places[0];
  const kinds = FAULT_KINDS.filter((kind) => kind.places(bench).includes(place));
  const kind = kinds.find(({ id }) => id === wanted?.kind) ?? kinds[0];
  return {
    fault: { kind: kind.id, place, degree: usualDegree(kind) },
    places: places.map((value) => ({ value, name: nameOf(value) })),
    kinds: kinds.map(({ id, said }) => ({ value: id, name: sentence(said(place)) })),
  };
}

const nameOf = (place: string): string => {
  if (place === '') return 'Supply, wiring or meter';
  return /^\d+$/.test(place) ? `Stage ${place}` : place;
};

/** Everything at which there may be a fault, in the order of the ladder; the empty place last. */
function placesOfFaults(bench: TestBench): string[] {
  const all = new Set(FAULT_KINDS.flatMap((kind) => kind.places(bench)));
  all.delete('');
  const inOrder = [...bench.network.diodes, ...bench.network.capacitors, ...bench.network.nodes]
    .map(({ id }) => id)
    .filter((id) => all.has(id));
  return [...inOrder, ...[...all].filter((place) => !inOrder.includes(place)), ''];
}

/** What the meter would show of the source and at each tap, sound and with a fault, V; null where nothing is to be read. */
export type IfFaulty = {
  why: string;
  source: { sound: number; faulty: number } | null;
  taps: { node: string; sound: number | null; faulty: number | null }[];
};

export function ifFaulty(sound: SoundBench, fault: Fault, nodes: readonly string[]): IfFaulty {
  const bench = withFault(sound.bench, fault);
  const { meter } = sound.bench;
  return {
    why: faultKind(fault.kind).why(fault.place, sound.bench),
    source:
      sound.sourceVolts === null ? null : { sound: sound.sourceVolts, faulty: sound.sourceVolts * bench.sourceTimes },
    taps: nodes.map((node) => {
      const probing = { node, meter, sinceOnSeconds: null, heldSeconds: null };
      return { node, sound: shownAt(sound, sound.bench, probing), faulty: shownAt(sound, bench, probing) };
    }),
  };
}
