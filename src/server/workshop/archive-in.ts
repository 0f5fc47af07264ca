import { createHash, randomUUID } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import deepEqual from 'fast-deep-equal';
import type { PoolClient } from 'pg';
import { changedTicks } from '@/core/build/ticks';
import { copyOf } from '@/core/design/copy-of';
import { readDesign } from '@/core/design/read-design';
import type { Fault } from '@/core/schema/faults';
import type * as z from '@/core/zod';
import {
  benchMemberSchema,
  designMember,
  designMemberSchema,
  dischargesMemberSchema,
  DRAWER,
  drawerMemberSchema,
  inMember,
  METERS,
  metersMemberSchema,
  placeOf,
  ticksMemberSchema,
  UNREAD,
  unreadMemberSchema,
  type DesignMember,
  type DesignPart,
} from '@/core/workshop/archive';
import { standingOf, type HistoryStanding } from '@/core/workshop/history';
import type { Contents, Decisions, Inspection } from '@/core/workshop/messages';
import { applyChange, findParts } from '../drawer';
import { nameIn } from '../designs';
import { atOneMoment, transaction } from '../pool';
import { checkIds, takeRecords, type Archived, type Records } from './records-in';
import { ArchiveRefused, zipIn, type ZipIn } from './zip-in';

/** Documents read between two pauses for others. */
const AT_ONCE = 10;
/** Faults that are told of one archive. */
const MOST_TOLD = 20;

/** What has changed between inspecting an archive and taking it. */
export class SeenOtherwise extends Error {
  constructor(readonly inspection: Inspection) {
    super('the workshop has changed since the archive was inspected');
  }
}

const inspectionOf = (contents: Contents): Inspection => ({
  contents,
  seen: createHash('sha256').update(JSON.stringify(contents)).digest('hex'),
});

/**
 * What an archive holds beside what is here. Everything in it is read and
 * checked; nothing is changed.
 *
 * @throws ArchiveRefused
 */
export const inspectArchive = (file: string, signal: AbortSignal): Promise<Inspection> =>
  atOneMoment(async (client) => inspectionOf(await goThrough(client, file, null, signal)));

/**
 * Takes an archive in, all of it or nothing.
 *
 * @param seen what was told of it when it was inspected
 * @throws ArchiveRefused, or SeenOtherwise where that would be told otherwise now
 */
export const takeArchive = (file: string, decisions: Decisions, seen: string, signal: AbortSignal): Promise<Contents> =>
  transaction(async (client) => {
    const inspection = inspectionOf(await goThrough(client, file, decisions, signal));
    if (inspection.seen !== seen) throw new SeenOtherwise(inspection);
    return inspection.contents;
  });

/** Goes through every member; with decisions what is not here is written as it goes. */
async function goThrough(
  client: PoolClient,
  file: string,
  decisions: Decisions | null,
  signal: AbortSignal,
): Promise<Contents> {
  const zip = await zipIn(file);
  try {
    const faults: Fault[] = [];
    /** Goes on behind a fault, to tell of others as well; nothing is kept then. */
    const trying = async <T>(work: () => Promise<T>, otherwise: T): Promise<T> => {
      signal.throwIfAborted();
      if (faults.length >= MOST_TOLD) throw new ArchiveRefused(faults.slice(0, MOST_TOLD));
      try {
        return await work();
      } catch (error) {
        if (!(error instanceof ArchiveRefused)) throw error;
        faults.push(...error.faults);
        return otherwise;
      }
    };
    const meters = await trying(
      async () => (zip.has(METERS) ? (await zip.json(METERS, metersMemberSchema)).meters : []),
      [],
    );
    const parts = await trying(() => takeParts(client, zip, decisions), { fresh: 0, same: 0, clashing: [] });
    const unread = await trying(
      async () => (zip.has(UNREAD) ? (await zip.json(UNREAD, unreadMemberSchema)).length : 0),
      0,
    );
    const designs: Contents['designs'] = { fresh: [], revisions: 0, same: 0, later: [], clashing: [] };
    const records: Records = { sessions: 0, readings: 0, discharges: 0, ticks: 0, pictures: 0, differing: 0 };
    const known = new Set<string>();
    for (const [id, pictures] of designsIn(zip))
      await trying(async () => {
        if (!zip.has(designMember(id, 'design')))
          throw new ArchiveRefused([
            { path: designMember(id, 'design'), message: 'is missing; must be there for what belongs to it' },
          ]);
        await takeDesign(client, zip, id, pictures, decisions, designs, records, known);
      }, undefined);
    if (faults.length > 0) throw new ArchiveRefused(faults.slice(0, MOST_TOLD));
    const { differing: differingRecords, ...told } = records;
    return { designs, parts, records: told, differingRecords, unread, meters };
  } finally {
    zip.close();
  }
}

/** Every design that a member belongs to, with its pictures. */
function designsIn(zip: ZipIn): Map<string, string[]> {
  const designs = new Map<string, string[]>();
  for (const path of zip.paths) {
    const place = placeOf(path)!;
    if (place.kind !== 'design' && place.kind !== 'picture') continue;
    const pictures = designs.get(place.designId) ?? [];
    if (place.kind === 'picture') pictures.push(place.pictureId);
    designs.set(place.designId, pictures);
  }
  return designs;
}

async function takeParts(client: PoolClient, zip: ZipIn, decisions: Decisions | null): Promise<Contents['parts']> {
  if (!zip.has(DRAWER)) return { fresh: 0, same: 0, clashing: [] };
  const { parts } = await zip.json(DRAWER, drawerMemberSchema);
  if (new Set(parts.map(({ id }) => id)).size < parts.length)
    throw new ArchiveRefused([{ path: DRAWER, message: 'has two parts with one id; must have each once' }]);
  // Whoever changes the drawer meanwhile waits.
  if (decisions) await client.query('SELECT FROM drawer_state FOR UPDATE');
  const here = await findParts(
    client,
    parts.map(({ id }) => id),
  );
  const fresh = parts.filter(({ id }) => !here.has(id));
  const others = parts.filter((part) => here.has(part.id) && !deepEqual(here.get(part.id)!.part, part));
  if (decisions) {
    const put = decisions.parts === 'archive' ? [...fresh, ...others] : fresh;
    if (put.length > 0) {
      await client.query('UPDATE drawer_state SET revision = revision + 1');
      await applyChange(client, { put, remove: [] });
    }
  }
  return {
    fresh: fresh.length,
    same: parts.length - fresh.length - others.length,
    clashing: others.map(({ id, name, count }) => {
      const { name: hereName, count: hereCount } = here.get(id)!;
      return { id, name, count, hereName, hereCount };
    }),
  };
}

/** The history of an archived design, every document read. */
async function historyOf(zip: ZipIn, id: string): Promise<DesignMember> {
  const path = designMember(id, 'design');
  const design = await zip.json(path, designMemberSchema, null);
  const faults: Fault[] =
    design.id === id ? [] : [{ path: `${path} $.id`, message: `is ${design.id}; must be that of its folder` }];
  for (const [at, { document }] of design.revisions.entries()) {
    if (at % AT_ONCE === 0) await setImmediate();
    const reading = readDesign(document);
    if (reading.ok) continue;
    for (const fault of reading.faults)
      faults.push(inMember(path, { ...fault, path: fault.path.replace('$', `$.revisions[${at}].document`) }));
    if (faults.length >= MOST_TOLD) break;
  }
  if (faults.length > 0) throw new ArchiveRefused(faults);
  return design;
}

async function takeDesign(
  client: PoolClient,
  zip: ZipIn,
  id: string,
  pictures: readonly string[],
  decisions: Decisions | null,
  designs: Contents['designs'],
  records: Records,
  known: Set<string>,
): Promise<void> {
  const design = await historyOf(zip, id);
  const member = async <T>(part: DesignPart, schema: z.ZodType<T[]>): Promise<T[]> =>
    zip.has(designMember(id, part)) ? zip.json(designMember(id, part), schema) : [];
  const archived: Archived = {
    sessions: await member('bench', benchMemberSchema),
    runs: await member('discharges', dischargesMemberSchema),
    // Of two ticks of one step the later counts.
    ticks: changedTicks([], await member('ticks', ticksMemberSchema)),
    pictures,
  };
  checkIds(known, id, archived);
  const newest = design.revisions.at(-1)!;
  const named = { id, name: nameIn(newest.document) };
  const here = await standingHere(client, design);
  const writes = decisions !== null;
  let target: { id: string; asCopy: boolean } | null = { id, asCopy: false };
  if (here === null) {
    designs.fresh.push(named);
    designs.revisions += design.revisions.length;
    if (writes) await insertHistory(client, design);
  } else if (here.standing === 'same') designs.same += 1;
  else if (here.standing === 'later') {
    designs.later.push(named);
    if (writes) await continueHistory(client, design, here.revision);
  } else {
    const { name: hereName, revision: hereRevision, savedAt: hereSavedAt } = here;
    const { revision, savedAt } = newest;
    designs.clashing.push({ ...named, hereName, hereRevision, hereSavedAt, revision, savedAt });
    target = null;
    if (decisions?.designs === 'both') {
      target = { id: randomUUID(), asCopy: true };
      await insertHistory(client, asCopy(design, target.id));
    }
  }
  await takeRecords(client, zip, id, archived, here?.standing !== 'apart' ? records : null, writes ? target : null);
}

/** The same design under an id of its own, with a name that tells it apart as its last revision. */
function asCopy(design: DesignMember, id: string): DesignMember {
  const { revision, document } = design.revisions.at(-1)!;
  const reading = readDesign(document);
  if (!reading.ok) throw new Error('a document that was read is read no more');
  const last = {
    revision: revision + 1,
    savedAt: new Date().toISOString(),
    document: copyOf(reading.design, 'from an archive'),
  };
  return { ...design, id, revisions: [...design.revisions, last] };
}

type Here = { standing: HistoryStanding; name: string; revision: number; savedAt: string };

/** How a design's history stands to what is here; null where there is no such design. */
async function standingHere(client: PoolClient, { id, revisions }: DesignMember): Promise<Here | null> {
  const { rows } = await client.query<{ name: string | null; revision: number; saved_at: Date }>(
    'SELECT name, revision, saved_at FROM designs WHERE id = $1',
    [id],
  );
  if (rows.length === 0) return null;
  const { rows: own } = await client.query<{ revision: number; digest: string }>(
    `SELECT revision, md5(document::text) AS digest FROM design_revisions WHERE design_id = $1 ORDER BY revision`,
    [id],
  );
  const { rows: digests } = await client.query<{ digest: string }>(
    `SELECT md5(document::text) AS digest FROM jsonb_array_elements($1::jsonb) WITH ORDINALITY AS one (document, place)
     ORDER BY place`,
    [JSON.stringify(revisions.map(({ document }) => document))],
  );
  const [{ name, revision, saved_at }] = rows;
  const archived = revisions.map((one, at) => ({ revision: one.revision, digest: digests[at].digest }));
  return { standing: standingOf(own, archived), name: name ?? '', revision, savedAt: saved_at.toISOString() };
}

async function insertStates(client: PoolClient, id: string, revisions: DesignMember['revisions']): Promise<void> {
  await client.query(
    `INSERT INTO design_revisions (design_id, revision, document, saved_at)
     SELECT $1, revision, document, "savedAt"
     FROM jsonb_to_recordset($2::jsonb) AS row (revision integer, document jsonb, "savedAt" timestamptz)`,
    [id, JSON.stringify(revisions)],
  );
}

/** Puts a design in with its whole history; what lists show of it is computed when they are next read. */
async function insertHistory(
  client: PoolClient,
  { id, createdAt, archivedAt, revisions }: DesignMember,
): Promise<void> {
  const { revision, savedAt, document } = revisions.at(-1)!;
  await client.query(
    `INSERT INTO designs (id, document, revision, created_at, saved_at, archived_at) VALUES ($1, $2, $3, $4, $5, $6)`,
    [id, JSON.stringify(document), revision, createdAt, savedAt, archivedAt],
  );
  await insertStates(client, id, revisions);
}

/** Goes on with a design where it ends here. */
async function continueHistory(client: PoolClient, { id, revisions }: DesignMember, from: number): Promise<void> {
  const { revision, savedAt, document } = revisions.at(-1)!;
  const { rowCount } = await client.query(
    `UPDATE designs SET document = $3, revision = $4, saved_at = $5, shelf_core = NULL WHERE id = $1 AND revision = $2`,
    [id, from, JSON.stringify(document), revision, savedAt],
  );
  if (rowCount === 0) throw new Error(`design ${id} was saved while an archive was taken in`);
  await insertStates(
    client,
    id,
    revisions.filter((one) => one.revision > from),
  );
}
