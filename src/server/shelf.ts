import {
  type LastMeasured,
  type ShelfPage,
  type ShelfQuery,
  type ShelfSort,
  type ShelvedDesign,
} from '@/core/predict/shelf-query';
import type { PartUse } from '@/core/drawer/drawer-messages';
import { lastMeasured } from './bench';
import { nameIn } from './designs';
import { pool } from './pool';
import { figuresBeside } from './thread/beside';
import { CORE_VERSION, usesOfDocument, type ShelfFigures } from './thread/shelf-figures';

type Row = {
  id: string;
  revision: number;
  name: string | null;
  saved_at: Date;
  archived_at: Date | null;
  shelf: ShelfFigures | null;
  /** Whether the figures are not of this core; the document is fetched only then. */
  stale: boolean;
  document: unknown;
};

/** Whatever has no such figure stands below all that have, as damaged ones do. */
const ORDERS: Readonly<Record<ShelfSort, string>> = {
  name: "coalesce(name, '') COLLATE natural_order",
  target: 'coalesce(target_volts, -1)',
  reached: 'coalesce(reached_volts, -1)',
  margin: "CASE WHEN uses IS NULL THEN '-Infinity' ELSE coalesce(smallest_margin, 'Infinity') END",
  savedAt: 'saved_at',
};

const CONDITIONS = `(archived_at IS NOT NULL) = $1
  AND ($2 = '' OR sought LIKE lower($3))
  AND ($4::float8 IS NULL OR target_volts >= $4)
  AND ($5::float8 IS NULL OR target_volts <= $5)`;

/** A text as a pattern that finds it anywhere. */
const anywhere = (text: string) => `%${text.replace(/[\\%_]/g, '\\$&')}%`;

/** One page of the shelf, sought and sorted where the designs are. */
export async function readShelf(query: ShelfQuery): Promise<ShelfPage> {
  const search = query.search.trim();
  const asked = [query.archived === 'yes', search, anywhere(search), query.from ?? null, query.to ?? null];
  const order = `${ORDERS[query.sort]} ${query.order === 'rising' ? 'ASC' : 'DESC'}, saved_at DESC, id`;
  const [page, found, all] = await Promise.all([
    pool().query<Row>(
      `SELECT id, revision, name, saved_at, archived_at, shelf,
         shelf_core IS DISTINCT FROM $6 AS stale,
         CASE WHEN shelf_core IS DISTINCT FROM $6 THEN document END AS document
       FROM designs WHERE ${CONDITIONS} ORDER BY ${order} LIMIT $7`,
      [...asked, CORE_VERSION, query.shown],
    ),
    pool().query<{ count: number }>(`SELECT count(*)::int FROM designs WHERE ${CONDITIONS}`, asked),
    pool().query<{ archived: boolean; count: number }>(
      'SELECT archived_at IS NOT NULL AS archived, count(*)::int FROM designs GROUP BY 1',
    ),
  ]);
  const countOf = (archived: boolean) => all.rows.find((row) => row.archived === archived)?.count ?? 0;
  const rows: ShelvedDesign[] = [];
  const measured = await lastMeasured(page.rows.map(({ id }) => id));
  for (const row of page.rows) {
    const figures = row.stale || !row.shelf ? await renewed(row) : row.shelf;
    rows.push(shelved(row, figures, measured.get(row.id) ?? null));
  }
  void renewOthers();
  return { rows, found: found.rows[0].count, standing: countOf(false), archived: countOf(true) };
}

function shelved(
  { id, name, saved_at, archived_at, document }: Row,
  figures: ShelfFigures,
  measured: LastMeasured | null,
): ShelvedDesign {
  const common = { id, savedAt: saved_at.toISOString(), archived: archived_at !== null, measured };
  return 'faults' in figures
    ? { ...common, name: name?.trim() || nameIn(document), damaged: true, ...figures }
    : { ...common, ...figures.row, damaged: false };
}

/** Computes the figures of a document anew and keeps them, unless it is changed meanwhile. */
async function renewed({ id, revision, document }: Pick<Row, 'id' | 'revision' | 'document'>): Promise<ShelfFigures> {
  const figures = await figuresBeside(document);
  await pool().query('UPDATE designs SET shelf = $2, shelf_core = $3 WHERE id = $1 AND revision = $4', [
    id,
    JSON.stringify(figures),
    CORE_VERSION,
    revision,
  ]);
  return figures;
}

const MOST_AT_ONCE = 20;
let renewing: Promise<void> | null = null;

/** Brings the figures of all designs up to this core, one after the other, beside whatever else is asked. */
export function renewOthers(): Promise<void> {
  const run = async () => {
    for (;;) {
      const { rows } = await pool().query<Pick<Row, 'id' | 'revision' | 'document'>>(
        'SELECT id, revision, document FROM designs WHERE shelf_core IS DISTINCT FROM $1 ORDER BY saved_at DESC LIMIT $2',
        [CORE_VERSION, MOST_AT_ONCE],
      );
      if (rows.length === 0) return;
      for (const row of rows) await renewed(row);
    }
  };
  renewing ??= run()
    .catch((error: Error) => console.error('figures of the shelf could not be renewed:', error.message))
    .finally(() => {
      renewing = null;
    });
  return renewing;
}

/** Lets requests that wait be answered between two readings. */
const breathe = () => new Promise((resume) => setImmediate(resume));

/**
 * What designs in use take of the drawer, as JSON of {@link PartUse}s, and how many cannot be read.
 *
 * @param partIds what is taken of these alone; null of all
 */
export async function usesOfParts(partIds: readonly string[] | null): Promise<{ uses: string; unread: number }> {
  const [known, unknown] = await Promise.all([
    pool().query<{ uses: string | null; unread: number }>(
      `SELECT string_agg(used.uses, ',' ORDER BY saved_at DESC, id) AS uses, count(*) FILTER (WHERE designs.uses IS NULL)::int AS unread
       FROM designs, LATERAL (
         SELECT string_agg(
           json_build_object('designId', id, 'designName', coalesce(name, ''), 'partId', key, 'count', value)::text, ','
         ) AS uses
         FROM jsonb_each(coalesce(designs.uses, '{}')) WHERE $1::text[] IS NULL OR key = ANY ($1)
       ) AS used
       WHERE archived_at IS NULL AND shelf_core IS NOT NULL AND designs.uses IS DISTINCT FROM '{}'`,
      [partIds],
    ),
    // Those whose figures have not been computed yet are not waited for.
    pool().query<{ id: string; name: string | null; document: unknown }>(
      `SELECT id, name, document FROM designs WHERE archived_at IS NULL AND shelf_core IS NULL ORDER BY saved_at DESC, id`,
    ),
  ]);
  const uses = known.rows[0].uses === null ? [] : [known.rows[0].uses];
  let { unread } = known.rows[0];
  const asked = partIds && new Set(partIds);
  for (const { id, name, document } of unknown.rows) {
    await breathe();
    const taken = usesOfDocument(document);
    if (taken === null) unread += 1;
    else
      for (const [partId, count] of Object.entries(taken)) {
        const use: PartUse = { designId: id, designName: name ?? '', partId, count };
        if (asked === null || asked.has(partId)) uses.push(JSON.stringify(use));
      }
  }
  return { uses: `[${uses.join(',')}]`, unread };
}

/** Names of the designs in use and sound that were saved last, so many at most. */
export async function latestNames(most: number): Promise<{ id: string; name: string }[]> {
  const { rows } = await pool().query<{ id: string; name: string }>(
    `SELECT id, name FROM designs
     WHERE archived_at IS NULL AND uses IS NOT NULL ORDER BY saved_at DESC, id LIMIT $1`,
    [most],
  );
  return rows;
}
