import { randomUUID } from 'node:crypto';
import { beginRun, withDone, type DeadRun } from '@/core/dead/run';
import { deadPlanOf, USUAL_PLAN } from '@/core/dead/plan';
import { newDesign } from '@/core/design/new-design';
import { finish } from '@/core/numeric/finish';
import { createDesign, saveDesign, thinRevisions } from './designs';
import { keepDischarge, listDischarges } from './discharges';
import { pool } from './pool';

// Against the real throw-away database that ./test starts and migrates.
beforeEach(() => pool().query('TRUNCATE designs CASCADE'));
afterAll(() => pool().end());

const design = newDesign('To be made dead');
const plan = finish(deadPlanOf(design, USUAL_PLAN));
const runOf = (changes: Partial<DeadRun> = {}): DeadRun => ({
  ...beginRun(plan, randomUUID(), 1, '2026-03-01T10:00:00.000Z'),
  ...changes,
});

it('is kept as it stands with every step, once, however often it is sent', async () => {
  const { id } = await createDesign(design);
  const run = runOf();
  const further = withDone(run, 0, '2026-03-01T10:01:00.000Z', null);
  for (const state of [run, run, further, further]) expect(await keepDischarge(id, state)).toBe(true);
  expect(await listDischarges(id)).toEqual([further]);
  const later = runOf({ startedAt: '2026-03-02T10:00:00.000Z' });
  await keepDischarge(id, later);
  expect(await listDischarges(id)).toEqual([later, further]);
});

it('is kept with no design but its own', async () => {
  const one = await createDesign(design);
  const other = await createDesign(design);
  const run = runOf();
  expect(await keepDischarge(randomUUID(), run)).toBe(false);
  await keepDischarge(one.id, run);
  expect(await keepDischarge(other.id, run)).toBe(false);
  expect([await listDischarges(one.id), await listDischarges(other.id)]).toEqual([[run], []]);
});

it('what cannot be read is passed over', async () => {
  const { id } = await createDesign(design);
  await keepDischarge(id, runOf());
  await pool().query(`UPDATE discharges SET record = '{}'`);
  expect(await listDischarges(id)).toEqual([]);
});

it('a revision that was made dead is never thinned away', async () => {
  const { id } = await createDesign(design);
  for (let revision = 1; revision <= 6; revision += 1)
    await saveDesign(id, revision, { ...design, notes: `${revision}` });
  await keepDischarge(id, runOf({ revision: 3 }));
  await pool().query(
    `UPDATE design_revisions SET saved_at = date_trunc('day', now()) - interval '40 days' + revision * interval '1 minute'`,
  );
  await thinRevisions(pool(), id);
  const { rows } = await pool().query<{ revision: number }>('SELECT revision FROM design_revisions ORDER BY revision');
  expect(rows.map(({ revision }) => revision)).toEqual([1, 3, 7]);
});
