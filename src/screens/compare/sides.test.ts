import { compareHref, sideIn } from './sides';

const ID = '0a3a3300-ea29-4210-9188-f17e4729fb2f';

it('a side comes back from the address as it went in', () => {
  for (const side of [
    { id: ID, revision: null },
    { id: ID, revision: 12 },
  ]) {
    const query = new URL(compareHref(side, null), 'http://x').searchParams;
    expect(sideIn(query.get('one'))).toEqual(side);
    expect(sideIn(query.get('other'))).toBeNull();
  }
});

it.each([null, '', 'x', `${ID}.`, `${ID}.-1`, `${ID}.1.2`, `${ID}.9999999999`])('%j is no side', (text) => {
  expect(sideIn(text)).toBeNull();
});
