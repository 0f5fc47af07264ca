import fc from 'fast-check';
import { newDesign } from '../src/core/design/new-design';

/** A request that nobody means: a path, and a body as it goes over the line. */
export type Malformed = { method: string; path: string; body: string; type: string };

const nowhere = '00000000-0000-4000-8000-000000000000';
const broken = fc.constantFrom('\u0000', '\ud800', '\udc00x', '%ff', '\u202e', 'x'.repeat(30_000), '', ' ');
const number = fc.constantFrom(-1, 0, 1e308, -1e308, 2 ** 31, 2 ** 53, 0.5);
const junk: fc.Arbitrary<unknown> = fc.oneof(
  broken,
  number,
  fc.constantFrom(null, true, [], {}),
  fc.array(fc.integer(), { maxLength: 50 }),
  fc.integer({ min: 1, max: 3000 }).map((deep) => JSON.parse('['.repeat(deep) + ']'.repeat(deep)) as unknown),
);

/** A design with one of its places, however deep, holding something else. */
const spoilt = fc.tuple(fc.array(fc.nat(), { minLength: 1, maxLength: 4 }), junk).map(([way, value]) => {
  const design = newDesign('Spoilt') as unknown;
  let place = design as Record<string, unknown>;
  for (const [at, step] of way.entries()) {
    const keys = Object.keys(place);
    const key = keys[step % keys.length];
    const next = place[key];
    if (at === way.length - 1 || typeof next !== 'object' || next === null || Object.keys(next).length === 0) {
      place[key] = value;
      break;
    }
    place = next as Record<string, unknown>;
  }
  return design;
});

const body = fc.oneof(
  spoilt,
  fc.record({ baseRevision: fc.oneof(number, broken), design: spoilt }),
  fc.record({ baseRevision: number, changeId: broken, put: fc.oneof(junk, fc.array(junk)), remove: junk }),
  fc.record({ archived: junk }),
  junk,
);

export const malformed: fc.Arbitrary<Malformed> = fc.record({
  method: fc.constantFrom('POST', 'PUT', 'PATCH', 'DELETE', 'GET'),
  path: fc.constantFrom(
    '/api/designs',
    `/api/designs/${nowhere}`,
    `/api/designs/${nowhere}/revisions`,
    `/api/designs/${nowhere}/document?revision=x`,
    '/api/designs/%00',
    '/api/designs/%ff',
    '/api/designs/%ED%A0%80',
    '/api/drawer',
    '/api/nothing',
    `/designs/${nowhere}`,
    '/?from=x&sort=%00&shown=-1&search=%00',
    '/?search=%5C%25_&sort=name',
  ),
  body: fc.oneof(
    body.map((value) => JSON.stringify(value)),
    fc.constantFrom('{', 'null', '"', '{"a":1e999}', '\u0000'),
  ),
  type: fc.constantFrom('application/json', 'application/json', 'application/json', 'text/plain', ''),
});
