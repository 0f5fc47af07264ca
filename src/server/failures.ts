import type { FailureRecord } from '@/core/bench/failures';
import { standing } from '@/core/bench/session';
import { soundEntry } from './bench';
import { pool } from './pool';

/** Every failure noted at the bench, of all designs, that nothing has taken the place of; newest first. */
export async function listFailures(): Promise<FailureRecord[]> {
  const { rows } = await pool().query<{ design_id: string; name: string; revision: number; entries: unknown[] }>(
    `SELECT design_id, coalesce(designs.name, '') AS name, bench_sessions.revision, entries FROM bench_sessions
     JOIN designs ON designs.id = design_id
     JOIN LATERAL (
       SELECT jsonb_agg(record) AS entries, bool_or(record ->> 'kind' = 'failure') AS failed
       FROM bench_readings WHERE session_id = bench_sessions.id
     ) AS own ON own.failed`,
  );
  return rows
    .flatMap(({ design_id: designId, name: designName, revision, entries }) =>
      standing(entries.flatMap(soundEntry)).flatMap((failure) =>
        failure.kind === 'failure' ? [{ designId, designName, revision, failure }] : [],
      ),
    )
    .toSorted((one, other) => other.failure.takenAt.localeCompare(one.failure.takenAt));
}
