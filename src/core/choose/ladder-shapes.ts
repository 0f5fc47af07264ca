import { elastancesOf } from '../ladder/elastances';
import { gradedNetwork, GRADINGS, type Grading } from '../topology/grading';
import { loadedLadder } from '../ladder/loaded';
import type { LadderNetwork, Topology } from '../topology/network';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import { plainDrive } from '../drive/drive-result';

/** A ladder's form without values: what stands in each place as a multiple of one capacitor. */
export type LadderShape = {
  topology: Topology;
  stages: number;
  /** `placed`: each further capacitor stands where it saves most droop. */
  grading: Grading | 'placed';
  multiples: readonly number[];
  /** Capacitors of one multiple, and diodes. */
  units: number;
  diodes: number;
};

/** How many capacitors in all, against one in each place, are placed where they help most. */
const PLACED_TIMES = [1.25, 1.5, 2, 2.5, 3];

/** Every form that a search looks at for one topology and stage count. */
export function shapesOf(topology: Topology, stages: number, graded: boolean): LadderShape[] {
  const network = TOPOLOGY_KINDS[topology].build(stages, 1);
  const shapes: LadderShape[] = [];
  const add = (grading: LadderShape['grading'], multiples: readonly number[]) => {
    const key = multiples.join();
    if (shapes.some((shape) => shape.multiples.join() === key)) return;
    const units = multiples.reduce((sum, multiple) => sum + multiple, 0);
    shapes.push({ topology, stages, grading, multiples, units, diodes: network.diodes.length });
  };
  for (const grading of graded ? GRADINGS : (['equal'] as const))
    add(
      grading,
      gradedNetwork(network, grading, null).capacitors.map((part) => part.farads),
    );
  if (graded) {
    const places = network.capacitors.length;
    for (const multiples of placedMultiples(
      network,
      PLACED_TIMES.map((times) => Math.round(times * places)),
    ))
      add('placed', multiples);
  }
  return shapes;
}

/**
 * How to spend so many equal capacitors on a ladder so that it droops least: one
 * in each place, each further one where it saves most. Droop is a sum of a
 * part's weight over its capacitance, and for such sums taking the greatest
 * saving each time is best of all (B. Fox, Operations Research 20, 1972; from
 * memory). Exact for ladders whose charges do not hang on the capacitances; a
 * full-wave ladder's do a little.
 *
 * @param network with one farad in each place
 * @param totals how many in all, rising
 * @returns multiples for each total
 */
export function placedMultiples(network: LadderNetwork, totals: readonly number[]): number[][] {
  const drive = plainDrive({ waveform: 'sine', positivePeakVolts: 1, negativePeakVolts: 1, frequencyHertz: 1 });
  const { droop } = elastancesOf(loadedLadder(network, drive, { forwardVolts: 0, strayFarads: 0, onOhms: 0 }));
  const multiples = network.capacitors.map(() => 1);
  const saving = (at: number) => droop[at] / (multiples[at] * (multiples[at] + 1));
  let spent = multiples.length;
  return totals.map((total) => {
    for (; spent < total; spent += 1) {
      let best = 0;
      for (let at = 1; at < multiples.length; at += 1) if (saving(at) > saving(best) * (1 + 1e-9)) best = at;
      multiples[best] += 1;
    }
    return [...multiples];
  });
}
