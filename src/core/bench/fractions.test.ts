import { fractionsIn, fractionsText } from './fractions';
import { benchSettingsSchema } from './low-source';

it.each([
  ['25, 50, 75, 100', [0.25, 0.5, 0.75, 1]],
  ['100 50 %; 25', [0.25, 0.5, 1]],
  ['12.5,100,12.5', [0.125, 1]],
  ['', []],
])('%j are the steps %j', (text, fractions) => {
  expect(fractionsIn(text)).toEqual(fractions);
  expect(fractionsIn(fractionsText(fractions))).toEqual(fractions);
});

it.each(['half', '25, x', '-5', '1e2', '25..5'])('%j is no list of steps', (text) => {
  expect(fractionsIn(text)).toBeNull();
});

it('none, too many, and steps beyond full drive are refused', () => {
  const isTaken = (fractions: number[]) => benchSettingsSchema.safeParse({ fractions }).success;
  expect(isTaken([0.5])).toBe(true);
  for (const wrong of [[], [0], [1.5], Array<number>(13).fill(0.5)]) expect(isTaken(wrong)).toBe(false);
});
