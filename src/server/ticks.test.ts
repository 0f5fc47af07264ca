import { randomUUID } from 'node:crypto';
import { MOST_TICKS } from '@/core/build/ticks';
import { newDesign } from '@/core/design/new-design';
import { createDesign, saveDesign, thinRevisions } from './designs';
import { pool } from './pool';
import { keepTicks, listTicks } from './ticks';

// Against the real throw-away database that ./test starts and migrates.
beforeEach(() => pool().query('TRUNCATE designs CASCADE'));
afterAll(() => pool().end());

const design = newDesign('To be built');
const tick = (revision: number, step: string, minute = 0) => ({
  revision,
  step,
  doneAt: `2026-03-01T10:${String(minute).padStart(2, '0')}:00.000Z`,
});

it('ticks are kept with their revision, once, and taken away again', async () => {
  const { id } = await createDesign(design);
  const sent = [tick(1, 'assembly bench', 2), tick(1, 'checks leads', 1), tick(2, 'checks leads', 3)];
  for (let again = 0; again < 2; again += 1) await keepTicks(id, sent);
  expect(await listTicks(id)).toEqual([sent[1], sent[0], sent[2]]);
  await keepTicks(id, [{ ...sent[0], doneAt: null }, { ...sent[2], doneAt: null }, tick(2, 'checks leads', 9)]);
  expect(await listTicks(id)).toEqual([sent[1], tick(2, 'checks leads', 9)]);
});

it('ticks are of one design, and of none that is not there', async () => {
  const one = await createDesign(design);
  const other = await createDesign(design);
  await keepTicks(one.id, [tick(1, 'a')]);
  expect(await listTicks(other.id)).toEqual([]);
  await expect(keepTicks(randomUUID(), [tick(1, 'a')])).rejects.toMatchObject({ why: 'no design' });
});

it('more than a design keeps are refused, all of them', async () => {
  const { id } = await createDesign(design);
  await keepTicks(id, [tick(1, 'first')]);
  const many = Array.from({ length: MOST_TICKS }, (_, at) => tick(2, `step ${at}`));
  await expect(keepTicks(id, many)).rejects.toMatchObject({ why: 'too many' });
  expect(await listTicks(id)).toEqual([tick(1, 'first')]);
});

it('a revision that was built from is never thinned away', async () => {
  const { id } = await createDesign(design);
  for (let revision = 1; revision <= 6; revision += 1)
    await saveDesign(id, revision, { ...design, notes: `${revision}` });
  await keepTicks(id, [tick(4, 'a')]);
  await pool().query(
    `UPDATE design_revisions SET saved_at = date_trunc('day', now()) - interval '40 days' + revision * interval '1 minute'`,
  );
  await thinRevisions(pool(), id);
  const { rows } = await pool().query<{ revision: number }>('SELECT revision FROM design_revisions ORDER BY revision');
  expect(rows.map(({ revision }) => revision)).toEqual([1, 4, 7]);
});
