import fc from 'fast-check';
import { partSchema, type Part } from '../parts/part-schema';
import { backFrom, joinedTo, partChange, withChange } from './part-change';

const id = (digit: number) => `66666666-6666-4666-8666-66666666666${digit}`;
const part = (digit: number, more: object = {}): Part =>
  partSchema.parse({ kind: 'resistor', id: id(digit), name: `r${digit}`, ohms: 1e6, count: 10, ...more });
const one = part(1);

/** What stands after a change made from `known` has met what stands. */
function joined(standing: Part[], put: Part[], remove: string[], known: Part[]): Part[] | string[] {
  const result = joinedTo(standing, partChange(put, remove, known));
  return result.kind === 'overlap' ? result.names : withChange(standing, result.change);
}

it('counts that two tabs change add up, and are never fewer than none', () => {
  expect(joined([part(1, { count: 7 })], [part(1, { count: 7 })], [], [one])).toEqual([part(1, { count: 4 })]);
  expect(joined([part(1, { count: 7 })], [part(1, { count: 6 })], [], [one])).toEqual([part(1, { count: 3 })]);
  expect(joined([part(1, { count: 2 })], [part(1, { count: 3 })], [], [one])).toEqual([part(1, { count: 0 })]);
});

it('other fields that were changed elsewhere stay; the same field to something else is not overwritten', () => {
  expect(joined([part(1, { price: 2 })], [part(1, { note: 'mine' })], [], [one])).toEqual([
    part(1, { price: 2, note: 'mine' }),
  ]);
  expect(joined([part(1, { note: 'theirs' })], [part(1, { note: 'mine' })], [], [one])).toEqual(['r1']);
  expect(joined([part(1, { note: 'mine', count: 4 })], [part(1, { note: 'mine' })], [], [one])).toEqual([
    part(1, { note: 'mine', count: 4 }),
  ]);
});

it('a part taken out elsewhere does not come back, and one changed elsewhere is not taken out', () => {
  expect(joined([], [part(1, { count: 3 })], [], [one])).toEqual(['r1']);
  expect(joined([part(1, { count: 3 })], [], [id(1)], [one])).toEqual(['r1']);
  expect(joined([], [], [id(1)], [one])).toEqual([]);
  expect(backFrom(partChange([], [id(3)], [one]))).toBeNull();
  expect(joinedTo([one], partChange([], [id(3)], [one]))).toMatchObject({ change: { remove: [id(3)] } });
  expect(joined([], [part(2)], [], [])).toEqual([part(2)]);
});

it('taking a change back leaves what was changed elsewhere since', () => {
  const change = partChange([part(1, { count: 4 })], [], [one]);
  const since = [part(1, { count: 3, price: 9 })];
  const result = joinedTo(since, backFrom(change)!);
  expect(result.kind === 'joined' && withChange(since, result.change)).toEqual([part(1, { count: 9, price: 9 })]);
});

it('two changes of counts lead to the same, whichever comes first', () => {
  const count = fc.integer({ min: 0, max: 1000 });
  fc.assert(
    fc.property(count, count, count, (known, mine, theirs) => {
      const base = [part(1, { count: known })];
      // What would go below none depends on the order: then the last to come finds nothing left to take.
      fc.pre(mine + theirs >= known);
      const first = joined([part(1, { count: theirs })], [part(1, { count: mine })], [], base);
      const second = joined([part(1, { count: mine })], [part(1, { count: theirs })], [], base);
      expect(first).toEqual(second);
    }),
  );
});
