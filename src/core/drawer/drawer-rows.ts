import { finish } from '../numeric/finish';
import { readQuantity } from '../quantity/read-quantity';
import { PART_FIELDS, usualName, valueOf } from '../parts/part-fields';
import { MOST_PARTS_A_CHANGE } from './drawer-messages';
import { OLD_PART_FIELDS, partSchema, type Part, type PartKind } from '../parts/part-schema';

const KINDS = Object.keys(PART_FIELDS) as PartKind[];
const COMMON = ['kind', 'name', 'count', 'price', 'note'] as const;
/** Every field of every kind, each once, in the order of the forms. */
const COLUMNS: readonly string[] = [
  ...COMMON,
  ...new Set(KINDS.flatMap((kind) => PART_FIELDS[kind].map((field) => field.name))),
  'id',
];

/** A text that a spreadsheet would take for a formula is led by an apostrophe; so is one that is led by one already. */
const spoken = (text: string) => (/^['=+\-@\t\r]/.test(text) ? `'${text}` : text);
const unspoken = (text: string) => (/^'['=+\-@\t\r]/.test(text) ? text.slice(1) : text);

/** The drawer as rows of a table, headings first; numbers are SI base units, an empty cell is "not known". */
export function rowsOfDrawer(parts: readonly Part[]): string[][] {
  const cell = (value: unknown) => (value === null || value === undefined ? '' : spoken(String(value)));
  return [[...COLUMNS], ...parts.map((part) => COLUMNS.map((column) => cell(valueOf(part, column))))];
}

type RowFault = { line: number; message: string };
type RowPlan = { line: number; part: Part; what: 'new' | 'changed' | 'same'; changes: string[] };
/** What an import would do, line by line, and what is wrong in it; nothing is done yet. */
export type DrawerPlan = { rows: RowPlan[]; faults: RowFault[]; ignored: string[] };

/** Headings of tables made before a field had its present name. */
const OLD_NAMES = new Map(
  Object.entries(OLD_PART_FIELDS).map(([before, now]) => [before.toLowerCase(), now.toLowerCase()]),
);

/** Two parts are one where kind and name are. */
const keyOf = (part: { kind: string; name: string }) => `${part.kind} ${part.name.trim().toLowerCase()}`;

/** Most rows of a table that are read: as many as one change puts in. */
const MOST_ROWS = MOST_PARTS_A_CHANGE;
/** How often is told how far it is, rows. */
const TOLD_EVERY = 20;

/** What rows of a table would do to the drawer, at once; see {@link planningDrawerRows}. */
export const planDrawerRows = (...asked: Parameters<typeof planningDrawerRows>): DrawerPlan =>
  finish(planningDrawerRows(...asked));

/**
 * What rows of a table would do to the drawer, row by row; tells how many are done.
 *
 * Headings are field names of the part's declaration, in any order and case;
 * others are named as ignored. A cell is a number in SI base units or written
 * with its unit ("100p", "15 kV"); an empty one leaves what a standing part has,
 * and the default of a new one. A row with the id, or the kind and name, of a
 * standing part changes that one.
 *
 * @param rows cells as text, headings first
 * @param newId makes an id for a new part
 */
export function* planningDrawerRows(
  rows: readonly (readonly string[])[],
  standing: readonly Part[],
  newId: () => string,
): Generator<number, DrawerPlan> {
  const plan: DrawerPlan = { rows: [], faults: [], ignored: [] };
  const headings = (rows[0] ?? []).map((cell) => cell.trim());
  const columns = headings.map((heading) => {
    const name = OLD_NAMES.get(heading.toLowerCase()) ?? heading.toLowerCase();
    return COLUMNS.find((column) => column.toLowerCase() === name) ?? null;
  });
  plan.ignored = headings.filter((heading, at) => heading !== '' && columns[at] === null);
  if (!columns.includes('kind')) {
    plan.faults.push({
      line: 1,
      message: `has no column “kind”; the first line must name the columns: ${COLUMNS.slice(0, 7).join(', ')} and so on`,
    });
    return plan;
  }
  if (rows.length - 1 > MOST_ROWS) {
    plan.faults.push({
      line: MOST_ROWS + 2,
      message: `and those after it are too many; must be at most ${MOST_ROWS} lines below the headings`,
    });
    return plan;
  }
  const byKey = new Map(standing.map((part) => [keyOf(part), part]));
  const byId = new Map(standing.map((part) => [part.id, part]));
  const seen = new Map<string, number>();
  for (const [at, row] of rows.entries()) {
    if (at === 0) continue;
    if (at % TOLD_EVERY === 0) yield at;
    const line = at + 1;
    if (row.every((cell) => cell.trim() === '')) continue;
    const cells = new Map<string, string>();
    columns.forEach((name, column) => {
      const cell = unspoken((row[column] ?? '').trim());
      // Two columns may stand for one field, an old and a new name of it: the one that says something counts.
      if (name && (cell !== '' || !cells.has(name))) cells.set(name, cell);
    });
    const id = (cells.get('id') ?? '').toLowerCase();
    const named = { kind: (cells.get('kind') ?? '').toLowerCase(), name: cells.get('name') ?? '' };
    const before = byId.get(id) ?? byKey.get(keyOf(named));
    const read = readRow(cells, before, id || newId());
    if (!read.ok) {
      plan.faults.push({ line, message: read.message });
      continue;
    }
    const earlier = seen.get(keyOf(read.part));
    if (earlier !== undefined) {
      plan.faults.push({ line, message: `is the same part as line ${earlier}; each part must stand once` });
      continue;
    }
    seen.set(keyOf(read.part), line);
    const changes = before ? differencesOf(before, read.part) : [];
    plan.rows.push({ line, part: read.part, what: before ? (changes.length ? 'changed' : 'same') : 'new', changes });
  }
  return plan;
}

function readRow(
  cells: ReadonlyMap<string, string>,
  before: Part | undefined,
  id: string,
): { ok: true; part: Part } | { ok: false; message: string } {
  const kindCell = (cells.get('kind') ?? '').toLowerCase();
  const kind = KINDS.find((name) => name === kindCell);
  if (!kind) return { ok: false, message: `kind is “${kindCell}”; must be one of ${KINDS.join(', ')}` };
  const name = cells.get('name') ?? '';
  if (before && before.kind !== kind)
    return { ok: false, message: `kind is “${kind}”; must be “${before.kind}” for the part of this id` };
  const part: Record<string, unknown> = before
    ? { ...before, name: name || before.name }
    : { id, kind, name: name || 'unnamed' };
  const set = (field: string, unit: Parameters<typeof readQuantity>[1]): string | null => {
    const cell = cells.get(field) ?? '';
    if (cell === '') return null;
    // A number without a unit is in SI base units: a fraction is written as one (0.1) or in per cent (10 %).
    const read = readQuantity(cell, unit === '%' && !cell.includes('%') ? '' : unit, { name: '', per: 1 });
    if (!read.ok) return `${field} is “${cell}”: ${read.reason}`;
    part[field] = read.value;
    return null;
  };
  for (const field of ['count', 'price']) {
    const fault = set(field, '');
    if (fault) return { ok: false, message: fault };
  }
  if (cells.get('note')) part.note = cells.get('note');
  for (const field of PART_FIELDS[kind]) {
    const cell = cells.get(field.name) ?? '';
    if (cell === '') continue;
    if (field.as === 'quantity') {
      const fault = set(field.name, field.unit);
      if (fault) return { ok: false, message: fault };
    } else part[field.name] = field.as === 'yes' ? ({ true: true, false: false }[cell.toLowerCase()] ?? cell) : cell;
  }
  const read = partSchema.safeParse(part, { reportInput: true });
  if (!read.success) {
    const issue = read.error.issues[0];
    return { ok: false, message: `${String(issue.path[0] ?? 'the row')} ${issue.message}` };
  }
  return { ok: true, part: name === '' && !before ? { ...read.data, name: usualName(read.data) } : read.data };
}

/** Fields in which two parts differ, but for their id. */
function differencesOf(one: Part, other: Part): string[] {
  return COLUMNS.filter((field) => valueOf(one, field) !== valueOf(other, field));
}
