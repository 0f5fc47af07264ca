import { newDesign } from '@/core/design/new-design';
import { EVERYTHING, SHELF_PAGE, SHELF_SORTS } from '@/core/predict/shelf-query';
import { shelfRow } from '@/core/predict/shelf-row';
import type { Design } from '@/core/design/design-schema';
import { createDesign, saveDesign, setArchived } from './designs';
import { pool } from './pool';
import { readShelf, renewOthers, usesOfParts } from './shelf';

// Against the real throw-away database that ./test starts and migrates.
beforeEach(() => pool().query('TRUNCATE designs, facts, parts CASCADE'));
afterAll(() => pool().end());

const design = (name: string, volts: number | null = null, stages = 2): Design => {
  const made = newDesign(name);
  return {
    ...made,
    ladder: { ...made.ladder, stages },
    target: volts === null ? null : { volts, amps: 1e-5, ripplePeakToPeakFraction: null, of: 'mean' },
  };
};
const names = async (query: Partial<typeof EVERYTHING> = {}) =>
  (await readShelf({ ...EVERYTHING, ...query })).rows.map(({ name }) => name);

it('rows are as the core computes them, from the save on and after a change', async () => {
  const { id } = await createDesign(design('One', 1e4));
  const row = async () => (await readShelf(EVERYTHING)).rows[0];
  expect(await row()).toMatchObject({ id, damaged: false, archived: false, ...shelfRow(design('One', 1e4)) });
  await saveDesign(id, 1, design('One', 1e4, 5));
  expect(await row()).toMatchObject(shelfRow(design('One', 1e4, 5)));
  // Changed by another hand, as an upgrade of stored documents does.
  await pool().query('UPDATE designs SET document = $1', [JSON.stringify(design('Two', null, 7))]);
  expect(await row()).toMatchObject(shelfRow(design('Two', null, 7)));
  const { rows } = await pool().query('SELECT shelf_core FROM designs');
  expect(rows[0].shelf_core).not.toBeNull();
});

it('figures of another core are computed anew, all of them, beside what is asked', async () => {
  for (let at = 0; at < 45; at += 1) await createDesign(design(`Design ${at}`));
  await pool().query(`UPDATE designs SET shelf_core = 'earlier', shelf = '{"row": {}, "uses": {}, "words": ""}'`);
  await renewOthers();
  const { rows } = await pool().query(
    "SELECT count(*)::int AS count FROM designs WHERE shelf_core <> 'earlier' AND shelf->'row'->>'stages' = '2'",
  );
  expect(rows[0].count).toBe(45);
});

it('is searched in names, notes and builds, and in nothing that a search makes up', async () => {
  await createDesign({ ...design('A 50 % duty'), notes: 'for the sanding_box' });
  await createDesign(design('Other', null, 3));
  expect(await names({ search: ' SANDING ' })).toEqual(['A 50 % duty']);
  expect(await names({ search: '3 stages' })).toEqual(['Other']);
  expect(await names({ search: '50 %' })).toEqual(['A 50 % duty']);
  for (const search of ['%', '_b', '\\', "'", 'x%y'])
    expect(await names({ search })).toEqual(search === '%' ? ['A 50 % duty'] : search === '_b' ? ['A 50 % duty'] : []);
});

it('is sorted by every column both ways, names by the numbers in them, and a damaged one keeps its place', async () => {
  for (const [name, volts] of [
    ['Stage 10', 2e3],
    ['Stage 2', 9e3],
    ['Stage 1', null],
  ] as const)
    await createDesign(design(name, volts));
  const { id } = await createDesign(design('Broken'));
  await pool().query(`UPDATE designs SET document = '{"name": "Broken"}' WHERE id = $1`, [id]);
  await readShelf(EVERYTHING);
  expect(await names({ sort: 'name', order: 'rising' })).toEqual(['Broken', 'Stage 1', 'Stage 2', 'Stage 10']);
  expect((await names({ sort: 'target', order: 'falling' })).slice(0, 2)).toEqual(['Stage 2', 'Stage 10']);
  for (const sort of SHELF_SORTS)
    for (const order of ['rising', 'falling'] as const) expect(await names({ sort, order })).toHaveLength(4);
  const { rows } = await readShelf({ ...EVERYTHING, search: 'broken' });
  expect(rows).toMatchObject([{ damaged: true, name: 'Broken', faultCount: expect.any(Number) }]);
  expect(await names({ from: 3e3 })).toEqual(['Stage 2']);
  expect(await names({ to: 3e3 })).toEqual(['Stage 10']);
});

it('a document that is nothing at all is a damaged row', async () => {
  await createDesign(design('Gone'));
  await pool().query(`UPDATE designs SET document = 'null'`);
  for (let time = 0; time < 2; time += 1)
    expect((await readShelf(EVERYTHING)).rows).toMatchObject([{ damaged: true, name: 'Design without a name' }]);
});

it('comes a page at a time, with how many there are', async () => {
  for (let at = 0; at < SHELF_PAGE + 5; at += 1) await createDesign(design(`Design ${at}`));
  const { id } = await createDesign(design('Away'));
  await setArchived(id, true);
  const page = await readShelf({ ...EVERYTHING, sort: 'name', order: 'rising' });
  expect([page.rows.length, page.found, page.standing, page.archived]).toEqual([
    SHELF_PAGE,
    SHELF_PAGE + 5,
    SHELF_PAGE + 5,
    1,
  ]);
  expect(page.rows[11].name).toBe('Design 11');
  expect(await names({ shown: 200 })).toHaveLength(SHELF_PAGE + 5);
  expect(await names({ archived: 'yes' })).toEqual(['Away']);
});

it('tells what designs in use take of the drawer', async () => {
  const taking = design('Taking');
  const partId = '11111111-1111-4111-8111-111111111111';
  const { id } = await createDesign({
    ...taking,
    ladder: { ...taking.ladder, capacitor: { ...taking.ladder.capacitor, partId } },
  });
  const taken = async (partIds: string[] | null) => {
    const { uses, unread } = await usesOfParts(partIds);
    return { uses: JSON.parse(uses), unread };
  };
  const all = { uses: [{ designId: id, designName: 'Taking', partId, count: 4 }], unread: 0 };
  const none = { uses: [], unread: 0 };
  expect(await taken(null)).toEqual(all);
  expect(await taken([partId])).toEqual(all);
  expect(await taken([])).toEqual(none);
  // One whose figures are not known yet is read for it.
  await pool().query(`UPDATE designs SET shelf_core = NULL`);
  expect(await taken([partId])).toEqual(all);
  expect(await taken([])).toEqual(none);
  await pool().query(`UPDATE designs SET document = '[]'`);
  expect(await taken(null)).toEqual({ uses: [], unread: 1 });
  await setArchived(id, true);
  expect(await taken(null)).toEqual(none);
});
