import { demoDesign } from '../../../tests/reference/demo-designs';
import { predict } from '../predict/predict';
import { draftSchema } from './draft';
import { placesOf } from './places';

const design = demoDesign('teaching-tripler');
const prediction = predict(design);

it.each([
  ['capacitance', /^C\d+$/],
  ['drop', /^D\d+$/],
  ['resistance', /^([CD]\d+|bleeder|series resistor)$/],
  ['ripple', /^([AB]\d+|source)$/],
  ['tap', /^([AB]\d+|source)$/],
  ['scope', /^([AB]\d+|source)$/],
  ['failure', /^([CD]\d+|transformer|driver|elsewhere)$/],
] as const)('%s is taken at what it can be taken at', (kind, form) => {
  const places = placesOf(kind, design, prediction);
  expect(places.length).toBeGreaterThan(1);
  for (const place of places) expect(place).toMatch(form);
  expect(new Set(places).size).toBe(places.length);
});

it.each(['frequency', 'loaded', 'gap', 'supply-current', 'note'] as const)('%s has no list of places', (kind) => {
  expect(placesOf(kind, design, prediction)).toEqual([]);
});

it('a draft begins empty, whatever is stored of another version', () => {
  expect(draftSchema.parse({})).toMatchObject({ text: '', at: '', remark: '', heldSeconds: null });
  expect(draftSchema.safeParse({ kind: 'of another version' }).success).toBe(false);
});
