import { newDesign } from '@/core/design/new-design';
import { readPartLine } from '@/core/drawer/part-line';
import type { Part } from '@/core/parts/part-schema';
import { placed } from '@/core/drawer/places/places';
import { placeOf } from '@/core/drawer/places/places-of';
import { predict } from '@/core/predict/predict';
import { createDesign, setArchived } from './designs';
import { changeDrawer, readDrawer } from './drawer';
import { pool } from './pool';

// Against the real throw-away database that ./test starts and migrates.
beforeEach(() => pool().query('TRUNCATE designs, design_revisions, facts, parts'));
afterAll(() => pool().end());

const part = (line: string, digit: string): Part => {
  const read = readPartLine(line, `44444444-4444-4444-8444-44444444444${digit}`);
  if (!read.ok) throw new Error(read.reason);
  return read.part;
};
const disc = part('560p 15kV cer disc x18 @0.55', '1');
const stick = part('diode 12kV 5mA 100ns stick x10', '2');

it('keeps parts as they were, replaces by id, takes out', async () => {
  expect((await changeDrawer({ put: [stick, disc], remove: [] })).parts).toEqual([disc, stick]);
  const counted = { ...disc, count: 3, price: null };
  expect((await changeDrawer({ put: [counted], remove: [stick.id] })).parts).toEqual([counted]);
});

it('does all of a change or none of it', async () => {
  await changeDrawer({ put: [disc], remove: [] });
  const bad = { ...stick, count: -1 };
  await expect(changeDrawer({ put: [{ ...disc, count: 1 }, bad], remove: [] })).rejects.toThrow(/count/);
  expect((await readDrawer()).parts).toEqual([disc]);
});

it('says which designs take what, but for archived ones', async () => {
  await changeDrawer({ put: [disc], remove: [] });
  const four = newDesign('Takes four');
  const { id } = await createDesign(placed(four, placeOf(four, 'capacitor')!, disc, predict(four))!.design);
  expect((await readDrawer()).uses).toEqual([{ designId: id, designName: 'Takes four', partId: disc.id, count: 4 }]);
  await setArchived(id, true);
  expect((await readDrawer()).uses).toEqual([]);
});
