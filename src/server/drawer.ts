import type { PoolClient } from 'pg';
import { faultsOf, formatFaults } from '@/core/schema/faults';
import { partSchema, type DrawerChange, type Part } from '@/core/parts/part-schema';
import { partsUsed, type Drawer } from '@/core/drawer/parts-used';
import { listDesigns } from './designs';
import { pool, transaction } from './pool';

type Row = {
  id: string;
  kind: string;
  name: string;
  count: number;
  price: string | null;
  note: string;
  fields: object;
};

/** A part from the database, checked like any other input. */
function partFrom({ id, kind, name, count, price, note, fields }: Row): Part {
  const read = partSchema.safeParse(
    { id, kind, name, count, price: price === null ? null : Number(price), note, ...fields },
    { reportInput: true },
  );
  if (read.success) return read.data;
  throw new Error(`part ${id}: ${formatFaults(faultsOf(read.error))}`);
}

/** Everything in the drawer, and what designs on the shelf take of it; archived designs take nothing. */
export async function readDrawer(): Promise<Drawer> {
  const [{ rows }, designs] = await Promise.all([
    pool().query<Row>('SELECT id, kind, name, count, price, note, fields FROM parts ORDER BY kind, name, id'),
    listDesigns(),
  ]);
  const uses = designs
    .filter((stored) => stored.archivedAt === null)
    .flatMap(({ id, design }) =>
      [...partsUsed(design)].map(([partId, count]) => ({ designId: id, designName: design.name, partId, count })),
    );
  return { parts: rows.map(partFrom), uses };
}

/** Puts parts in, replaces those of the same id, takes others out: all of it or nothing. */
export async function changeDrawer(change: DrawerChange): Promise<Drawer> {
  await transaction((client) => applyChange(client, change));
  return readDrawer();
}

export async function applyChange(client: PoolClient, { put, remove }: DrawerChange): Promise<void> {
  if (remove.length > 0) await client.query('DELETE FROM parts WHERE id = ANY($1::uuid[])', [remove]);
  for (const { id, kind, name, count, price, note, ...fields } of put)
    await client.query(
      `INSERT INTO parts (id, kind, name, count, price, note, fields) VALUES ($1, $2, $3, $4, $5, $6, $7)
       ON CONFLICT (id) DO UPDATE SET kind = excluded.kind, name = excluded.name, count = excluded.count,
         price = excluded.price, note = excluded.note, fields = excluded.fields, changed_at = now()`,
      [id, kind, name, count, price, note, JSON.stringify(fields)],
    );
}
