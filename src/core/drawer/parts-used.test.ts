import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { newDesign } from '../design/new-design';
import { driverOfKind } from '../drive/driver-kinds';
import { driveOf } from '../operating/ladder-of-design';
import { predict } from '../predict/predict';
import { readPartLine } from './part-line';
import type { Part } from '../parts/part-schema';
import { partsUsed, stockOf, stocksOf } from './parts-used';
import { placed } from './places/places';
import { placeOf } from './places/places-of';
import { editDesign } from './edit-design';

const part = (line: string, digit: string): Part => {
  const read = readPartLine(line, `33333333-3333-4333-8333-33333333333${digit}`);
  if (!read.ok) throw new Error(read.reason);
  return read.part;
};
const disc = part('560p 15kV cer disc x18', '1');
const stick = part('diode 12kV 5mA 100ns stick x10', '2');
const plain = newDesign('Stocked');
const withPart = (design: Design, one: Part): Design =>
  placed(design, placeOf(design, one.kind)!, one, predict(design))!.design;

it('a part taken gives the ladder its values, and the prediction its ratings', () => {
  const design = withPart(withPart(plain, disc), stick);
  expect(design.ladder.capacitor).toMatchObject({ farads: 560e-12, ratedVolts: 15e3, partId: disc.id });
  const { capacitors, diodes } = predict(design);
  expect(capacitors[0].ratedVolts).toBe(15e3);
  expect(diodes[0].ratedVolts).toBe(12e3);
  // Two stages: four of each.
  expect([...partsUsed(design)]).toEqual([
    [disc.id, 4],
    [stick.id, 4],
  ]);
});

it('graded capacitors are made of several: tapered 2 + 2 + 1 + 1, first doubled 2 + 1 + 1 + 1', () => {
  const graded = (grading: string) =>
    partsUsed(changeDesign(withPart(plain, disc), { path: '$.ladder.grading', value: grading })).get(disc.id);
  expect(graded('tapered')).toBe(6);
  expect(graded('first-doubled')).toBe(5);
});

it('a value typed over one from the drawer leaves the part there; other fields do not', () => {
  const taken = withPart(withPart(plain, disc), stick);
  const typed = editDesign(taken, { path: '$.ladder.capacitor.farads', value: 1e-9 });
  expect(typed.ladder.capacitor.partId).toBeNull();
  expect(typed.ladder.diode.partId).toBe(stick.id);
  expect(changeDesign(taken, { path: '$.ladder.stages', value: 4 }).ladder.capacitor.partId).toBe(disc.id);
});

it('stock: what designs take is reserved, more than there are is short', () => {
  const uses = [
    { designId: 'a', designName: 'A', partId: stick.id, count: 8 },
    { designId: 'b', designName: 'B', partId: stick.id, count: 6 },
    { designId: 'b', designName: 'B', partId: disc.id, count: 6 },
  ];
  expect(stockOf(stick, uses)).toEqual({ reserved: 14, free: -4 });
  expect(stockOf(disc, uses)).toEqual({ reserved: 6, free: 12 });
  const stocks = stocksOf([stick, disc], [...uses, { ...uses[0], partId: 'of none' }]);
  expect(stocks.get(stick.id)).toEqual({
    reserved: 14,
    free: -4,
    usedBy: uses.filter(({ partId }) => partId === stick.id),
  });
  expect([...stocks.keys()]).toEqual([stick.id, disc.id]);
});

it('nothing is taken where there is no ladder, and no diode where the transformer brings its own', () => {
  const stocked = withPart(withPart(plain, disc), stick);
  const as = (topology: string, rectifierInside: boolean) => {
    const { supply, driver, transformer } = driverOfKind('flyback', stocked, driveOf(stocked));
    const driven: Design = { ...stocked, supply, driver, transformer: { ...transformer!, rectifierInside } };
    return [...partsUsed(changeDesign(driven, { path: '$.ladder.topology', value: topology }))];
  };
  expect(as('none', false)).toEqual([]);
  expect(as('rectifier', false)).toEqual([
    [disc.id, 1],
    [stick.id, 1],
  ]);
  expect(as('rectifier', true)).toEqual([[disc.id, 1]]);
});
