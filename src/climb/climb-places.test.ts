import { changeDesign } from '@/core/design/change-design';
import { newDesign } from '@/core/design/new-design';
import type { Topology } from '@/core/topology/network';
import { asSettled } from '@/core/transient/comparison';
import { predict } from '@/core/predict/predict';
import { transientOf } from '@/core/transient/transient';
import { finish } from '@/core/numeric/finish';
import { climbLayout, nodeX } from './climb-layout';
import { capacitorPlace, diodePlace } from './climb-places';

const drawn = (topology: Topology, stages = 2) => {
  const base = changeDesign(newDesign('drawn'), { path: '$.ladder.topology', value: topology });
  const design = {
    ...changeDesign(base, { path: '$.ladder.stages', value: stages }),
    load: { kind: 'current' as const, amps: 1e-5 },
  };
  const prediction = asSettled(predict(design), finish(transientOf(design, 100)).transient);
  const layout = climbLayout(prediction, null, 660, 430);
  const nodes = new Map(prediction.nodes.map((node) => [node.id, node]));
  return { prediction, layout, nodes };
};
const all: Topology[] = ['clamp', 'half-wave', 'bridge-doubler', 'full-wave', 'bipolar', 'two-ended'];

it.each(all)('%s: every part lies within the picture, no two in one place', (topology) => {
  const { prediction, layout, nodes } = drawn(topology);
  const places = [
    ...prediction.capacitors.map((part) => capacitorPlace(part, layout, nodes)),
    ...prediction.diodes.map((part) => diodePlace(part, layout, nodes)),
  ];
  for (const { x, y } of places) {
    expect(x).toBeGreaterThan(layout.plot.left);
    expect(x).toBeLessThan(layout.labels);
    expect(y).toBeGreaterThan(0);
    expect(y).toBeLessThan(layout.height);
  }
  places.forEach((one, at) =>
    places.slice(at + 1).forEach((other) => expect(Math.hypot(one.x - other.x, one.y - other.y)).toBeGreaterThan(4)),
  );
});

it('a bipolar ladder has ground in the middle and its two sides mirror each other', () => {
  const { prediction, layout } = drawn('bipolar');
  const height = (id: string) => layout.y(prediction.nodes.find((node) => node.id === id)!.meanVolts!);
  const middle = layout.y(0);
  expect(height('B2')).toBeLessThan(middle);
  expect(height('NB2')).toBeGreaterThan(middle);
  expect(middle - height('B2')).toBeCloseTo(height('NB2') - middle, 0);
});

it('a full-wave ladder has three columns, the smoothing one between the two that swing', () => {
  const { prediction, layout } = drawn('full-wave');
  const x = (id: string) =>
    nodeX(
      layout,
      prediction.nodes.find((node) => node.id === id)!,
    );
  expect(x('source')).toBeLessThan(x('A1'));
  expect(x('A1')).toBeLessThan(x('B1'));
  expect(x('B1')).toBeLessThan(x('Z1'));
  expect(x('Z1')).toBeLessThan(x('antisource'));
  expect(x('ground')).toBe(x('B1'));
});

it('a diode points from its anode to its cathode', () => {
  const { prediction, layout, nodes } = drawn('half-wave', 2);
  const points = prediction.diodes.map((part) => diodePlace(part, layout, nodes).cathodeIsRight);
  // Ground to A1, A1 to B1, B1 to A2, A2 to B2, with the oscillating column on the left.
  expect(points).toEqual([false, true, false, true]);
});

it('a clamp shows its whole swing as one node of the oscillating column', () => {
  const { prediction } = drawn('clamp', 1);
  const output = prediction.nodes.find((node) => node.id === prediction.terminals.output)!;
  expect(output.column).toBe('oscillating');
  expect(output.maxVolts! - output.minVolts!).toBeGreaterThan(1900);
});
