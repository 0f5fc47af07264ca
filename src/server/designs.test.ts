import { randomUUID } from 'node:crypto';
import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { newDesign } from '@/core/design/new-design';
import { loadDemoData } from './demo-data';
import { createDesign, findDesign, listDesigns, listRevisions, saveDesign, setArchived } from './designs';
import { pool } from './pool';

// Against the real throw-away database that ./test starts and migrates.
beforeEach(() => pool().query('TRUNCATE designs, design_revisions, facts'));
afterAll(() => pool().end());

const withStages = (stages: number) => {
  const design = newDesign('kept');
  return { ...design, ladder: { ...design.ladder, stages } };
};

it('keeps a design and gives it back as it was', async () => {
  const { id } = await createDesign(withStages(5));
  expect((await findDesign(id))!.design).toEqual(withStages(5));
  expect(await findDesign(randomUUID())).toBeNull();
});

it('keeps every saved state', async () => {
  const { id } = await createDesign(withStages(1));
  await saveDesign(id, 1, withStages(2));
  await saveDesign(id, 2, withStages(3));
  expect((await listRevisions(id)).map(({ revision, design }) => [revision, design.ladder.stages])).toEqual([
    [3, 3],
    [2, 2],
    [1, 1],
  ]);
});

it('tells the later of two saves of the same revision, and overwrites nothing', async () => {
  const { id } = await createDesign(withStages(1));
  const outcomes = await Promise.all([saveDesign(id, 1, withStages(2)), saveDesign(id, 1, withStages(3))]);
  expect(outcomes.map((outcome) => outcome.kind).sort()).toEqual(['conflict', 'saved']);
  const standing = (await findDesign(id))!;
  for (const outcome of outcomes)
    if (outcome.kind !== 'missing') expect(outcome.stored.design).toEqual(standing.design);
  expect(standing.revision).toBe(2);
  expect(await saveDesign(randomUUID(), 1, withStages(1))).toEqual({ kind: 'missing' });
});

it('archives and restores without touching the document', async () => {
  const { id } = await createDesign(withStages(4));
  expect((await setArchived(id, true))!.archivedAt).not.toBeNull();
  const restored = (await setArchived(id, false))!;
  expect([restored.archivedAt, restored.revision, restored.design.ladder.stages]).toEqual([null, 1, 4]);
  expect(await setArchived(randomUUID(), true)).toBeNull();
});

it('will not hand out a document that the schema refuses', async () => {
  const { id } = await createDesign(withStages(4));
  await pool().query(`UPDATE designs SET document = jsonb_set(document, '{ladder,stages}', '"four"') WHERE id = $1`, [
    id,
  ]);
  await expect(findDesign(id)).rejects.toThrow(/\$\.ladder\.stages/);
});

describe('demo data', () => {
  const demo = path.resolve('demo');
  it('is loaded once, even by two starters at once, and stays away after everything was removed', async () => {
    const loaded = await Promise.all([loadDemoData(demo), loadDemoData(demo)]);
    expect(loaded.sort()).toEqual([0, 5]);
    await pool().query('TRUNCATE designs, design_revisions');
    expect(await loadDemoData(demo)).toBe(0);
    expect(await listDesigns()).toEqual([]);
  });
  it('leaves a database alone that holds designs already', async () => {
    await createDesign(withStages(2));
    expect(await loadDemoData(demo)).toBe(0);
    expect(await listDesigns()).toHaveLength(1);
  });
  it('names a bad file and loads none', async () => {
    const folder = await mkdtemp(path.join(tmpdir(), 'demo-'));
    await writeFile(path.join(folder, 'bad.ladder.json'), JSON.stringify({ ...withStages(2), name: '' }));
    await expect(loadDemoData(folder)).rejects.toThrow(/bad\.ladder\.json: \$\.name/);
    expect(await listDesigns()).toEqual([]);
  });
});
