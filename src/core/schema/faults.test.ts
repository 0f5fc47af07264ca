import * as z from '../zod';
import { choice, count, formatWhatIsRight, fraction, quantity, text } from './fields';
import { faultsOf, formatFaults, jsonPath } from './faults';
import { renamed } from './renamed';

const schema = z.strictObject({
  farads: quantity('F', '1e-9', 'above zero'),
  loss: fraction('0.02').nullable(),
  kind: choice(['film', 'mica']),
  count: count(10),
  note: text(5),
  inner: z.strictObject({ list: z.array(quantity('V', '1', 'zero or more')) }),
});
const good = { farads: 1e-9, loss: null, kind: 'film', count: 2, note: '', inner: { list: [1] } };
const faults = (change: object) => {
  const read = schema.safeParse({ ...good, ...change }, { reportInput: true });
  return read.success ? [] : faultsOf(read.error);
};

it('a good document has none', () => expect(faults({})).toEqual([]));

it.each<[string, object, string, RegExp]>([
  ['zero where it must be above', { farads: 0 }, '$.farads', /above zero, in farads/],
  ['text for a number', { farads: '4n7' }, '$.farads', /the text "4n7"/],
  ['infinity', { farads: Infinity }, '$.farads', /number/],
  ['a fraction of one and more', { loss: 1.5 }, '$.loss', /between 0 and 1/],
  ['a word that is not offered', { kind: 'jar' }, '$.kind', /"film", "mica"/],
  ['half a part', { count: 2.5 }, '$.count', /whole/],
  ['more than there may be', { count: 11 }, '$.count', /10/],
  ['a text too long', { note: 'longer' }, '$.note', /5/],
  ['a missing section', { inner: undefined }, '$.inner', /is missing; must be an object/],
  ['a list for a section', { inner: [] }, '$.inner', /object in braces/],
  ['a bad value in a list', { inner: { list: [1, -1] } }, '$.inner.list[1]', /zero/],
  ['a field there is none of', { colour: 'blue' }, '$.colour', /not a field/],
])('%s is one fault, at its place, saying what would be right', (_what, change, path, message) => {
  const found = faults(change);
  expect(found.map((fault) => fault.path)).toEqual([path]);
  expect(found[0].message).toMatch(message);
  // What a field shows of it is the part about what is right.
  expect(formatWhatIsRight(found[0].message)).not.toBe('');
});

it('finds all faults in one pass, and says them in one line', () => {
  const found = faults({ farads: -1, kind: 'jar', colour: 1, size: 2 });
  expect(found.map(({ path }) => path).sort()).toEqual(['$.colour', '$.farads', '$.kind', '$.size']);
  expect(formatFaults(found).split('; ').length).toBeGreaterThanOrEqual(4);
});

it('writes paths as JSON does', () => {
  expect(jsonPath([])).toBe('$');
  expect(jsonPath(['ladder', 'capacitorFarads', 3, 'x'])).toBe('$.ladder.capacitorFarads[3].x');
});

it('renames fields of a section, and leaves one that has both, or is none', () => {
  const names = { old: 'new' };
  expect(renamed({ old: 1, other: 2 }, names)).toEqual({ new: 1, other: 2 });
  expect(renamed({ old: 1, new: 2 }, names)).toEqual({ old: 1, new: 2 });
  expect(Object.keys(renamed({ a: 0, old: 1, z: 2 }, names) as object)).toEqual(['a', 'new', 'z']);
  for (const none of [null, undefined, 7, 'text', [1]]) expect(renamed(none, names)).toBe(none);
});
