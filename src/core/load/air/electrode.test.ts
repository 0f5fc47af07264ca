import { electrodeFarads, electrodeSchema, ELECTRODE_LAWS, ELECTRODE_SHAPES } from './electrode';

const of = (entries: object) => electrodeFarads(electrodeSchema.parse(entries));

it.each([
  // A sphere of 1 m radius has 111.265 pF (handbook: 4 pi eps0, the old "metre" of capacitance).
  ['a sphere of a metre', { shape: 'sphere', sphereMetres: 2 }, 111.265e-12],
  // The earth, 6,371 km: 709 µF (textbook).
  ['the earth', { shape: 'sphere', sphereMetres: 2 * 6.371e6 }, 708.9e-6],
  // Plates of a square metre a millimetre apart: 8.854 nF (textbook).
  ['plates', { shape: 'plate', areaSquareMetres: 1, distanceMetres: 1e-3 }, 8.854e-9],
  // A wire of 2 mm a metre over ground: 55.63 / acosh(1000) = 7.32 pF a metre (handbook, wire over plane).
  ['a wire over ground', { shape: 'wire', wireMetres: 2e-3, lengthMetres: 10, distanceMetres: 1 }, 73.19e-12],
  // Coaxial, radii 1 to e: 55.63 pF a metre (handbook).
  ['a wire in a tube', { shape: 'tube', wireMetres: 0.01, outerMetres: 0.01 * Math.E, lengthMetres: 1 }, 55.63e-12],
  ['a person', { shape: 'person' }, 150e-12],
])('%s', (_, entries, farads) => expect((of(entries) as number) / farads).toBeCloseTo(1, 3));

it('outside a formula there is no figure, and the entry is named', () => {
  expect(of({ shape: 'plate', areaSquareMetres: 0.01, distanceMetres: 0.03 })).toMatchObject({ at: 'distanceMetres' });
  expect(of({ shape: 'wire', wireMetres: 0.1, distanceMetres: 0.05 })).toMatchObject({ at: 'distanceMetres' });
  expect(of({ shape: 'wire', lengthMetres: 0.01, wireMetres: 1e-3 })).toMatchObject({ at: 'lengthMetres' });
  expect(of({ shape: 'tube', wireMetres: 0.1, outerMetres: 0.1 })).toMatchObject({ at: 'outerMetres' });
});

it('every shape has a name, a source and entries that the document has', () => {
  for (const shape of ELECTRODE_SHAPES) {
    expect(ELECTRODE_LAWS[shape].name).not.toBe('');
    expect(typeof of({ shape })).toBe('number');
  }
});
