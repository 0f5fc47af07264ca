import 'fake-indexeddb/auto';
import { newDesign } from '@/core/design/new-design';
import { unsavedDesigns, type UnsavedDesign } from './unsaved';

const { keeper, findLeft, dropLeft } = unsavedDesigns;
/** What was left of one design. */
const leftOf = async (id: string) => (await findLeft()).filter(({ designId }) => designId === id);
const design = newDesign('Kept');
const unsaved = (at: string, notes: string, designId = 'one'): UnsavedDesign => ({
  designId,
  at,
  base: { revision: 1, design },
  design: { ...design, notes },
});

afterEach(async () => {
  for (const left of await findLeft()) await dropLeft(left);
});

it('keeps the latest of what was typed, and nothing once it is saved', async () => {
  const mine = keeper();
  mine.forget();
  await mine.settled();
  for (const notes of ['a', 'ab', 'abc']) mine.keep(unsaved('2026-01-01T14:05:00Z', notes));
  await mine.settled();
  expect((await leftOf('one')).map((left) => left.design.notes)).toEqual(['abc']);
  expect(mine.isKept()).toBe(true);
  mine.forget();
  await mine.settled();
  expect(await leftOf('one')).toEqual([]);
});

it('keeps editors apart, and tells of a design what was typed into it, the latest first', async () => {
  const [first, second, other] = [keeper(), keeper(), keeper()];
  first.keep(unsaved('2026-01-01T14:05:00Z', 'first'));
  second.keep(unsaved('2026-01-01T14:06:00Z', 'second'));
  other.keep(unsaved('2026-01-01T14:07:00Z', 'other', 'two'));
  await Promise.all([first, second, other].map((one) => one.settled()));
  expect((await leftOf('one')).map((left) => left.design.notes)).toEqual(['second', 'first']);
  expect(await findLeft()).toHaveLength(3);
  second.forget();
  await second.settled();
  expect((await leftOf('one')).map((left) => left.design.notes)).toEqual(['first']);
});

it('does not offer what an editor that stands still has', async () => {
  const held = new Map<string, () => void>();
  const locks = {
    request: (name: string, work: () => Promise<void>) => {
      held.set(name, () => undefined);
      return work().then(() => held.delete(name));
    },
    query: async () => ({ held: [...held.keys()].map((name) => ({ name })) }),
  };
  Object.defineProperty(globalThis, 'navigator', { value: { locks }, configurable: true });
  const mine = keeper();
  mine.keep(unsaved('2026-01-01T14:05:00Z', 'standing'));
  await mine.settled();
  expect(await leftOf('one')).toEqual([]);
  mine.leave();
  await new Promise((resolve) => setTimeout(resolve, 0));
  expect(await leftOf('one')).toHaveLength(1);
  Object.defineProperty(globalThis, 'navigator', { value: undefined, configurable: true });
});

it('passes over what cannot be read', async () => {
  const mine = keeper();
  mine.keep({ ...unsaved('2026-01-01T14:05:00Z', 'x'), design: { nonsense: true } } as never);
  await mine.settled();
  expect(await findLeft()).toEqual([]);
});
