import { type ShelfPage, type ShelfQuery, type ShelfSort, type ShelvedDesign } from '@/core/predict/shelf-query';
import { nameIn } from './designs';
import { pool } from './pool';
import { CORE_VERSION, figuresOfDocument, type ShelfFigures } from './shelf-figures';

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

const number = (name: string) => `(shelf->'row'->>'${name}')::float8`;
/** Whatever has no such figure stands below all that have, as damaged ones do. */
const ORDERS: Readonly<Record<ShelfSort, string>> = {
  name: "coalesce(document->>'name', '') COLLATE natural_order",
  target: `coalesce(${number('targetVolts')}, -1)`,
  reached: `coalesce(${number('reachedVolts')}, -1)`,
  margin: `CASE WHEN shelf->'row' IS NULL THEN '-Infinity' ELSE coalesce(${number('smallestMargin')}, 'Infinity') END`,
  savedAt: 'saved_at',
};

const CONDITIONS = `(archived_at IS NOT NULL) = $1
  AND ($2 = '' OR concat_ws(' ', document->>'name', shelf->>'words', document->>'notes') ILIKE $3)
  AND ($4::float8 IS NULL OR ${number('targetVolts')} >= $4)
  AND ($5::float8 IS NULL OR ${number('targetVolts')} <= $5)`;

/** A text as a pattern that finds it anywhere. */
const anywhere = (text: string) => `%${text.replace(/[\\%_]/g, '\\$&')}%`;

/** One page of the shelf, sought and sorted where the designs are. */
export async function readShelf(query: ShelfQuery): Promise<ShelfPage> {
  const search = query.search.trim();
  const asked = [query.archived === 'yes', search, anywhere(search), query.from ?? null, query.to ?? null];
  const order = `${ORDERS[query.sort]} ${query.order === 'rising' ? 'ASC' : 'DESC'}, saved_at DESC, id`;
  const [page, found, all] = await Promise.all([
    pool().query<Row>(
      `SELECT id, revision, document->>'name' AS name, saved_at, archived_at, shelf,
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
  for (const row of page.rows) rows.push(shelved(row, row.stale || !row.shelf ? await renewed(row) : row.shelf));
  void renewOthers();
  return { rows, found: found.rows[0].count, standing: countOf(false), archived: countOf(true) };
}

function shelved({ id, name, saved_at, archived_at, document }: Row, figures: ShelfFigures): ShelvedDesign {
  const common = { id, savedAt: saved_at.toISOString(), archived: archived_at !== null };
  return 'faults' in figures
    ? { ...common, name: name?.trim() || nameIn(document), damaged: true, ...figures }
    : { ...common, ...figures.row, damaged: false };
}

/** Lets requests that wait be answered between two computations. */
const breathe = () => new Promise((resume) => setImmediate(resume));

/** Computes the figures of a document anew and keeps them, unless it is changed meanwhile. */
async function renewed({ id, revision, document }: Pick<Row, 'id' | 'revision' | 'document'>): Promise<ShelfFigures> {
  await breathe();
  const figures = figuresOfDocument(document);
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

/** Brings the figures of all designs up to this core, a few at a time, beside whatever else is asked. */
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

/** What designs in use take of the drawer, and how many cannot be read. */
export async function usesOfParts(): Promise<{
  uses: { designId: string; designName: string; partId: string; count: number }[];
  unread: number;
}> {
  const { rowCount } = await pool().query('SELECT FROM designs WHERE shelf_core IS NULL LIMIT 1');
  if (rowCount) await renewOthers();
  const { rows } = await pool().query<{ id: string; name: string | null; uses: Record<string, number> | null }>(
    "SELECT id, document->>'name' AS name, shelf->'uses' AS uses FROM designs WHERE archived_at IS NULL ORDER BY saved_at DESC, id",
  );
  return {
    uses: rows.flatMap(({ id, name, uses }) =>
      Object.entries(uses ?? {}).map(([partId, count]) => ({ designId: id, designName: name ?? '', partId, count })),
    ),
    unread: rows.filter(({ uses }) => uses === null).length,
  };
}

/** Names of the designs in use and sound that were saved last, so many at most. */
export async function latestNames(most: number): Promise<{ id: string; name: string }[]> {
  const { rows } = await pool().query<{ id: string; name: string }>(
    `SELECT id, document->>'name' AS name FROM designs
     WHERE archived_at IS NULL AND shelf ? 'row' ORDER BY saved_at DESC, id LIMIT $1`,
    [most],
  );
  return rows;
}
