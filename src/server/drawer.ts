import type { PoolClient } from 'pg';
import type { Drawer, DrawerChange, DrawerRequest } from '@/core/drawer/drawer-messages';
import { OLD_PART_FIELDS, partSchema } from '@/core/parts/part-schema';
import { renamed } from '@/core/schema/renamed';
import { faultsOf } from '@/core/schema/faults';
import { pool, transaction } from './pool';
import { usesOfParts } from './shelf';

type Row = {
  id: string;
  kind: string;
  name: string;
  count: number;
  price: string | null;
  note: string;
  fields: object;
};

/** What came of a change: done, or refused because the drawer has changed since; the drawer as it stands either way. */
export type DrawerOutcome = { kind: 'changed' | 'conflict'; drawer: Drawer };

/** A part from the database, checked like any other input. */
function readPart({ id, kind, name, count, price, note, fields }: Row) {
  const common = { id, kind, name, count, price: price === null ? null : Number(price), note };
  return partSchema.safeParse({ ...common, ...(renamed(fields, OLD_PART_FIELDS) as object) }, { reportInput: true });
}

/** Everything in the drawer, and what designs on the shelf take of it; archived designs take nothing. */
export async function readDrawer(): Promise<Drawer> {
  // The revision first: parts that are newer than it make a change from them a conflict, never the other way round.
  const state = await pool().query<{ revision: number }>('SELECT revision FROM drawer_state');
  const [{ rows }, inUse] = await Promise.all([
    pool().query<Row>('SELECT id, kind, name, count, price, note, fields FROM parts ORDER BY kind, name, id'),
    usesOfParts(),
  ]);
  const drawer: Drawer = {
    revision: state.rows[0].revision,
    parts: [],
    damaged: [],
    uses: inUse.uses,
    unreadDesigns: inUse.unread,
  };
  for (const row of rows) {
    const read = readPart(row);
    if (read.success) drawer.parts.push(read.data);
    else drawer.damaged.push({ id: row.id, name: row.name, faults: faultsOf(read.error), row });
  }
  return drawer;
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
  const changed = await transaction(async (client) => {
    const state = await client.query<{ revision: number }>('SELECT revision FROM drawer_state FOR UPDATE');
    const made = await client.query('SELECT FROM drawer_changes WHERE id = $1', [changeId]);
    if (made.rowCount !== 0) return true;
    if (state.rows[0].revision !== baseRevision) return false;
    await client.query('UPDATE drawer_state SET revision = revision + 1');
    await client.query('INSERT INTO drawer_changes (id) VALUES ($1)', [changeId]);
    await client.query(`DELETE FROM drawer_changes WHERE made_at < now() - ${CHANGES_KNOWN}`);
    await applyChange(client, change);
    return true;
  });
  return { kind: changed ? 'changed' : 'conflict', drawer: await readDrawer() };
}

/** Which of these changes have been made. */
export async function changesMade(ids: readonly string[]): Promise<string[]> {
  const { rows } = await pool().query<{ id: string }>('SELECT id FROM drawer_changes WHERE id = ANY($1::uuid[])', [
    ids,
  ]);
  return rows.map(({ id }) => id);
}

export async function applyChange(client: PoolClient, { put, remove }: DrawerChange): Promise<void> {
  if (remove.length > 0) await client.query('DELETE FROM parts WHERE id = ANY($1::uuid[])', [remove]);
  // One statement, thousands of parts or one; of two with one id the later counts.
  const rows = new Map(
    put.map(({ id, kind, name, count, price, note, ...fields }) => [
      id,
      { id, kind, name, count, price, note, fields },
    ]),
  );
  await client.query(
    `INSERT INTO parts (id, kind, name, count, price, note, fields)
     SELECT id, kind, name, count, price, note, fields FROM jsonb_to_recordset($1::jsonb)
       AS row (id uuid, kind text, name text, count integer, price numeric, note text, fields jsonb)
     ON CONFLICT (id) DO UPDATE SET kind = excluded.kind, name = excluded.name, count = excluded.count,
       price = excluded.price, note = excluded.note, fields = excluded.fields, changed_at = now()`,
    [JSON.stringify([...rows.values()])],
  );
}
