import { newDesign } from '@/core/design/new-design';
import { readPartLine } from '@/core/drawer/part-line';
import type { Part } from '@/core/parts/part-schema';
import { placed } from '@/core/drawer/places/places';
import { placeOf } from '@/core/drawer/places/places-of';
import { predict } from '@/core/predict/predict';
import { createDesign, setArchived } from './designs';
import { changeDrawer, drawerOpening, drawerText } from './drawer';
import { drawerSchema, type DrawerChange, type DrawerOpening } from '@/core/drawer/drawer-messages';
import { pool } from './pool';

// Against the real throw-away database that ./test starts and migrates.
beforeEach(() => pool().query('TRUNCATE designs, facts, parts CASCADE'));
afterAll(() => pool().end());

const part = (line: string, digit: string): Part => {
  const read = readPartLine(line, `44444444-4444-4444-8444-44444444444${digit}`);
  if (!read.ok) throw new Error(read.reason);
  return read.part;
};
/** The drawer as whoever asks for it reads it. */
const readDrawer = async () => drawerSchema.parse(JSON.parse(await drawerText()));
/** Makes a change from the drawer as it stands. */
const change = async (wanted: Partial<DrawerChange>) =>
  changeDrawer({
    put: [],
    remove: [],
    ...wanted,
    baseRevision: (await readDrawer()).revision,
    changeId: crypto.randomUUID(),
  });

const disc = part('560p 15kV cer disc x18 @0.55', '1');
const stick = part('diode 12kV 5mA 100ns stick x10', '2');

it('keeps parts as they were, replaces by id, takes out', async () => {
  const { revision } = await readDrawer();
  expect(await change({ put: [stick, disc] })).toEqual({ kind: 'changed', revision: revision + 1 });
  expect((await readDrawer()).parts).toEqual([disc, stick]);
  const counted = { ...disc, count: 3, price: null };
  await change({ put: [counted], remove: [stick.id] });
  expect((await readDrawer()).parts).toEqual([counted]);
});

it('does all of a change or none of it', async () => {
  await change({ put: [disc] });
  const { revision } = await readDrawer();
  const bad = { ...stick, count: -1 };
  await expect(change({ put: [{ ...disc, count: 1 }, bad] })).rejects.toThrow(/count/);
  expect(await readDrawer()).toMatchObject({ revision, parts: [disc] });
});

it('lets one of two changes from the same state through, and tells the other what stands', async () => {
  const { revision } = await readDrawer();
  const outcomes = await Promise.all([
    changeDrawer({ put: [disc], remove: [], baseRevision: revision, changeId: crypto.randomUUID() }),
    changeDrawer({ put: [stick], remove: [], baseRevision: revision, changeId: crypto.randomUUID() }),
  ]);
  expect(outcomes.map(({ kind }) => kind).sort()).toEqual(['changed', 'conflict']);
  const { parts, revision: after } = await readDrawer();
  expect(after).toBe(revision + 1);
  expect(parts).toHaveLength(1);
  for (const outcome of outcomes)
    if (outcome.kind === 'conflict') expect(JSON.parse(outcome.drawer)).toMatchObject({ parts, revision: after });
    else expect(outcome).toEqual({ kind: 'changed', revision: after });
});

it('makes a change once, however often it is sent, and whatever has been made since', async () => {
  const { revision } = await readDrawer();
  const request = { put: [disc], remove: [], baseRevision: revision, changeId: crypto.randomUUID() };
  const both = await Promise.all([changeDrawer(request), changeDrawer(request)]);
  expect(both.map(({ kind }) => kind).sort()).toEqual(['changed', 'known']);
  await change({ remove: [disc.id] });
  const again = await changeDrawer(request);
  expect(again.kind).toBe('known');
  expect(await readDrawer()).toMatchObject({ parts: [], revision: revision + 2 });
});

it('reads parts stored under the names that fields had before, and shows one it cannot read with its fault', async () => {
  await change({ put: [disc, stick] });
  await pool().query(`UPDATE parts SET fields = fields - 'dcBiasDerating' || '{"keptAtRating": 0.5}' WHERE id = $1`, [
    disc.id,
  ]);
  await pool().query(`UPDATE parts SET fields = fields || '{"peakInverseVolts": "high"}' WHERE id = $1`, [stick.id]);
  const { parts, damaged } = await readDrawer();
  expect(parts).toEqual([{ ...disc, dcBiasDerating: 0.5 }]);
  expect(damaged).toMatchObject([
    { id: stick.id, name: stick.name, faults: [{ path: '$.peakInverseVolts' }], row: { kind: 'diode' } },
  ]);
});

it('reads a row anew that is not what was checked, and brings one of an older core up to date once', async () => {
  await change({ put: [disc, stick] });
  const marks = async () => (await pool().query('SELECT id, checked, fields FROM parts ORDER BY id')).rows;
  const [mark] = await marks();
  expect(mark.checked).toMatch(/[0-9a-f]{32}$/);
  // As an older core has left it: under an old name, checked by nobody we know.
  await pool().query(
    `UPDATE parts SET fields = fields - 'dcBiasDerating' || '{"keptAtRating": 0.5}', checked = 'older' WHERE id = $1`,
    [disc.id],
  );
  const changed = { ...disc, dcBiasDerating: 0.5 };
  expect((await readDrawer()).parts).toEqual([changed, stick]);
  const [brought, untouched] = await marks();
  expect(brought.fields).toMatchObject({ dcBiasDerating: 0.5 });
  expect(brought.checked).toMatch(/[0-9a-f]{32}$/);
  expect(untouched.checked).not.toBe('older');
  expect((await readDrawer()).parts).toEqual([changed, stick]);
  expect(await marks()).toEqual([brought, untouched]);
});

it('counts designs that cannot be read beside those that say what they take', async () => {
  const { id } = await createDesign(newDesign('Spoilt'));
  await pool().query(`UPDATE designs SET document = '{}' WHERE id = $1`, [id]);
  expect(await readDrawer()).toMatchObject({ uses: [], unreadDesigns: 1 });
});

it('says which designs take what, but for archived ones', async () => {
  await change({ put: [disc] });
  const four = newDesign('Takes four');
  const { id } = await createDesign(placed(four, placeOf(four, 'capacitor')!, disc, predict(four))!.design);
  expect((await readDrawer()).uses).toEqual([{ designId: id, designName: 'Takes four', partId: disc.id, count: 4 }]);
  await setArchived(id, true);
  expect((await readDrawer()).uses).toEqual([]);
});

it('opens with its first parts, those that cannot be read among them, and what is taken of those alone', async () => {
  const third = part('1n 30kV cer disc x4', '3');
  await change({ put: [disc, stick, third] });
  const four = newDesign('Takes four');
  for (const taken of [disc, third])
    await createDesign(placed(four, placeOf(four, 'capacitor')!, taken, predict(four))!.design);
  const opening = async (most: number): Promise<DrawerOpening> => JSON.parse(await drawerOpening(most));
  const whole = await readDrawer();
  expect(whole.parts).toEqual([disc, third, stick]);
  expect(await opening(3)).toEqual({ whole: true, of: 3, drawer: whole });
  expect(await opening(1)).toEqual({
    whole: false,
    of: 3,
    drawer: { ...whole, parts: [disc], uses: whole.uses.filter(({ partId }) => partId === disc.id) },
  });
  await pool().query(`UPDATE parts SET fields = '{}' WHERE id = $1`, [disc.id]);
  const damaged = await opening(2);
  expect(damaged).toMatchObject({ whole: false, drawer: { parts: [third], damaged: [{ id: disc.id }] } });
  expect((await opening(3)).whole).toBe(true);
  await pool().query('TRUNCATE parts');
  expect(await opening(1)).toMatchObject({ whole: true, of: 0, drawer: { parts: [] } });
});
