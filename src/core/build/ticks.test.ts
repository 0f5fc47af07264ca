import { changedTicks, earlierTicks, tickChangesSchema, type Tick } from './ticks';

const tick = (revision: number, step: string, hour = 10): Tick => ({
  revision,
  step,
  doneAt: `2026-03-01T${hour}:00:00.000Z`,
});

it('changes are made one after another, each at its own revision', () => {
  const before = [tick(1, 'a'), tick(1, 'b'), tick(2, 'a')];
  expect(changedTicks(before, [])).toEqual(before);
  expect(
    changedTicks(before, [
      { ...tick(1, 'a'), doneAt: null },
      tick(2, 'c'),
      { ...tick(2, 'c'), doneAt: null },
      tick(2, 'c', 11),
      { ...tick(3, 'never'), doneAt: null },
    ]),
  ).toEqual([tick(1, 'b'), tick(2, 'a'), tick(2, 'c', 11)]);
});

it('what was done of the last revision before this one, less what is done here already', () => {
  const ticks = [tick(1, 'a'), tick(3, 'a'), tick(3, 'b'), tick(5, 'b'), tick(9, 'a')];
  expect(earlierTicks(ticks, 5)).toEqual({ revision: 3, steps: ['a'] });
  expect(earlierTicks(ticks, 6)).toEqual({ revision: 5, steps: ['b'] });
  expect(earlierTicks(ticks, 1)).toBeNull();
  expect(earlierTicks([...ticks, tick(5, 'a')], 5)).toBeNull();
  expect(earlierTicks([], 4)).toBeNull();
});

it('a change without a step, of no revision or at no moment is refused', () => {
  for (const wrong of [{ step: '' }, { revision: 0 }, { doneAt: 'yesterday' }, { doneAt: undefined }, { more: 1 }])
    expect(tickChangesSchema.safeParse([{ ...tick(1, 'a'), ...wrong }]).success).toBe(false);
  expect(tickChangesSchema.safeParse([{ ...tick(1, 'a'), doneAt: null }]).success).toBe(true);
});
