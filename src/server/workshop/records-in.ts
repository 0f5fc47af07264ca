import { randomUUID } from 'node:crypto';
import deepEqual from 'fast-deep-equal';
import type { PoolClient } from 'pg';
import { MOST_READINGS, sessionSchema, type SessionReadings } from '@/core/bench/session';
import { MOST_TICKS, type Tick } from '@/core/build/ticks';
import { entrySchema } from '@/core/bench/entries';
import { runSchema, type DeadRun } from '@/core/dead/run';
import { designMember, pictureMember } from '@/core/workshop/archive';
import { withFreshIds } from '@/core/workshop/fresh-ids';
import type { Contents } from '@/core/workshop/messages';
import { writeReadings } from '../bench';
import { keepDischarge } from '../discharges';
import { asKeptBefore, MOST_PICTURES, writePicture } from '../pictures';
import { insertTicks } from '../ticks';
import { ArchiveRefused, type ZipIn } from './zip-in';

/** How many records are not here yet, and how many are with another content. */
export type Records = Contents['records'] & { differing: number };

/** What belongs to one design of an archive. */
export type Archived = {
  sessions: SessionReadings[];
  runs: DeadRun[];
  ticks: Tick[];
  /** Ids of pictures. */
  pictures: readonly string[];
};

/** Where each kind of record stands, whom it belongs to, and how it is read. */
const TABLES = {
  bench_sessions: { owner: 'design_id', schema: sessionSchema },
  bench_readings: { owner: 'session_id', schema: entrySchema },
  discharges: { owner: 'design_id', schema: runSchema },
} as const;
type Table = keyof typeof TABLES;

const refused = (path: string, message: string) => new ArchiveRefused([{ path, message }]);

/**
 * Counts what of a design's records is not here, and keeps it.
 *
 * @param id of the design in the archive
 * @param records counted into; null where they are not to be counted
 * @param target the design that is to have them, under ids of their own where that is a copy; null to keep none
 */
export async function takeRecords(
  client: PoolClient,
  zip: ZipIn,
  id: string,
  archived: Archived,
  records: Records | null,
  target: { id: string; asCopy: boolean } | null,
): Promise<void> {
  if (!target) {
    for (const picture of archived.pictures) await soundPicture(zip, id, picture);
    if (records) await notHere(client, id, archived, records);
    return;
  }
  if (target.asCopy) {
    const pictureIds = new Map(archived.pictures.map((picture) => [picture, randomUUID()]));
    await insertRecords(client, target.id, {
      ...withFreshIds(archived, pictureIds, randomUUID),
      ticks: archived.ticks,
    });
    await insertPictures(client, zip, id, target.id, pictureIds);
    await checkLimits(client, target.id);
    return;
  }
  if (!records) return;
  const fresh = await notHere(client, id, archived, records);
  await insertRecords(client, id, fresh);
  await insertPictures(client, zip, id, id, new Map(fresh.pictures.map((picture) => [picture, picture])));
  await checkLimits(client, id);
}

/**
 * Refuses an id that stands twice in an archive, in one design or in two.
 *
 * @param known ids of the designs before; those of this one are added
 */
export function checkIds(known: Set<string>, designId: string, { sessions, runs, pictures }: Archived): void {
  const once = (member: string, id: string) => {
    if (known.has(id)) throw refused(member, `has ${id}, which is in the archive twice; must be in it once`);
    known.add(id);
  };
  const bench = designMember(designId, 'bench');
  for (const { session, readings } of sessions) for (const { id } of [session, ...readings]) once(bench, id);
  for (const { id } of runs) once(designMember(designId, 'discharges'), id);
  for (const id of pictures) once(pictureMember(designId, id), id);
}

async function soundPicture(zip: ZipIn, designId: string, picture: string): Promise<Buffer> {
  const path = pictureMember(designId, picture);
  const jpeg = await asKeptBefore(await zip.bytes(path));
  if (!jpeg) throw refused(path, 'is no picture that can be read; must be a JPEG');
  return jpeg;
}

/** Of what is in the archive that which is not here; counted as it is found. */
async function notHere(client: PoolClient, id: string, archived: Archived, records: Records): Promise<Archived> {
  /** Which of these are not here; with which content others are. */
  const sift = async <T extends { id: string }>(
    table: Table,
    member: string,
    all: readonly T[],
    of: (one: T) => string,
  ) => {
    const { owner, schema } = TABLES[table];
    const { rows } = await client.query<{ id: string; owner: string; record: unknown }>(
      `SELECT id, ${owner} AS owner, record FROM ${table} WHERE id = ANY($1::uuid[])`,
      [all.map((one) => one.id)],
    );
    const here = new Map(rows.map((row) => [row.id, row]));
    return all.filter((one) => {
      const row = here.get(one.id);
      if (!row) return true;
      if (row.owner !== of(one))
        throw refused(member, `has ${one.id}, which belongs to something else here; must be under an id of its own`);
      if (!deepEqual(schema.safeParse(row.record).data, one)) records.differing += 1;
      return false;
    });
  };
  const bench = designMember(id, 'bench');
  const sessionOf = new Map(
    archived.sessions.flatMap(({ session, readings }) => readings.map((one) => [one.id, session.id] as const)),
  );
  const freshSessions = new Set(
    (
      await sift(
        'bench_sessions',
        bench,
        archived.sessions.map(({ session }) => session),
        () => id,
      )
    ).map((session) => session.id),
  );
  const readings = new Set(
    (
      await sift(
        'bench_readings',
        bench,
        archived.sessions.flatMap((one) => one.readings),
        (one) => sessionOf.get(one.id)!,
      )
    ).map((one) => one.id),
  );
  const runs = await sift('discharges', designMember(id, 'discharges'), archived.runs, () => id);
  const { rows: ticked } = await client.query<{ revision: number; step: string }>(
    'SELECT revision, step FROM sheet_ticks WHERE design_id = $1',
    [id],
  );
  const known = new Set(ticked.map(({ revision, step }) => `${revision} ${step}`));
  const ticks = archived.ticks.filter(({ revision, step }) => !known.has(`${revision} ${step}`));
  const { rows: shown } = await client.query<{ id: string; design_id: string }>(
    'SELECT id, design_id FROM bench_pictures WHERE id = ANY($1::uuid[])',
    [archived.pictures],
  );
  const foreign = shown.find(({ design_id }) => design_id !== id);
  if (foreign)
    throw refused(pictureMember(id, foreign.id), 'belongs to another design here; must be under an id of its own');
  const kept = new Set(shown.map((picture) => picture.id));
  const pictures = archived.pictures.filter((picture) => !kept.has(picture));
  records.sessions += freshSessions.size;
  records.readings += readings.size;
  records.discharges += runs.length;
  records.ticks += ticks.length;
  records.pictures += pictures.length;
  return {
    sessions: archived.sessions
      .map((one) => ({ ...one, readings: one.readings.filter((entry) => readings.has(entry.id)) }))
      .filter(({ session, readings: own }) => freshSessions.has(session.id) || own.length > 0),
    runs,
    ticks,
    pictures,
  };
}

async function insertRecords(
  client: PoolClient,
  designId: string,
  { sessions, runs, ticks }: Omit<Archived, 'pictures'>,
): Promise<void> {
  for (const one of sessions) await writeReadings(client, designId, one);
  for (const run of runs) await keepDischarge(designId, run, client);
  await insertTicks(client, designId, ticks);
}

/** Keeps pictures under their new ids, one after the other: an archive may have thousands. */
async function insertPictures(
  client: PoolClient,
  zip: ZipIn,
  from: string,
  designId: string,
  ids: ReadonlyMap<string, string>,
): Promise<void> {
  for (const [picture, id] of ids) await writePicture(client, designId, id, await soundPicture(zip, from, picture));
}

/** What one session and one design may have holds for what is taken in as well. */
async function checkLimits(client: PoolClient, id: string): Promise<void> {
  const { rows } = await client.query<{ readings: number; ticks: number; pictures: number }>(
    `SELECT coalesce((SELECT max(count) FROM (
         SELECT count(*)::int AS count FROM bench_readings JOIN bench_sessions ON bench_sessions.id = session_id
         WHERE design_id = $1 GROUP BY session_id) AS own), 0) AS readings,
       (SELECT count(*)::int FROM sheet_ticks WHERE design_id = $1) AS ticks,
       (SELECT count(*)::int FROM bench_pictures WHERE design_id = $1) AS pictures`,
    [id],
  );
  const [{ readings, ticks, pictures }] = rows;
  if (readings > MOST_READINGS)
    throw refused(designMember(id, 'bench'), `would make more than ${MOST_READINGS} readings of one session`);
  if (ticks > MOST_TICKS) throw refused(designMember(id, 'ticks'), `would make more than ${MOST_TICKS} steps done`);
  if (pictures > MOST_PICTURES)
    throw refused(designMember(id, 'design'), `would have more than ${MOST_PICTURES} pictures of one design`);
}
