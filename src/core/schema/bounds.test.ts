import fc from 'fast-check';
import { newDesign } from '../design/new-design';
import { readDesign } from '../design/read-design';
import { boundsFault, DESIGN_BOUNDS } from './bounds';
import { MOST_FAULTS } from './faults';

/** By the standard's own measure: half a pair has no form in UTF-8. */
const isWellFormed = (text: string) => {
  try {
    return encodeURIComponent(text) !== '' || text === '';
  } catch {
    return false;
  }
};

const fault = (document: unknown) => boundsFault(document, DESIGN_BOUNDS);

it('lets every design through', () => expect(fault(newDesign('as it is'))).toBeNull());

it('lets any well-formed text through, and finds what cannot be stored wherever it stands', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary' }), (text) => {
      if (isWellFormed(text) && !text.includes('\0')) expect(fault({ a: [{ text }] })).toBeNull();
      else expect(fault({ a: [{ text }] })).toMatchObject({ path: '$.a[0].text' });
    }),
  );
  expect(fault({ notes: 'half of \uD83D' })).toMatchObject({ path: '$.notes' });
  expect(fault({ notes: 'the other \uDE00' })).toMatchObject({ path: '$.notes' });
  expect(fault({ notes: 'a whole 😀' })).toBeNull();
  expect(fault({ 'x\0': 1 })).toMatchObject({ path: '$' });
});

it('stops at what is too deep, too wide or too long, without looking at all of it', () => {
  let deep: unknown = 1;
  for (let level = 0; level < 5000; level += 1) deep = [deep];
  expect(fault(deep)?.message).toContain('deeper');
  expect(fault(Object.fromEntries(Array.from({ length: 60_000 }, (_, key) => [`k${key}`, 1])))?.message).toContain(
    'fields',
  );
  expect(fault({ list: Array.from({ length: 150_000 }, () => 'x') })?.message).toContain('items');
  expect(fault(Array.from({ length: 300 }, () => Array.from({ length: 300 }, () => 1)))?.message).toContain('values');
});

it('a design with very many faults names some of them, at once', () => {
  const document = {
    ...newDesign('wrong'),
    ...Object.fromEntries(Array.from({ length: 900 }, (_, key) => [`k${key}`, 1])),
  };
  const reading = readDesign(document);
  if (reading.ok) throw new Error('read');
  expect(reading.faults.length).toBe(MOST_FAULTS);
  expect(readDesign({ ...newDesign('x'), notes: '\0' })).toMatchObject({ ok: false, faults: [{ path: '$.notes' }] });
});
