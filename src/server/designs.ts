import type { PoolClient } from 'pg';
import type { DamagedDesign, Revision, StoredDesign } from '@/core/design/design-messages';
import type { Design } from '@/core/design/design-schema';
import { readDesign } from '@/core/design/read-design';
import { pool, transaction } from './pool';
import { figuresBeside } from './thread/beside';
import { CORE_VERSION } from './thread/shelf-figures';

/** A design of the shelf, or what is known of one that cannot be read. */
export type Shelved = StoredDesign | DamagedDesign;

/** What came of a save: done, refused because a later revision stands, or no such design. */
export type SaveOutcome =
  { kind: 'saved'; stored: StoredDesign } | { kind: 'conflict'; stored: Shelved } | { kind: 'missing' };

type Row = { id: string; document: unknown; revision: number; saved_at: Date; archived_at: Date | null };

const COLUMNS = 'id, document, revision, saved_at, archived_at';

export const isDamaged = (shelved: Shelved): shelved is DamagedDesign => 'faults' in shelved;

/** What a document that cannot be read calls itself. */
export function nameIn(document: unknown): string {
  const name = typeof document === 'object' && document !== null && 'name' in document ? document.name : null;
  return typeof name === 'string' && name.trim() !== '' ? name : 'Design without a name';
}

/** A row with its document checked like any other input: one that the schema refuses stands with its faults. */
function shelved(row: Row): Shelved {
  const reading = readDesign(row.document);
  const common = {
    id: row.id,
    revision: row.revision,
    savedAt: row.saved_at.toISOString(),
    archivedAt: row.archived_at?.toISOString() ?? null,
  };
  return reading.ok
    ? { ...common, design: reading.design }
    : { ...common, name: nameIn(row.document), faults: reading.faults };
}

/** A row that was written from a design just now. */
function written(row: Row): StoredDesign {
  const found = shelved(row);
  if (isDamaged(found)) throw new Error(`design ${row.id} came back other than it was written`);
  return found;
}

async function noteRevision(client: PoolClient, row: Row): Promise<void> {
  await client.query('INSERT INTO design_revisions (design_id, revision, document, saved_at) VALUES ($1, $2, $3, $4)', [
    row.id,
    row.revision,
    JSON.stringify(row.document),
    row.saved_at,
  ]);
}

export async function findDesign(id: string): Promise<Shelved | null> {
  const { rows } = await pool().query<Row>(`SELECT ${COLUMNS} FROM designs WHERE id = $1`, [id]);
  return rows.length ? shelved(rows[0]) : null;
}

/** The revision that stands; null where there is no such design. */
export async function standingRevision(id: string): Promise<number | null> {
  const { rows } = await pool().query<{ revision: number }>('SELECT revision FROM designs WHERE id = $1', [id]);
  return rows.length ? rows[0].revision : null;
}

/** A design's document, or that of one of its revisions, just as the database holds it; undefined where there is none. */
export async function rawDocument(id: string, revision: number | null): Promise<unknown> {
  const { rows } = await (revision === null
    ? pool().query<{ document: unknown }>('SELECT document FROM designs WHERE id = $1', [id])
    : pool().query<{ document: unknown }>(
        'SELECT document FROM design_revisions WHERE design_id = $1 AND revision = $2',
        [id, revision],
      ));
  return rows.length ? rows[0].document : undefined;
}

/** Revisions after which a history is looked through for what need not be kept. */
const THINNED_EVERY = 20;

/**
 * Leaves of a history every save of the last day, the last of each hour of the
 * thirty days before, and the last of each day before those; always the first
 * and the newest, and those that were built from, measured or made dead.
 */
export async function thinRevisions(client: Pick<PoolClient, 'query'>, id: string): Promise<void> {
  await client.query(
    // As a list made once: joined to what it is made from, the planner may make it anew for each row.
    `DELETE FROM design_revisions WHERE design_id = $1 AND revision = ANY (ARRAY (
       SELECT revision FROM (
         SELECT revision, row_number() OVER (PARTITION BY CASE
             WHEN saved_at > now() - interval '1 day' THEN revision::text
             WHEN saved_at > now() - interval '31 days' THEN 'hour ' || date_trunc('hour', saved_at)
             ELSE 'day ' || date_trunc('day', saved_at)
           END ORDER BY revision DESC) AS place,
           min(revision) OVER () AS first, max(revision) OVER () AS newest
         FROM design_revisions WHERE design_id = $1
       ) AS kept
       WHERE place > 1 AND revision NOT IN (first, newest)
         AND revision NOT IN (SELECT revision FROM discharges WHERE design_id = $1)
         AND revision NOT IN (SELECT revision FROM bench_sessions WHERE design_id = $1)
         AND revision NOT IN (SELECT revision FROM sheet_ticks WHERE design_id = $1)
     ))`,
    [id],
  );
}

export async function createDesign(design: Design): Promise<StoredDesign> {
  return transaction((client) => insertDesign(client, design));
}

export async function insertDesign(client: PoolClient, design: Design): Promise<StoredDesign> {
  const figures = await figuresBeside(design);
  const { rows } = await client.query<Row>(
    `INSERT INTO designs (document, shelf, shelf_core, shelf_of) VALUES ($1, $2, $3, 1) RETURNING ${COLUMNS}`,
    [JSON.stringify(design), JSON.stringify(figures), CORE_VERSION],
  );
  await noteRevision(client, rows[0]);
  return written(rows[0]);
}

/**
 * Saves a design over the revision it was made from.
 *
 * @param baseRevision the revision the editor last saw; when another stands,
 *   nothing is written and that one is returned as the conflict
 */
export async function saveDesign(id: string, baseRevision: number, design: Design): Promise<SaveOutcome> {
  const figures = JSON.stringify(await figuresBeside(design));
  return transaction(async (client) => {
    const { rows } = await client.query<Row>(
      `UPDATE designs SET document = $3, revision = revision + 1, saved_at = now(),
         shelf = $4, shelf_core = $5, shelf_of = revision + 1
       WHERE id = $1 AND revision = $2 RETURNING ${COLUMNS}`,
      [id, baseRevision, JSON.stringify(design), figures, CORE_VERSION],
    );
    if (rows.length) {
      await noteRevision(client, rows[0]);
      if (rows[0].revision % THINNED_EVERY === 0) await thinRevisions(client, id);
      return { kind: 'saved', stored: written(rows[0]) };
    }
    const standing = await client.query<Row>(`SELECT ${COLUMNS} FROM designs WHERE id = $1`, [id]);
    return standing.rows.length ? { kind: 'conflict', stored: shelved(standing.rows[0]) } : { kind: 'missing' };
  });
}

/** Puts a design away or back on the shelf; nothing is ever deleted. */
export async function setArchived(id: string, archived: boolean): Promise<Shelved | null> {
  const { rows } = await pool().query<Row>(
    `UPDATE designs SET archived_at = CASE WHEN $2 THEN coalesce(archived_at, now()) END WHERE id = $1 RETURNING ${COLUMNS}`,
    [id, archived],
  );
  return rows.length ? shelved(rows[0]) : null;
}

/** Every saved state of a design, newest first. */
export async function listRevisions(id: string): Promise<Revision[]> {
  const { rows } = await pool().query<{ revision: number; document: unknown; saved_at: Date }>(
    'SELECT revision, document, saved_at FROM design_revisions WHERE design_id = $1 ORDER BY revision DESC',
    [id],
  );
  return rows.map(({ revision, document, saved_at }) => {
    const reading = readDesign(document);
    const state = { revision, savedAt: saved_at.toISOString() };
    return reading.ok ? { ...state, design: reading.design } : { ...state, faults: reading.faults };
  });
}
