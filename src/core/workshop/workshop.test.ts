import { entrySchema } from '../bench/entries';
import type { SessionReadings } from '../bench/session';
import { meterSchema } from '../drive/meter-sense';
import { designMember, pictureMember, placeOf } from './archive';
import { withFreshIds } from './fresh-ids';
import { standingOf } from './history';
import { metersBeside, metersTaken } from './meters';

const ID = '75ebe1d5-1b29-431d-9630-075d8ed047ff';

describe('members', () => {
  it('are found by the paths that they are given', () => {
    for (const part of ['design', 'bench', 'discharges', 'ticks'] as const)
      expect(placeOf(designMember(ID, part))).toEqual({ kind: 'design', designId: ID, part });
    expect(placeOf(pictureMember(ID, ID))).toEqual({ kind: 'picture', designId: ID, pictureId: ID });
  });

  it.each([
    '',
    'designs',
    `designs/${ID}`,
    `designs/${ID}/other.json`,
    `designs/../${ID}/design.json`,
    'designs/x/design.json',
    `designs/${ID}/pictures/x.jpg`,
    `/designs/${ID}/design.json`,
    'Drawer.json',
    `designs/${ID}/design.json/`,
  ])('are no others: %p', (path) => expect(placeOf(path)).toBeNull());
});

describe('two histories of one design', () => {
  const states = (...told: string[]) =>
    told.map((one) => ({ revision: Number(one.slice(0, -1)), digest: one.slice(-1) }));

  it.each([
    ['the same', ['1a', '2b'], ['1a', '2b'], 'same'],
    ['here further', ['1a', '2b', '3c'], ['1a', '2b'], 'same'],
    ['the archive further', ['1a', '2b'], ['1a', '2b', '3c'], 'later'],
    ['thinned here', ['1a', '4d', '9e'], ['1a', '2b', '3c', '4d'], 'same'],
    ['thinned there', ['1a', '2b', '3c'], ['1a', '7d'], 'later'],
    ['another second', ['1a', '2b'], ['1a', '2x'], 'apart'],
    ['another second, the archive further', ['1a', '2b'], ['1a', '2x', '3c'], 'apart'],
    ['nothing in common', ['1a'], ['1x'], 'apart'],
    ['no number in common', ['2a'], ['1a'], 'apart'],
  ] as const)('%s', (_name, here, archived, expected) => {
    expect(standingOf(states(...here), states(...archived))).toBe(expected);
  });
});

it('own meters: new ones come, of two of one name the one that is wanted counts, in the order of one’s own', () => {
  const named = (name: string, inputOhms: number) => ({ name, meter: meterSchema.parse({ inputOhms }) });
  const own = [named('a', 1e6), named('b', 1e7)];
  const archived = [named('c', 1e9), named('b', 2e7), named('a', 1e6)];
  expect(metersBeside(own, archived)).toEqual({
    fresh: [named('c', 1e9)],
    same: [named('a', 1e6)],
    clashing: [named('b', 2e7)],
  });
  expect(metersTaken(own, archived, 'here')).toEqual([...own, named('c', 1e9)]);
  expect(metersTaken(own, archived, 'archive')).toEqual([named('a', 1e6), named('b', 2e7), named('c', 1e9)]);
  expect(metersTaken([], [], 'archive')).toEqual([]);
});

it('records under new ids refer to each other as before; a picture that does not come is left out', () => {
  const common = { at: '', remark: '', takenAt: '2026-03-01T10:00:00.000Z' };
  const note = (id: string, changes: object) =>
    entrySchema.parse({ kind: 'note', id, replaces: null, ...common, ...changes });
  const [a, b, c] = [1, 2, 3].map((digit) => ID.replace('7', `${digit}`));
  const sessions = [
    { session: { id: ID }, readings: [note(a, { pictureId: a }), note(b, { replaces: a, pictureId: b })] },
    { session: { id: c }, readings: [note(c, { replaces: 'f0000000-0000-4000-8000-000000000000' })] },
  ] as SessionReadings[];
  let count = 0;
  const fresh = withFreshIds({ sessions, runs: [] }, new Map([[a, 'picture']]), () => `new ${(count += 1)}`);
  const [first, second] = fresh.sessions;
  expect(first.readings.map(({ pictureId }) => pictureId)).toEqual(['picture', null]);
  expect(first.readings[1].replaces).toBe(first.readings[0].id);
  // What it took the place of is in no archive: still it stands in something's place.
  expect(second.readings[0].replaces).not.toBeNull();
  const ids = fresh.sessions.flatMap(({ session, readings }) => [session.id, ...readings.map(({ id }) => id)]);
  expect(new Set(ids).size).toBe(5);
  for (const id of [ID, a, b, c]) expect(ids).not.toContain(id);
});
