import { runSchema, type DeadRun } from '@/core/dead/run';
import type { PoolClient } from 'pg';
import { pool } from './pool';

/**
 * Keeps a run of a plan, over what was kept of the same before: it is sent again
 * with every step, and once more where an answer was lost.
 *
 * @returns false where there is no such design
 */
export async function keepDischarge(
  designId: string,
  run: DeadRun,
  client: Pick<PoolClient, 'query'> = pool(),
): Promise<boolean> {
  const { rowCount } = await client.query(
    `INSERT INTO discharges (id, design_id, revision, started_at, finished_at, record)
     SELECT $1, designs.id, $3, $4, $5, $6 FROM designs WHERE designs.id = $2
     ON CONFLICT (id) DO UPDATE SET finished_at = excluded.finished_at, record = excluded.record
       WHERE discharges.design_id = excluded.design_id`,
    [run.id, designId, run.revision, run.startedAt, run.finishedAt, JSON.stringify(run)],
  );
  return rowCount === 1;
}

/** Every run of a design's plans, newest first; what cannot be read is passed over. */
export async function listDischarges(designId: string): Promise<DeadRun[]> {
  const { rows } = await pool().query<{ record: unknown }>(
    'SELECT record FROM discharges WHERE design_id = $1 ORDER BY started_at DESC, id',
    [designId],
  );
  return rows.flatMap(({ record }) => {
    const read = runSchema.safeParse(record);
    return read.success ? [read.data] : [];
  });
}
