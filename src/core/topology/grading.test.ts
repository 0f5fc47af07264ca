import { GRADINGS, gradedNetwork } from './grading';
import { halfWaveNetwork } from './half-wave';
import { eachFarads, TOPOLOGIES } from './network';
import { TOPOLOGY_KINDS } from './topologies';

const farads = (stages: number, grading: (typeof GRADINGS)[number]) =>
  gradedNetwork(halfWaveNetwork(stages, 1), grading, null).capacitors.map(({ id, farads }) => [id, farads]);

it('equal is as it was', () => {
  const network = halfWaveNetwork(3, 1);
  expect(gradedNetwork(network, 'equal', null)).toBe(network);
});

it('first doubled gives twice to what is connected to the source, once to the rest', () => {
  expect(farads(3, 'first-doubled')).toEqual([
    ['C1', 2],
    ['C2', 1],
    ['C3', 1],
    ['C4', 1],
    ['C5', 1],
    ['C6', 1],
  ]);
});

it('tapered gives each column n times the top one at the input, down to once', () => {
  // Reinhold's and other handbooks' tapering: stage k of n has n + 1 - k times the top one.
  expect(farads(3, 'tapered').map(([, value]) => value)).toEqual([3, 3, 2, 2, 1, 1]);
});

it.each(TOPOLOGIES)(
  '%s keeps its parts and its nodes whatever the grading, none smaller than the top one',
  (topology) => {
    const network = TOPOLOGY_KINDS[topology].build(3, 2e-9);
    for (const grading of GRADINGS) {
      const graded = gradedNetwork(network, grading, null);
      expect(graded.capacitors.map(({ id, lower, upper }) => [id, lower, upper])).toEqual(
        network.capacitors.map(({ id, lower, upper }) => [id, lower, upper]),
      );
      expect(Math.min(...graded.capacitors.map(eachFarads))).toBeGreaterThanOrEqual(2e-9);
      expect([graded.diodes, graded.nodes, graded.sources]).toEqual([network.diodes, network.nodes, network.sources]);
    }
  },
);

it('a list goes before any grading, part by part, and must name every one', () => {
  const network = halfWaveNetwork(1.5, 1);
  const listed = network.capacitors.map((_, at) => at + 1);
  expect(gradedNetwork(network, 'tapered', listed).capacitors.map((part) => part.farads)).toEqual(listed);
  expect(() => gradedNetwork(network, 'equal', listed.slice(1))).toThrow(RangeError);
});
