import { EVERYTHING, readShelfQuery, shelfAddress, SHELF_PAGE, type ShelfQuery } from './shelf-query';

const back = (query: ShelfQuery) =>
  readShelfQuery(Object.fromEntries(new URL(shelfAddress(query), 'http://x').searchParams));

it('what is asked comes back from its address, and only what is not as usual stands there', () => {
  expect(shelfAddress(EVERYTHING)).toBe('/');
  const asked: ShelfQuery = {
    ...EVERYTHING,
    search: 'a & b = 50 %',
    from: 1e3,
    archived: 'yes',
    sort: 'margin',
    shown: 300,
  };
  expect(back(asked)).toEqual(asked);
  expect(new URL(shelfAddress({ ...EVERYTHING, to: 5 }), 'http://x').search).toBe('?to=5');
});

it('what cannot be read in an address counts as not said', () => {
  const asked = {
    search: ['x', 'y'],
    from: 'much',
    to: '-3',
    archived: '1',
    sort: 'id; DROP',
    order: 'up',
    shown: '1e9',
  };
  expect(readShelfQuery(asked)).toEqual({ ...EVERYTHING, search: 'x' });
  for (const search of ['a\0b', '\ud800']) expect(readShelfQuery({ search })).toEqual(EVERYTHING);
  expect(readShelfQuery({ search: 'x'.repeat(500), shown: '0' })).toEqual({ ...EVERYTHING, shown: SHELF_PAGE });
});
