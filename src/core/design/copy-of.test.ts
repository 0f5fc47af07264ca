import { copyOf } from './copy-of';
import { newDesign } from './new-design';
import { readDesign } from './read-design';

it('a copy keeps the name and says what it is', () => {
  expect(copyOf(newDesign('Fence tester')).name).toBe('Fence tester, copy');
  expect(copyOf(newDesign('Fence tester'), 'from this tab').name).toBe('Fence tester, from this tab');
});

it.each(['copy', 'from this tab'])('%s: the longest name is shortened, and the copy can be read', (apart) => {
  const copy = copyOf(newDesign('x'.repeat(120)), apart);
  expect(copy.name).toHaveLength(120);
  expect(copy.name).toMatch(new RegExp(`, ${apart}$`));
  expect(readDesign(copy).ok).toBe(true);
});
