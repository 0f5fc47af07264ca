import { ownMetersSchema } from '../drive/meter-sense';
import * as z from '../zod';

/** What browser and server say to each other about a workshop's archive; declared once for both. */

/** What the browser adds to an archive: what it keeps of the workshop itself. */
export const archiveRequestSchema = ownMetersSchema;

/** Of two that clash, which counts. */
const TAKEN = ['here', 'archive'] as const;
export type Taken = (typeof TAKEN)[number];
/** Of two histories of one design: that which is here alone, or the archive's beside it as a design of its own. */
const TAKEN_DESIGNS = ['here', 'both'] as const;
export type TakenDesigns = (typeof TAKEN_DESIGNS)[number];

/** How an archive is taken in. */
const decisionsSchema = z.strictObject({
  designs: z.enum(TAKEN_DESIGNS),
  parts: z.enum(TAKEN),
});
export type Decisions = z.output<typeof decisionsSchema>;

const count = z.number().int().gte(0);
const named = z.strictObject({ id: z.string(), name: z.string() });

/** What is in an archive, beside what is here. */
const contentsSchema = z.strictObject({
  designs: z.strictObject({
    /** Not here at all, with how many revisions in all. */
    fresh: z.array(named),
    revisions: count,
    /** Here already as it is there, or further. */
    same: count,
    /** Goes on in the archive where it ends here. */
    later: z.array(named),
    /** Went on in both. */
    clashing: z.array(
      named.extend({
        hereName: z.string(),
        hereRevision: count,
        hereSavedAt: z.string(),
        revision: count,
        savedAt: z.string(),
      }),
    ),
  }),
  parts: z.strictObject({
    fresh: count,
    same: count,
    clashing: z.array(named.extend({ hereName: z.string(), hereCount: count, count })),
  }),
  /** Not here yet, of designs that do not clash. */
  records: z.strictObject({ sessions: count, readings: count, discharges: count, ticks: count, pictures: count }),
  /** Of one id, with another content here: what is here stays. */
  differingRecords: count,
  /** Could not be read when the archive was written: not taken in. */
  unread: count,
  meters: ownMetersSchema.shape.meters,
});
export type Contents = z.output<typeof contentsSchema>;

/** What inspecting an archive tells, and the name of that answer, which taking it in refers to. */
export const inspectionSchema = z.strictObject({ contents: contentsSchema, seen: z.string() });
export type Inspection = z.output<typeof inspectionSchema>;

/** How much a workshop holds, of each so many. */
export type Holdings = Record<
  'designs' | 'revisions' | 'parts' | 'sessions' | 'readings' | 'discharges' | 'pictures' | 'pictureBytes',
  number
>;

/** The most of an archive that is read, bytes. */
export const MOST_ARCHIVE_BYTES = 4e9;
/** The most of it that is sent at once. */
export const MOST_PIECE_BYTES = 4 * 1024 * 1024;

/** What the server answers to a piece: how much is there. */
export const pieceAnswerSchema = z.strictObject({ bytes: count });

/** How an archive is to be taken in that was inspected. */
export const takeRequestSchema = z.strictObject({ decisions: decisionsSchema, seen: z.string().length(64) });
