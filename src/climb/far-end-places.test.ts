import { newDesign } from '@/core/design/new-design';
import type { Design } from '@/core/design/design-schema';
import { predict } from '@/core/predict/predict';
import { climbLayout } from './climb-layout';
import { standing } from './climb-places';
import { farEndPlaces } from './far-end-places';

const drawn = (output: Partial<Design['output']>, load: Design['load'], width = 690, topology = 'half-wave') => {
  const base = newDesign('far end');
  const design = {
    ...base,
    ladder: { ...base.ladder, topology },
    output: { ...base.output, ...output },
    load,
  } as Design;
  const prediction = predict(design);
  const layout = climbLayout(prediction, null, width, 430);
  const terminal = standing(prediction.nodes.find(({ id }) => id === prediction.terminals.output)!);
  return { prediction, layout, terminal, places: farEndPlaces(prediction.farEnd, layout, terminal, 0) };
};
const section = { ohms: 1e6, henries: 0, farads: 1e-9, ratedVolts: null };
const FULL: Partial<Design['output']> = {
  smoothing: [section, { ...section, henries: 1 }, section, section],
  bleederOhms: 1e9,
  seriesOhms: 1e6,
  electrodeFarads: 2e-11,
};
const CURRENT = { kind: 'current', amps: 1e-5 } as const;

it.each([690, 1000])(
  'every part of the far end has room of its own, between the ladder and the figures: %d px',
  (width) => {
    for (const topology of ['half-wave', 'full-wave']) {
      const { places, layout } = drawn(FULL, CURRENT, width, topology);
      const at = places!.places.map(({ x }) => x);
      expect(at).toHaveLength(12);
      expect(at).toEqual([...at].sort((one, other) => one - other));
      for (let index = 1; index < at.length; index += 1) expect(at[index] - at[index - 1]).toBeGreaterThan(8);
      const column = Math.max(layout.capacitorsOf.smoothing, topology === 'full-wave' ? layout.antisource : 0);
      expect(at[0]).toBeGreaterThan(column + 8);
      expect(at.at(-1)!).toBeLessThan(layout.labels - 18);
    }
  },
);

it('stands at the height of what is left at each node, the load at the output', () => {
  const { places, prediction, layout, terminal } = drawn(FULL, CURRENT);
  const heights = places!.stretches.map(({ y }) => y);
  expect(heights).toHaveLength(6);
  expect(heights).toEqual([...heights].sort((one, other) => one - other));
  expect(heights[0]).toBeCloseTo(layout.y(terminal), 0);
  expect(heights[5]).toBeCloseTo(layout.y(prediction.output.meanVolts!), 0);
});

it('is not drawn where there is nothing, nor where there is no room', () => {
  expect(drawn({}, { kind: 'open' }).places).toBeNull();
  expect(drawn({}, { kind: 'open' }).layout.farEnd).toBeNull();
  expect(drawn(FULL, CURRENT, 390).places).toBeNull();
  expect(drawn({}, CURRENT).places!.places).toHaveLength(1);
});
