import type { Fault } from './fault';
import { degreeAt, FAULT_KINDS, faultKind, withFault } from './faults';
import { shownAt, type SoundBench } from './read-through';

/** How far a fault of some degree goes where one is only thought of, 0..1 of its range. */
const USUAL_FRACTION = 0.7;

/** Faults that one may think of at a place: a part or a node; empty for the supply, the wiring and the meter. */
export const faultsAt = ({ bench }: SoundBench, place: string): Fault[] =>
  FAULT_KINDS.filter((kind) => kind.places(bench).includes(place)).map((kind) => ({
    kind: kind.id,
    place,
    degree: degreeAt(kind, USUAL_FRACTION),
  }));

/** Everything at which there may be a fault, in the order of the ladder; the empty place last. */
export const placesOfFaults = ({ bench }: SoundBench): string[] => {
  const all = new Set(FAULT_KINDS.flatMap((kind) => kind.places(bench)));
  all.delete('');
  const inOrder = [...bench.network.diodes, ...bench.network.capacitors, ...bench.network.nodes]
    .map(({ id }) => id)
    .filter((id) => all.has(id));
  return [...inOrder, ...[...all].filter((place) => !inOrder.includes(place)), ''];
};

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
