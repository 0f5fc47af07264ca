import type { Design } from '@/core/design/design-schema';
import { changeDesign } from '@/core/design/change-design';
import { newDesign } from '@/core/design/new-design';
import { predict } from '@/core/predict/predict';
import { motionOf, placeAt } from '@/core/transient/motion';
import { transientOf } from '@/core/transient/transient';
import { finish } from '@/core/numeric/finish';
import type { Topology } from '@/core/topology/network';
import { climbLayout, nodeX } from './climb-layout';
import { movingPlaces } from './moving-places';

const moved = (topology: Topology) => {
  const design: Design = {
    ...changeDesign(newDesign('Moving'), { path: '$.ladder.topology', value: topology }),
    output: {
      seriesOhms: 1e6,
      bleederOhms: null,
      divider: null,
      smoothing: [{ ohms: 1e6, henries: 0, farads: 1e-10, ratedVolts: null }],
      electrodeFarads: 0,
    },
    load: { kind: 'current', amps: 1e-4 },
  };
  const prediction = predict(design);
  const motion = motionOf(prediction, finish(transientOf(design, 100)).waveforms, 'settled');
  const layout = climbLayout(prediction, null, 640, 400);
  return {
    prediction,
    motion,
    layout,
    at: (position: number) => movingPlaces(prediction, layout, motion, placeAt(motion, position)),
  };
};

describe.each(['half-wave', 'full-wave', 'bipolar', 'bridge-doubler'] as const)('%s', (topology) => {
  const { prediction, motion, layout, at } = moved(topology);
  const frames = Array.from(motion.pace, (position) => at(position));

  it('each node stands at the height of its voltage, in its column', () => {
    frames.forEach(({ nodes }, frame) =>
      nodes.forEach(({ x, y }, index) => {
        const node = prediction.nodes[index];
        expect(x).toBeCloseTo(nodeX(layout, node), 0);
        expect(y).toBeCloseTo(layout.y(motion.nodes.get(node.id)![frame]), 0);
      }),
    );
  });

  it('what lies beyond stands at what is left there, at the terminal with the ladder’s own', () => {
    expect(motion.beyond.map(({ id }) => id)).toEqual(['terminal', 'smoothed 1', 'load']);
    frames.forEach(({ beyond, nodes }, frame) => {
      expect(beyond).toHaveLength(3);
      expect(beyond[0].y).toBe(nodes[prediction.nodes.findIndex(({ id }) => id === prediction.terminals.output)].y);
      motion.beyond.forEach(({ volts }, index) => expect(beyond[index].y).toBeCloseTo(layout.y(volts[frame]), 0));
      for (const { from, to } of beyond) expect(to).toBeGreaterThan(from);
    });
  });

  it('a diode that conducts lies level, and leans while it does not', () => {
    const drop = Math.abs(layout.y(0) - layout.y(prediction.output.noLoadVolts)) / 20;
    let leaning = 0;
    for (const { diodes } of frames)
      diodes.forEach(({ flow, path }) => {
        const [, from, to] = path.match(/^M\S+ (\S+)L\S+ (\S+)$/)!.map(Number);
        if (flow > 0) expect(Math.abs(from - to)).toBeLessThan(drop);
        else leaning = Math.max(leaning, Math.abs(from - to));
      });
    expect(leaning).toBeGreaterThan(drop);
  });

  it('no part flows thicker or fills higher than whole, and every capacitor has its current', () => {
    prediction.capacitors.forEach((_, index) => {
      const ways = frames.map(({ capacitors }) => capacitors[index]).filter(({ flow }) => flow > 0);
      expect(ways.length).toBeGreaterThan(0);
      for (const { flow, fill } of ways) {
        expect(flow).toBeLessThanOrEqual(1);
        expect(fill).toBeGreaterThanOrEqual(0);
        expect(fill).toBeLessThanOrEqual(1);
      }
    });
  });
});
