import type { PoolClient } from 'pg';
import type { Drawer, DrawerChange, DrawerRequest } from '@/core/drawer/drawer-messages';
import { OLD_PART_FIELDS, partSchema, type Part } from '@/core/parts/part-schema';
import { renamed } from '@/core/schema/renamed';
import { faultsOf } from '@/core/schema/faults';
import { pool, transaction } from './pool';
import { usesOfParts } from './shelf';
import { CORE_VERSION } from './thread/shelf-figures';

/** What a part is checked as, and what it is read as where this core has checked it. */
const COLUMNS = 'kind, name, count, price, note, fields';
const MARK = `md5(ROW(${COLUMNS})::text)`;
const COMMON = "'id', id, 'kind', kind, 'name', name, 'count', count, 'price', price, 'note', note";

export type PartRow = {
  id: string;
  kind: string;
  name: string;
  count: number;
  price: number | null;
  note: string;
  fields: object;
};
/** A part that this core has checked, and the row that it was read from. */
type Checked = { part: Part; mark: string };

/** What came of a change: done, or not because the drawer has changed since, or because it had been done before. */
export type DrawerOutcome = { kind: 'changed'; revision: number } | { kind: 'conflict' | 'known'; drawer: string };

/** A part from the database, checked like any other input. */
export function readPart({ fields, ...common }: PartRow) {
  return partSchema.safeParse({ ...common, ...(renamed(fields, OLD_PART_FIELDS) as object) }, { reportInput: true });
}

/**
 * Everything in the drawer, and what designs on the shelf take of it, as JSON;
 * archived designs take nothing. The database puts it together, so that thousands
 * of parts hold nobody else up here.
 */
export async function drawerText(): Promise<string> {
  return (await readDrawer(null)).text;
}

/** The drawer's first parts with what is taken of them, at most so many, as JSON of a {@link DrawerOpening}. */
export async function drawerOpening(most: number): Promise<string> {
  const { text, read, of } = await readDrawer(most);
  return `{"whole":${read === of},"of":${of},"drawer":${text}}`;
}

async function readDrawer(most: number | null): Promise<{ text: string; read: number; of: number }> {
  // The revision first: parts that are newer than it make a change from them a conflict, never the other way round.
  const revision = await standingRevision();
  const { parts, ids, damaged, of } = await readParts(most);
  const { uses, unread } = await usesOfParts(most === null ? null : ids);
  const text = `{"revision":${revision},"parts":[${parts}],"damaged":${JSON.stringify(damaged)},"uses":${uses},"unreadDesigns":${unread}}`;
  return { text, read: ids.length, of };
}

/** Parts as JSON without brackets, in the drawer's order; `ids` are those of all rows that were read. */
async function readParts(most: number | null) {
  const checked: Checked[] = [];
  for (;;) {
    const { rows } = await pool().query<{
      parts: string;
      ids: string[];
      unsure: { row: PartRow; mark: string }[];
      of: number;
    }>(
      `WITH fresh AS (SELECT * FROM jsonb_to_recordset($1::jsonb) AS row (id uuid, mark text, part jsonb)),
       first AS (SELECT * FROM parts ORDER BY kind, name COLLATE "C", id LIMIT $3),
       marked AS (SELECT *, ${MARK} AS mark FROM first OFFSET 0),
       read AS (
         SELECT marked.*, CASE WHEN checked = $2 || mark THEN jsonb_build_object(${COMMON}) || fields ELSE part END AS sound
         FROM marked LEFT JOIN fresh USING (id, mark) OFFSET 0
       )
       SELECT coalesce(string_agg(sound::text, ',' ORDER BY kind, name COLLATE "C", id), '') AS parts,
         coalesce(array_agg(id::text), '{}') AS ids,
         coalesce(jsonb_agg(jsonb_build_object('row', jsonb_build_object(${COMMON}, 'fields', fields), 'mark', mark))
           FILTER (WHERE sound IS NULL), '[]') AS unsure,
         (SELECT count(*)::int FROM parts) AS of
       FROM read`,
      [JSON.stringify(checked.map(({ part, mark }) => ({ id: part.id, mark, part }))), CORE_VERSION, most],
    );
    const [{ unsure, ...found }] = rows;
    const damaged: Drawer['damaged'] = [];
    const before = checked.length;
    for (const { row, mark } of unsure) {
      const read = readPart(row);
      if (read.success) checked.push({ part: read.data, mark });
      else damaged.push({ id: row.id, name: row.name, faults: faultsOf(read.error), row });
    }
    // Those just checked come in their places with the next reading.
    if (checked.length > before) continue;
    // What can be read is read, also where nothing can be written.
    await noteChecked(checked).catch((error: Error) =>
      console.error('parts could not be noted as checked:', error.message),
    );
    return { ...found, damaged };
  }
}

/** Of these parts those that are here, as they are read; without a part where that cannot be. */
export async function findParts(
  client: PoolClient,
  ids: readonly string[],
): Promise<Map<string, { name: string; count: number; part: Part | null }>> {
  const { rows } = await client.query<PartRow>(
    'SELECT id, kind, name, count, price::float8, note, fields FROM parts WHERE id = ANY($1::uuid[])',
    [ids],
  );
  return new Map(
    rows.map((row) => {
      const read = readPart(row);
      return [row.id, { name: row.name, count: row.count, part: read.success ? read.data : null }];
    }),
  );
}

/** At which revision it stands now. */
export async function standingRevision(): Promise<number> {
  const { rows } = await pool().query<{ revision: number }>('SELECT revision FROM drawer_state');
  return rows[0].revision;
}

/** Longer than any browser keeps a change that it could not send. */
const CHANGES_KNOWN = "interval '400 days'";

/**
 * Puts parts in, replaces those of the same id, takes others out: all of it or
 * nothing. Changes wait for each other, and each is made once, however often it
 * is sent.
 *
 * @param baseRevision the revision that the change was made from; when another
 *   stands, nothing is written and that is the conflict
 */
export async function changeDrawer({ baseRevision, changeId, ...change }: DrawerRequest): Promise<DrawerOutcome> {
  const kind = await transaction(async (client): Promise<DrawerOutcome['kind']> => {
    const state = await client.query<{ revision: number }>('SELECT revision FROM drawer_state FOR UPDATE');
    const made = await client.query('SELECT FROM drawer_changes WHERE id = $1', [changeId]);
    if (made.rowCount !== 0) return 'known';
    if (state.rows[0].revision !== baseRevision) return 'conflict';
    await client.query('UPDATE drawer_state SET revision = revision + 1');
    await client.query('INSERT INTO drawer_changes (id) VALUES ($1)', [changeId]);
    await client.query(`DELETE FROM drawer_changes WHERE made_at < now() - ${CHANGES_KNOWN}`);
    await applyChange(client, change);
    return 'changed';
  });
  return kind === 'changed' ? { kind, revision: baseRevision + 1 } : { kind, drawer: await drawerText() };
}

/** Which of these changes have been made. */
export async function changesMade(ids: readonly string[]): Promise<string[]> {
  const { rows } = await pool().query<{ id: string }>('SELECT id FROM drawer_changes WHERE id = ANY($1::uuid[])', [
    ids,
  ]);
  return rows.map(({ id }) => id);
}

const AS_ROW = '(id uuid, kind text, name text, count integer, price numeric, note text, fields jsonb, mark text)';
const asRow = ({ id, kind, name, count, price, note, ...fields }: Part) => ({
  id,
  kind,
  name,
  count,
  price,
  note,
  fields,
});

/** Keeps that these parts were checked, as this core reads them, unless they are changed meanwhile. */
async function noteChecked(checked: readonly Checked[]): Promise<void> {
  if (checked.length === 0) return;
  await pool().query(
    `UPDATE parts SET fields = made.fields, checked = $2 || made.now
     FROM (SELECT id, fields, mark, ${MARK} AS now FROM jsonb_to_recordset($1::jsonb) AS row ${AS_ROW}) AS made
     WHERE parts.id = made.id
       AND md5(ROW(parts.kind, parts.name, parts.count, parts.price, parts.note, parts.fields)::text) = made.mark`,
    [JSON.stringify(checked.map(({ part, mark }) => ({ ...asRow(part), mark }))), CORE_VERSION],
  );
}

export async function applyChange(client: PoolClient, { put, remove }: DrawerChange): Promise<void> {
  if (remove.length > 0) await client.query('DELETE FROM parts WHERE id = ANY($1::uuid[])', [remove]);
  // One statement, thousands of parts or one; of two with one id the later counts.
  const rows = new Map(put.map((part) => [part.id, asRow(part)]));
  await client.query(
    `INSERT INTO parts (id, ${COLUMNS}, checked)
     SELECT id, ${COLUMNS}, $2 || ${MARK} FROM jsonb_to_recordset($1::jsonb) AS row ${AS_ROW}
     ON CONFLICT (id) DO UPDATE SET kind = excluded.kind, name = excluded.name, count = excluded.count,
       price = excluded.price, note = excluded.note, fields = excluded.fields, checked = excluded.checked,
       changed_at = now()`,
    [JSON.stringify([...rows.values()]), CORE_VERSION],
  );
}
