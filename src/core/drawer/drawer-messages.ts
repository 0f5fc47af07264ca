import deepEqual from 'fast-deep-equal';
import { partSchema, type Part } from '../parts/part-schema';
import { faultSchema } from '../schema/faults';
import { saying } from '../schema/fields';
import * as z from '../zod';

/** What the browser and the server say to each other about the drawer; declared once for both. */

/** Most parts that one change puts in or takes out. */
export const MOST_PARTS_A_CHANGE = 5000;

const atMost = (what: string) => ({
  error: () => `has more than ${MOST_PARTS_A_CHANGE} ${what}; must have fewer`,
});

/** A change of the drawer, all of it or nothing: parts put in or replaced by their id, ids taken out. */
const drawerChangeSchema = z.strictObject({
  put: z.array(partSchema).max(MOST_PARTS_A_CHANGE, atMost('parts')).default([]),
  remove: z.array(z.uuid()).max(MOST_PARTS_A_CHANGE, atMost('ids')).default([]),
});
export type DrawerChange = z.output<typeof drawerChangeSchema>;

/** As large as the database counts. */
const revision = z.number().int().gte(0).lte(2_147_483_647);

/** A change made from a drawer as it stood at a revision. */
export const drawerRequestSchema = drawerChangeSchema.extend({
  baseRevision: revision,
  /** Of the change's own: one that went through already is not made again. */
  changeId: z.uuid({ error: saying('an id of its own') }),
});
export type DrawerRequest = z.output<typeof drawerRequestSchema>;

/** Everything in the drawer, and what designs on the shelf take of it. */
export const drawerSchema = z.strictObject({
  revision,
  parts: z.array(partSchema),
  /** Rows that the schema refuses, as they stand in the database. */
  damaged: z.array(
    z.strictObject({ id: z.string(), name: z.string(), faults: z.array(faultSchema).min(1), row: z.unknown() }),
  ),
  /** How many of a part a design takes. */
  uses: z.array(
    z.strictObject({ designId: z.string(), designName: z.string(), partId: z.string(), count: z.number() }),
  ),
  /** Designs on the shelf that cannot be read: what they take is not counted. */
  unreadDesigns: z.number().int().gte(0),
});
export type Drawer = z.output<typeof drawerSchema>;
export type PartUse = Drawer['uses'][number];

/** What a page of the drawer is served with. */
export type DrawerOpening = {
  /** Its first parts, and what is taken of them. */
  drawer: Drawer;
  /** How many it has in all, with those that cannot be read. */
  of: number;
  /** Whether that is all of them. */
  whole: boolean;
};

/** Parts that a page is served with; the rest is fetched once it stands. */
export const OPENING_PARTS = 60;

/** What came of a change where nothing else was changed: the revision that it led to. Else it is the whole drawer. */
export const changedDrawerSchema = z.strictObject({ revision });

const unreadPartsSchema = drawerSchema.extend({ parts: z.array(z.unknown()) });

/**
 * Reads a drawer as {@link drawerSchema} does, part by part, so that thousands of
 * them need not be read in one go; tells how many are read. Null for what the
 * schema refuses.
 *
 * @param known parts that are the same objects still where they stand as they were
 */
export function* readingDrawer(told: unknown, known: readonly Part[]): Generator<number, Drawer | null> {
  const around = unreadPartsSchema.safeParse(told);
  if (!around.success) return null;
  const before = new Map(known.map((part) => [part.id, part]));
  const parts: Part[] = [];
  for (const one of around.data.parts) {
    const part = partSchema.safeParse(one);
    if (!part.success) return null;
    const was = before.get(part.data.id);
    parts.push(deepEqual(was, part.data) ? was! : part.data);
    yield parts.length;
  }
  return { ...around.data, parts };
}

/** Which of some changes have been made. */
export const madeChangesSchema = z.strictObject({ made: z.array(z.string()) });
