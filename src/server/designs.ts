import type { PoolClient } from 'pg';
import type { Design } from '@/core/design/design-schema';
import { readDesign } from '@/core/design/read-design';
import { pool, transaction } from './pool';

export type StoredDesign = {
  id: string;
  design: Design;
  revision: number;
  savedAt: string;
  archivedAt: string | null;
};

export type SavedRevision = { revision: number; savedAt: string; design: Design };

/** What came of a save: done, refused because a later revision stands, or no such design. */
export type SaveOutcome =
  { kind: 'saved'; stored: StoredDesign } | { kind: 'conflict'; stored: StoredDesign } | { kind: 'missing' };

type Row = { id: string; document: unknown; revision: number; saved_at: Date; archived_at: Date | null };

const COLUMNS = 'id, document, revision, saved_at, archived_at';

/** A document from the database, checked like any other input: what a later schema refuses must not reach a screen unseen. */
function designFrom(document: unknown, what: string): Design {
  const reading = readDesign(document);
  if (!reading.ok)
    throw new Error(`${what}: ${reading.faults.map((fault) => `${fault.path} ${fault.message}`).join('; ')}`);
  return reading.design;
}

function stored(row: Row): StoredDesign {
  return {
    id: row.id,
    design: designFrom(row.document, `design ${row.id}`),
    revision: row.revision,
    savedAt: row.saved_at.toISOString(),
    archivedAt: row.archived_at?.toISOString() ?? null,
  };
}

async function noteRevision(client: PoolClient, row: Row): Promise<void> {
  await client.query('INSERT INTO design_revisions (design_id, revision, document, saved_at) VALUES ($1, $2, $3, $4)', [
    row.id,
    row.revision,
    JSON.stringify(row.document),
    row.saved_at,
  ]);
}

/** All designs, newest saved first, archived ones among them. */
export async function listDesigns(): Promise<StoredDesign[]> {
  const { rows } = await pool().query<Row>(`SELECT ${COLUMNS} FROM designs ORDER BY saved_at DESC, id`);
  return rows.map(stored);
}

export async function findDesign(id: string): Promise<StoredDesign | null> {
  const { rows } = await pool().query<Row>(`SELECT ${COLUMNS} FROM designs WHERE id = $1`, [id]);
  return rows.length ? stored(rows[0]) : null;
}

export async function createDesign(design: Design): Promise<StoredDesign> {
  return transaction((client) => insertDesign(client, design));
}

export async function insertDesign(client: PoolClient, design: Design): Promise<StoredDesign> {
  const { rows } = await client.query<Row>(`INSERT INTO designs (document) VALUES ($1) RETURNING ${COLUMNS}`, [
    JSON.stringify(design),
  ]);
  await noteRevision(client, rows[0]);
  return stored(rows[0]);
}

/**
 * Saves a design over the revision it was made from.
 *
 * @param baseRevision the revision the editor last saw; when another stands,
 *   nothing is written and that one is returned as the conflict
 */
export async function saveDesign(id: string, baseRevision: number, design: Design): Promise<SaveOutcome> {
  return transaction(async (client) => {
    const { rows } = await client.query<Row>(
      `UPDATE designs SET document = $3, revision = revision + 1, saved_at = now()
       WHERE id = $1 AND revision = $2 RETURNING ${COLUMNS}`,
      [id, baseRevision, JSON.stringify(design)],
    );
    if (rows.length) {
      await noteRevision(client, rows[0]);
      return { kind: 'saved', stored: stored(rows[0]) };
    }
    const standing = await client.query<Row>(`SELECT ${COLUMNS} FROM designs WHERE id = $1`, [id]);
    return standing.rows.length ? { kind: 'conflict', stored: stored(standing.rows[0]) } : { kind: 'missing' };
  });
}

/** Puts a design away or back on the shelf; nothing is ever deleted. */
export async function setArchived(id: string, archived: boolean): Promise<StoredDesign | null> {
  const { rows } = await pool().query<Row>(
    `UPDATE designs SET archived_at = CASE WHEN $2 THEN coalesce(archived_at, now()) END WHERE id = $1 RETURNING ${COLUMNS}`,
    [id, archived],
  );
  return rows.length ? stored(rows[0]) : null;
}

/** Every saved state of a design, newest first. */
export async function listRevisions(id: string): Promise<SavedRevision[]> {
  const { rows } = await pool().query<{ revision: number; document: unknown; saved_at: Date }>(
    'SELECT revision, document, saved_at FROM design_revisions WHERE design_id = $1 ORDER BY revision DESC',
    [id],
  );
  return rows.map((row) => ({
    revision: row.revision,
    savedAt: row.saved_at.toISOString(),
    design: designFrom(row.document, `design ${id} revision ${row.revision}`),
  }));
}
