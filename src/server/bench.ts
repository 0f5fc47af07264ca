import { entrySchema, type Entry } from '@/core/bench/entries';
import { MOST_READINGS, sessionSchema, stoodAs, type SessionReadings } from '@/core/bench/session';
import type { LastMeasured } from '@/core/predict/shelf-query';
import type { PoolClient } from 'pg';
import { pool, transaction } from './pool';

/** Why readings are not kept: nothing of them is then. */
export class NotKept extends Error {
  constructor(readonly why: 'no design' | 'put away' | 'of another design' | 'too many') {
    super(why);
  }
}

/**
 * Keeps a session with more readings of it. What is kept already stays as it is:
 * the same may be sent again where an answer was lost, and by several devices.
 *
 * @returns the ids of those readings that are kept now
 * @throws NotKept
 */
export const keepReadings = (designId: string, readings: SessionReadings): Promise<string[]> =>
  transaction((client) => insertReadings(client, designId, readings));

/** The same within a transaction that is under way. */
export async function insertReadings(
  client: PoolClient,
  designId: string,
  { session, readings }: SessionReadings,
): Promise<string[]> {
  const { rows: designs } = await client.query<{ archived_at: Date | null }>(
    'SELECT archived_at FROM designs WHERE id = $1 FOR KEY SHARE',
    [designId],
  );
  if (designs.length === 0) throw new NotKept('no design');
  if (designs[0].archived_at) throw new NotKept('put away');
  await writeReadings(client, designId, { session, readings });
  const { rows } = await client.query<{ id: string }>('SELECT id FROM bench_readings WHERE session_id = $1', [
    session.id,
  ]);
  if (rows.length > MOST_READINGS) throw new NotKept('too many');
  const kept = new Set(rows.map((row) => row.id));
  return readings.flatMap((one) => (kept.has(one.id) ? [one.id] : []));
}

/**
 * Puts a session and readings in where they are not there.
 *
 * @throws NotKept where the session is another design's
 */
export async function writeReadings(
  client: PoolClient,
  designId: string,
  { session, readings }: SessionReadings,
): Promise<void> {
  await client.query(
    `INSERT INTO bench_sessions (id, design_id, revision, started_at, record)
       VALUES ($1, $2, $3, $4, $5) ON CONFLICT (id) DO NOTHING`,
    [session.id, designId, session.revision, session.startedAt, JSON.stringify(session)],
  );
  // Held until the end, so that two devices do not pass the limit together.
  const { rowCount: own } = await client.query(
    'SELECT 1 FROM bench_sessions WHERE id = $1 AND design_id = $2 FOR UPDATE',
    [session.id, designId],
  );
  if (own === 0) throw new NotKept('of another design');
  await client.query(
    `INSERT INTO bench_readings (id, session_id, taken_at, record)
       SELECT (one ->> 'id')::uuid, $1, (one ->> 'takenAt')::timestamptz, one
       FROM jsonb_array_elements($2::jsonb) AS one ON CONFLICT (id) DO NOTHING`,
    [session.id, JSON.stringify(readings)],
  );
}

/** Every session of a design with its readings, newest session first; what cannot be read is passed over. */
export async function listSessions(designId: string): Promise<SessionReadings[]> {
  const { rows } = await pool().query<{ session: unknown; readings: unknown[] }>(
    `SELECT bench_sessions.record AS session,
       coalesce(jsonb_agg(bench_readings.record ORDER BY taken_at, bench_readings.id)
         FILTER (WHERE bench_readings.id IS NOT NULL), '[]') AS readings
     FROM bench_sessions LEFT JOIN bench_readings ON session_id = bench_sessions.id
     WHERE design_id = $1 GROUP BY bench_sessions.id ORDER BY started_at DESC, bench_sessions.id`,
    [designId],
  );
  return rows.flatMap(({ session, readings }) => {
    const read = sessionSchema.safeParse(session);
    return read.success ? [{ session: read.data, readings: readings.flatMap(soundEntry) }] : [];
  });
}

/** When each of these designs was last measured, and how that stood; of none that has no readings. */
export async function lastMeasured(designIds: readonly string[]): Promise<ReadonlyMap<string, LastMeasured>> {
  const { rows } = await pool().query<{ design_id: string; started_at: Date; readings: unknown[] }>(
    `SELECT DISTINCT ON (design_id) design_id, started_at, readings FROM bench_sessions
     JOIN LATERAL (SELECT jsonb_agg(record) AS readings FROM bench_readings WHERE session_id = bench_sessions.id) AS own
       ON readings IS NOT NULL
     WHERE design_id = ANY($1::uuid[]) ORDER BY design_id, started_at DESC`,
    [designIds],
  );
  return new Map(
    rows.map(({ design_id, started_at, readings }) => [
      design_id,
      { at: started_at.toISOString(), ...stoodAs(readings.flatMap(soundEntry)) },
    ]),
  );
}

/** An entry as it is stored; nothing of what cannot be read. */
export function soundEntry(record: unknown): Entry[] {
  const read = entrySchema.safeParse(record);
  return read.success ? [read.data] : [];
}
