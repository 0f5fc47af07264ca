import { randomUUID } from 'node:crypto';
import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { EVERYTHING } from '@/core/predict/shelf-query';
import { newDesign } from '@/core/design/new-design';
import { DESIGN_VERSION } from '@/core/design/upgrade';
import { listSessions } from './bench';
import { loadDemoData } from './demo-data';
import {
  createDesign,
  findDesign,
  isDamaged,
  listRevisions,
  rawDocument,
  saveDesign,
  setArchived,
  thinRevisions,
  type Shelved,
} from './designs';
import { pool } from './pool';
import { readShelf } from './shelf';

// Against the real throw-away database that ./test starts and migrates.
beforeEach(() => pool().query('TRUNCATE designs, facts CASCADE'));
afterAll(() => pool().end());

/** The design that a row holds. */
const sound = (shelved: Shelved | null) => {
  if (shelved === null || isDamaged(shelved)) throw new Error(`not a sound design: ${JSON.stringify(shelved)}`);
  return shelved;
};

/** Spoils the stage count of a stored document, and of its last revision. */
const spoil = async (id: string) => {
  const spoilt = `document = jsonb_set(document, '{ladder,stages}', '"four"')`;
  await pool().query(`UPDATE designs SET ${spoilt} WHERE id = $1`, [id]);
  await pool().query(
    `UPDATE design_revisions SET ${spoilt} WHERE (design_id, revision) IN (SELECT id, revision FROM designs WHERE id = $1)`,
    [id],
  );
};

const withStages = (stages: number) => {
  const design = newDesign('kept');
  return { ...design, ladder: { ...design.ladder, stages } };
};

it('keeps a design and gives it back as it was', async () => {
  const { id } = await createDesign(withStages(5));
  expect(sound(await findDesign(id)).design).toEqual(withStages(5));
  expect(await findDesign(randomUUID())).toBeNull();
});

it('keeps every saved state', async () => {
  const { id } = await createDesign(withStages(1));
  await saveDesign(id, 1, withStages(2));
  await saveDesign(id, 2, withStages(3));
  expect(await listRevisions(id)).toMatchObject([
    { revision: 3, design: { ladder: { stages: 3 } } },
    { revision: 2, design: { ladder: { stages: 2 } } },
    { revision: 1, design: { ladder: { stages: 1 } } },
  ]);
});

it('tells the later of two saves of the same revision, and overwrites nothing', async () => {
  const { id } = await createDesign(withStages(1));
  const outcomes = await Promise.all([saveDesign(id, 1, withStages(2)), saveDesign(id, 1, withStages(3))]);
  expect(outcomes.map((outcome) => outcome.kind).sort()).toEqual(['conflict', 'saved']);
  const standing = sound(await findDesign(id));
  for (const outcome of outcomes)
    if (outcome.kind !== 'missing') expect(sound(outcome.stored).design).toEqual(standing.design);
  expect(standing.revision).toBe(2);
  expect(await saveDesign(randomUUID(), 1, withStages(1))).toEqual({ kind: 'missing' });
});

it('archives and restores without touching the document', async () => {
  const { id } = await createDesign(withStages(4));
  expect((await setArchived(id, true))!.archivedAt).not.toBeNull();
  const restored = sound(await setArchived(id, false));
  expect([restored.archivedAt, restored.revision, restored.design.ladder.stages]).toEqual([null, 1, 4]);
  expect(await setArchived(randomUUID(), true)).toBeNull();
});

describe('a document that the schema refuses', () => {
  it('stands as a damaged row with its fault, beside the sound ones', async () => {
    const { id } = await createDesign(withStages(4));
    await createDesign(withStages(5));
    await spoil(id);
    const damaged = { id, name: 'kept', faults: [{ path: '$.ladder.stages' }] };
    expect(await findDesign(id)).toMatchObject(damaged);
    const { rows } = await readShelf(EVERYTHING);
    expect(rows).toHaveLength(2);
    expect(rows.filter((row) => row.damaged)).toMatchObject([damaged]);
  });
  it('is handed out just as it is stored, can be archived, and is no conflict that cannot be read', async () => {
    const { id } = await createDesign(withStages(4));
    await spoil(id);
    expect(await rawDocument(id, null)).toMatchObject({ ladder: { stages: 'four' } });
    expect(await rawDocument(id, 1)).toMatchObject({ ladder: { stages: 'four' } });
    expect(await rawDocument(id, 2)).toBeUndefined();
    expect(isDamaged((await setArchived(id, true))!)).toBe(true);
    const outcome = await saveDesign(id, 7, withStages(2));
    expect(outcome.kind === 'conflict' && isDamaged(outcome.stored)).toBe(true);
  });
  it('comes back from an earlier revision, and its history says which state cannot be read', async () => {
    const { id } = await createDesign(withStages(4));
    await saveDesign(id, 1, withStages(5));
    await spoil(id);
    expect(await listRevisions(id)).toMatchObject([
      { revision: 2, faults: [{ path: '$.ladder.stages' }] },
      { revision: 1, design: { ladder: { stages: 4 } } },
    ]);
    expect((await saveDesign(id, 2, withStages(4))).kind).toBe('saved');
    expect(sound(await findDesign(id)).design.ladder.stages).toBe(4);
  });
});

it('brings a stored document of version 1 up to the present one', async () => {
  const { id } = await createDesign(withStages(4));
  await pool().query(
    `UPDATE designs SET document = jsonb_set(document, '{version}', '1')
       #- '{ladder,capacitor,dcBiasDerating}' || '{}' WHERE id = $1`,
    [id],
  );
  await pool().query(
    `UPDATE designs SET document = jsonb_set(document, '{ladder,capacitor,keptAtRating}', '0.4') WHERE id = $1`,
    [id],
  );
  const { design } = sound(await findDesign(id));
  expect([design.version, design.ladder.capacitor.dcBiasDerating]).toEqual([DESIGN_VERSION, 0.4]);
});

it('thins a long history: each save of a day, then one an hour, then one a day, always the first and the newest', async () => {
  const { id } = await createDesign(withStages(2));
  await pool().query('DELETE FROM design_revisions');
  // Saved every 10 minutes for 40 days, the newest now.
  const total = 40 * 144;
  await pool().query(
    `INSERT INTO design_revisions (design_id, revision, document, saved_at)
     SELECT $1, n, '{}', now() - ($2 - n) * interval '10 minutes' FROM generate_series(1, $2::int) n`,
    [id, total],
  );
  await thinRevisions(pool(), id);
  const { rows } = await pool().query<{ revision: number; age: number }>(
    'SELECT revision, extract(epoch FROM now() - saved_at)::float8 / 3600 AS age FROM design_revisions ORDER BY revision',
  );
  const between = (from: number, to: number) => rows.filter(({ age }) => age >= from && age < to).length;
  expect([rows[0].revision, rows.at(-1)!.revision]).toEqual([1, total]);
  expect(between(0, 23.9)).toBe(144);
  for (const [found, about] of [
    [between(24, 31 * 24), 30 * 24],
    [between(31 * 24, 41 * 24), 9],
  ])
    expect(Math.abs(found - about)).toBeLessThanOrEqual(2);
  await thinRevisions(pool(), id);
  expect((await pool().query('SELECT FROM design_revisions')).rowCount).toBe(rows.length);
});

describe('demo data', () => {
  const countOfDesigns = async () => (await pool().query('SELECT FROM designs')).rowCount;
  const demo = path.resolve('demo');
  it('is loaded once, even by two starters at once, and stays away after everything was removed', async () => {
    const loaded = await Promise.all([loadDemoData(demo), loadDemoData(demo)]);
    expect(loaded.sort()).toEqual([0, 5]);
    const { rows } = await pool().query<{ id: string }>('SELECT id FROM designs');
    const sessions = await Promise.all(rows.map(({ id }) => listSessions(id)));
    expect(sessions.flat().map(({ readings }) => readings.length > 0)).toEqual([true, true, true]);
    await pool().query('TRUNCATE designs CASCADE');
    expect(await loadDemoData(demo)).toBe(0);
    expect(await countOfDesigns()).toBe(0);
  });
  it('leaves a database alone that holds designs already', async () => {
    await createDesign(withStages(2));
    expect(await loadDemoData(demo)).toBe(0);
    expect(await countOfDesigns()).toBe(1);
  });
  it('names a bad file and loads none', async () => {
    const folder = await mkdtemp(path.join(tmpdir(), 'demo-'));
    await writeFile(path.join(folder, 'bad.ladder.json'), JSON.stringify({ ...withStages(2), name: '' }));
    await expect(loadDemoData(folder)).rejects.toThrow(/bad\.ladder\.json: \$\.name/);
    expect(await countOfDesigns()).toBe(0);
  });
});
