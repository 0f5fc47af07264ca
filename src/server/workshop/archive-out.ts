import type { Readable } from 'node:stream';
import { setImmediate } from 'node:timers/promises';
import type { PoolClient } from 'pg';
import { runSchema } from '@/core/dead/run';
import { readDesign } from '@/core/design/read-design';
import { entrySchema } from '@/core/bench/entries';
import { sessionSchema, type SessionReadings } from '@/core/bench/session';
import type { OwnMeters } from '@/core/drive/meter-sense';
import {
  designMember,
  DRAWER,
  MANIFEST,
  METERS,
  pictureMember,
  UNREAD,
  WORKSHOP_FORMAT,
  WORKSHOP_VERSION,
  type DesignMember,
  type Manifest,
  type Unread,
} from '@/core/workshop/archive';
import type { Holdings } from '@/core/workshop/messages';
import { readPart, type PartRow } from '../drawer';
import { atOneMoment, pool } from '../pool';
import { listTicks } from '../ticks';
import { zipOut } from './zip-out';

/** A moment to the millisecond, as the application reads it. */
const moment = (column: string) =>
  `to_char(date_trunc('milliseconds', ${column}) AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;

const asJson = (value: unknown): Buffer => Buffer.from(`${JSON.stringify(value)}\n`);

/** Documents read between two pauses for others. */
const AT_ONCE = 10;

/** How much there is to put into an archive. */
export async function holdings(): Promise<Holdings> {
  const { rows } = await pool().query<Holdings>(
    `SELECT (SELECT count(*)::int FROM designs) AS designs,
       (SELECT count(*)::int FROM design_revisions) AS revisions,
       (SELECT count(*)::int FROM parts) AS parts,
       (SELECT count(*)::int FROM bench_sessions) AS sessions,
       (SELECT count(*)::int FROM bench_readings) AS readings,
       (SELECT count(*)::int FROM discharges) AS discharges,
       count(*)::int AS pictures, coalesce(sum(length(jpeg)), 0)::float8 AS "pictureBytes"
     FROM bench_pictures`,
  );
  return rows[0];
}

/**
 * The whole workshop as it stands at one moment, as a ZIP file that is made while
 * it is read. The same workshop gives the same bytes.
 *
 * @param meters that the browser keeps
 */
export function writeArchive({ meters }: OwnMeters): Readable {
  const zip = zipOut();
  const written = atOneMoment(async (client) => {
    const unread: Unread = [];
    await zip.add(METERS, asJson({ meters }));
    await zip.add(DRAWER, asJson(await drawerOf(client, unread)));
    const { rows } = await client.query<{ id: string }>('SELECT id FROM designs ORDER BY id');
    for (const { id } of rows) {
      const design = await designOf(client, id, unread);
      // What belongs to a design that cannot be read has no place without it.
      if (!design) continue;
      await zip.add(designMember(id, 'design'), asJson(design));
      const records = {
        bench: await sessionsOf(client, id, unread),
        discharges: await runsOf(client, id, unread),
        ticks: await listTicks(id, client),
      };
      for (const part of ['bench', 'discharges', 'ticks'] as const)
        if (records[part].length > 0) await zip.add(designMember(id, part), asJson(records[part]));
      await addPictures(client, id, zip.add);
    }
    if (unread.length > 0) await zip.add(UNREAD, asJson(unread));
    const manifest: Manifest = { format: WORKSHOP_FORMAT, version: WORKSHOP_VERSION, members: zip.members };
    await zip.end(MANIFEST, asJson(manifest));
  });
  // Whoever reads it is told by an end that comes too soon.
  written.catch((error: Error) => zip.output.destroy(error));
  return zip.output;
}

async function drawerOf(client: PoolClient, unread: Unread) {
  const { rows } = await client.query<PartRow>(
    `SELECT id, kind, name, count, price::float8, note, fields FROM parts ORDER BY kind, name COLLATE "C", id`,
  );
  const parts = [];
  for (const [at, row] of rows.entries()) {
    if (at % AT_ONCE === 0) await setImmediate();
    const read = readPart(row);
    if (read.success) parts.push(read.data);
    else unread.push({ of: 'drawer', row });
  }
  return { parts };
}

/** A design with its history; null where one of its documents cannot be read, which then is among what is unread. */
async function designOf(client: PoolClient, id: string, unread: Unread): Promise<DesignMember | null> {
  const { rows } = await client.query<Pick<DesignMember, 'createdAt' | 'archivedAt'>>(
    `SELECT ${moment('created_at')} AS "createdAt", ${moment('archived_at')} AS "archivedAt" FROM designs WHERE id = $1`,
    [id],
  );
  const { rows: revisions } = await client.query<DesignMember['revisions'][number]>(
    // What stands is the row itself, and its own state in the history is the same.
    `SELECT revision, ${moment('saved_at')} AS "savedAt", document FROM design_revisions
       WHERE design_id = $1 AND revision < (SELECT revision FROM designs WHERE id = $1)
     UNION ALL SELECT revision, ${moment('saved_at')}, document FROM designs WHERE id = $1
     ORDER BY revision`,
    [id],
  );
  const design: DesignMember = { id, ...rows[0], revisions };
  for (const [at, { document }] of revisions.entries()) {
    if (at % AT_ONCE === 0) await setImmediate();
    if (readDesign(document).ok) continue;
    unread.push({ of: designMember(id, 'design'), row: design });
    return null;
  }
  return design;
}

async function sessionsOf(client: PoolClient, id: string, unread: Unread): Promise<SessionReadings[]> {
  const { rows } = await client.query<{ session: unknown; readings: unknown[] }>(
    `SELECT bench_sessions.record AS session,
       coalesce((SELECT jsonb_agg(record ORDER BY taken_at, bench_readings.id) FROM bench_readings
         WHERE session_id = bench_sessions.id), '[]') AS readings
     FROM bench_sessions WHERE design_id = $1 ORDER BY started_at, id`,
    [id],
  );
  return rows.flatMap(({ session, readings }) => {
    const read = sessionSchema.safeParse(session);
    if (!read.success) {
      unread.push({ of: designMember(id, 'bench'), row: { session, readings } });
      return [];
    }
    const sound = readings.flatMap((reading) => {
      const entry = entrySchema.safeParse(reading);
      if (!entry.success) unread.push({ of: designMember(id, 'bench'), row: { session: read.data.id, reading } });
      return entry.success ? [entry.data] : [];
    });
    return [{ session: read.data, readings: sound }];
  });
}

async function runsOf(client: PoolClient, id: string, unread: Unread) {
  const { rows } = await client.query<{ record: unknown }>(
    'SELECT record FROM discharges WHERE design_id = $1 ORDER BY started_at, id',
    [id],
  );
  return rows.flatMap(({ record }) => {
    const read = runSchema.safeParse(record);
    if (!read.success) unread.push({ of: designMember(id, 'discharges'), row: record });
    return read.success ? [read.data] : [];
  });
}

async function addPictures(client: PoolClient, id: string, add: ReturnType<typeof zipOut>['add']): Promise<void> {
  const { rows } = await client.query<{ id: string }>(
    'SELECT id FROM bench_pictures WHERE design_id = $1 ORDER BY id',
    [id],
  );
  for (const picture of rows) {
    const { rows: found } = await client.query<{ jpeg: Buffer }>('SELECT jpeg FROM bench_pictures WHERE id = $1', [
      picture.id,
    ]);
    // Already as small as it gets.
    await add(pictureMember(id, picture.id), found[0].jpeg, false);
  }
}
