import { UNSTORABLE } from '../schema/bounds';
import type { Fault } from '../schema/faults';
import * as z from '../zod';
import type { ShelfRow } from './shelf-row';

/** What the shelf can be sorted by. */
export const SHELF_SORTS = ['name', 'target', 'reached', 'margin', 'savedAt'] as const;
export type ShelfSort = (typeof SHELF_SORTS)[number];

/** Rows of one page of the shelf. */
export const SHELF_PAGE = 50;
const MOST_SHOWN = 10_000;

const volts = z.coerce.number().positive().optional().catch(undefined);

/** Which designs the shelf shows, as its address has it; what cannot be read there counts as not said. */
const shelfQuerySchema = z.object({
  search: z
    .string()
    .max(200)
    .refine((text) => !UNSTORABLE.test(text))
    .catch('')
    .default(''),
  /** Targets, V, inclusive. */
  from: volts,
  to: volts,
  archived: z.literal('yes').optional().catch(undefined),
  sort: z.enum(SHELF_SORTS).catch('savedAt').default('savedAt'),
  order: z.enum(['rising', 'falling']).catch('falling').default('falling'),
  shown: z.coerce.number().int().min(SHELF_PAGE).max(MOST_SHOWN).catch(SHELF_PAGE).default(SHELF_PAGE),
});
export type ShelfQuery = z.output<typeof shelfQuerySchema>;

export const EVERYTHING: ShelfQuery = shelfQuerySchema.parse({});

/** Reads a query from an address, as its parts come: once, several times or not at all. */
export function readShelfQuery(asked: Record<string, string | string[] | undefined>): ShelfQuery {
  const once = Object.entries(asked).map(([name, value]) => [name, Array.isArray(value) ? value[0] : value]);
  return shelfQuerySchema.parse(Object.fromEntries(once));
}

/** When a design was last measured at the bench, and how many readings agreed with what was expected then, were doubtful, or off. */
export type LastMeasured = { at: string; agrees: number; doubtful: number; off: number };

type Common = { id: string; name: string; savedAt: string; archived: boolean; measured: LastMeasured | null };
export type SoundRow = Common & ShelfRow & { damaged: false };
/** A design whose document cannot be read: it keeps its place, and takes nothing else down. */
export type DamagedRow = Common & { damaged: true; faults: Fault[]; faultCount: number };
export type ShelvedDesign = SoundRow | DamagedRow;

/** What the shelf shows of what is asked. */
export type ShelfPage = {
  rows: ShelvedDesign[];
  /** How many there are of what is asked, of all not archived, and of all archived. */
  found: number;
  standing: number;
  archived: number;
};

/** An address's query for what is asked; only what is not as usual stands in it. */
export function shelfAddress(query: ShelfQuery): string {
  const said = Object.entries(query).filter(
    ([name, value]) => value !== undefined && value !== EVERYTHING[name as keyof ShelfQuery],
  );
  return said.length === 0 ? '/' : `/?${new URLSearchParams(said.map(([name, value]) => [name, String(value)]))}`;
}
