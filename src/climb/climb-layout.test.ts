import { newDesign } from '@/core/design/new-design';
import { predict } from '@/core/predict/predict';
import { climbLayout, labelsThatFit, pictureScale, potentialColour, scaleFigure } from './climb-layout';

const labelled = (stages: number, height: number, loadAmps: number) => {
  const base = newDesign('layout');
  const prediction = predict({
    ...base,
    ladder: { ...base.ladder, stages },
    load: { kind: 'current', amps: loadAmps },
  });
  const layout = climbLayout(prediction, null, 660, height);
  const heights = prediction.nodes
    .filter((node) => node.column === 'smoothing')
    .map((node) => layout.y(node.meanVolts ?? node.noLoadVolts));
  return { layout, heights, shown: heights.filter((_, index) => labelsThatFit(heights, 14)[index]) };
};

it('puts ground under the terminal and higher potential higher up', () => {
  const { layout, heights } = labelled(4, 430, 1e-5);
  expect(layout.y(0)).toBeGreaterThan(heights[0]);
  for (let at = 1; at < heights.length; at += 1) expect(heights[at]).toBeLessThan(heights[at - 1]);
});

it.each(Array.from({ length: 20 }, (_, index) => index + 1))(
  '%i stages: no two labels touch and the terminal has one',
  (stages) => {
    for (const height of [260, 430]) {
      const { shown, heights } = labelled(stages, height, 2e-5);
      for (let at = 1; at < shown.length; at += 1) expect(shown[at - 1] - shown[at]).toBeGreaterThanOrEqual(14);
      expect(shown[shown.length - 1]).toBe(heights[heights.length - 1]);
    }
  },
);

it('figures beside the scale are in the scale’s own unit, whatever their size', () => {
  expect(scaleFigure(1184.6, { perUnit: 1 }, true)).toBe('−1185');
  expect(scaleFigure(420, { perUnit: 1000 }, false)).toBe('0.420');
  expect(scaleFigure(0, { perUnit: 1 }, true)).toBe('0');
});

it('colours a ladder that climbs nowhere as ground', () =>
  expect(potentialColour(0, 0)).toBe(potentialColour(0, 1000)));

it('a picture grows with a large screen, by its lesser side, and not without end', () => {
  expect(pictureScale(668, 390)).toBe(1);
  expect(pictureScale(1380, 430)).toBe(1);
  expect(pictureScale(1035, 645)).toBeCloseTo(1.5, 12);
  expect(pictureScale(9000, 9000)).toBe(2);
  expect(pictureScale(100, 100)).toBe(1);
});
