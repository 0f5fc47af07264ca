import type { PoolClient } from 'pg';
import { changedTicks, MOST_TICKS, type Tick, type TickChange } from '@/core/build/ticks';
import { NotKept } from './bench';
import { pool, transaction } from './pool';

/**
 * Keeps which steps of a design's sheet are done, changes made one after
 * another; the same again changes nothing.
 *
 * @throws NotKept
 */
export const keepTicks = (designId: string, changes: readonly TickChange[]): Promise<void> =>
  transaction(async (client) => {
    // Held until the end, so that two devices do not pass the limit together.
    const { rowCount } = await client.query('SELECT 1 FROM designs WHERE id = $1 FOR NO KEY UPDATE', [designId]);
    if (rowCount === 0) throw new NotKept('no design');
    // One statement takes a step but once: what stands after the last change of it.
    const standing = changedTicks([], changes);
    await client.query(
      `DELETE FROM sheet_ticks USING jsonb_to_recordset($2::jsonb) AS change (revision integer, step text)
       WHERE design_id = $1 AND sheet_ticks.revision = change.revision AND sheet_ticks.step = change.step`,
      [designId, JSON.stringify(changes)],
    );
    await insertTicks(client, designId, standing);
    const { rows } = await client.query<{ count: number }>(
      'SELECT count(*)::integer AS count FROM sheet_ticks WHERE design_id = $1',
      [designId],
    );
    if (rows[0].count > MOST_TICKS) throw new NotKept('too many');
  });

/** Puts steps in that are not there, each once. */
export async function insertTicks(client: PoolClient, designId: string, ticks: readonly Tick[]): Promise<void> {
  await client.query(
    `INSERT INTO sheet_ticks (design_id, revision, step, done_at)
     SELECT $1, revision, step, "doneAt"
     FROM jsonb_to_recordset($2::jsonb) AS row (revision integer, step text, "doneAt" timestamptz)`,
    [designId, JSON.stringify(ticks)],
  );
}

/** Every step done of a design's sheets, in the order in which they were done. */
export async function listTicks(designId: string, client: Pick<PoolClient, 'query'> = pool()): Promise<Tick[]> {
  const { rows } = await client.query<{ revision: number; step: string; done_at: Date }>(
    'SELECT revision, step, done_at FROM sheet_ticks WHERE design_id = $1 ORDER BY done_at, revision, step',
    [designId],
  );
  return rows.map(({ revision, step, done_at }) => ({ revision, step, doneAt: done_at.toISOString() }));
}
