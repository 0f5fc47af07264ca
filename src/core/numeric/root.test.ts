import { rootBetween } from './root';

const between = (value: (at: number) => number, low: number, high: number) => {
  let calls = 0;
  const counted = (at: number) => {
    calls += 1;
    return value(at);
  };
  const root = rootBetween(counted, [low, value(low)], [high, value(high)], 1e-13, 1e-15);
  return { root, calls };
};

it.each<[string, (at: number) => number, number, number, number]>([
  ['the square root of two', (at) => at ** 2 - 2, 0, 2, Math.SQRT2],
  ['a falling function', (at) => Math.cos(at), 0, 3, Math.PI / 2],
  ['a steep one', (at) => Math.exp(20 * at) - Math.exp(10), 0, 1, 0.5],
  ['a kink', (at) => Math.max(0, at - 0.3) - 0.2, 0, 1, 0.5],
  ['a root at the end', (at) => at, 0, 1, 0],
])('%s', (_name, value, low, high, root) => {
  const found = between(value, low, high);
  expect(found.root).toBeCloseTo(root, 10);
  expect(found.calls).toBeLessThan(60);
});

it('closes in far faster than halving on what is smooth', () => {
  expect(between((at) => at ** 3 - at - 1, 1, 2).calls).toBeLessThan(12);
});
