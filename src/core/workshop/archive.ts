import { sessionReadingsSchema } from '../bench/session';
import { ticksSchema } from '../build/ticks';
import { runsSchema } from '../dead/run';
import { ownMetersSchema } from '../drive/meter-sense';
import { partSchema } from '../parts/part-schema';
import { saying } from '../schema/fields';
import type { Bounds } from '../schema/bounds';
import type { Fault } from '../schema/faults';
import * as z from '../zod';

/**
 * A whole workshop in one ZIP file: designs with every revision, what was
 * measured, done and built of each, pictures, the drawer and the meters. Declared
 * once for what is written and for what is read.
 *
 * `workshop.json` names every other member with its length and SHA-256. Members
 * of a design lie in `designs/ID/`. What was stored and no schema reads lies in
 * `unread.json` just as it stood, and is not taken in.
 */

export const WORKSHOP_FORMAT = 'eager-ladder/workshop';
export const WORKSHOP_VERSION = 1;

export const MANIFEST = 'workshop.json';
export const UNREAD = 'unread.json';
export const DRAWER = 'drawer.json';
export const METERS = 'meters.json';

const UUID = '[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}';
const OF_DESIGN = new RegExp(`^designs/(${UUID})/(design|bench|discharges|ticks)\\.json$`);
const PICTURE = new RegExp(`^designs/(${UUID})/pictures/(${UUID})\\.jpg$`);

/** What of a design a member holds. */
export type DesignPart = 'design' | 'bench' | 'discharges' | 'ticks';
export type MemberPlace =
  | { kind: 'drawer' | 'meters' | 'unread' }
  | { kind: 'design'; designId: string; part: DesignPart }
  | { kind: 'picture'; designId: string; pictureId: string };

export const designMember = (designId: string, part: DesignPart): string => `designs/${designId}/${part}.json`;
export const pictureMember = (designId: string, pictureId: string): string =>
  `designs/${designId}/pictures/${pictureId}.jpg`;

/** What a member holds, by its path; null for a path that no archive of this version has. */
export function placeOf(path: string): MemberPlace | null {
  if (path === DRAWER) return { kind: 'drawer' };
  if (path === METERS) return { kind: 'meters' };
  if (path === UNREAD) return { kind: 'unread' };
  const ofDesign = OF_DESIGN.exec(path);
  if (ofDesign) return { kind: 'design', designId: ofDesign[1], part: ofDesign[2] as DesignPart };
  const picture = PICTURE.exec(path);
  return picture ? { kind: 'picture', designId: picture[1], pictureId: picture[2] } : null;
}

const id = z.uuid({ error: saying('an id of its own') });
const moment = z.iso.datetime({ error: saying('a moment as 2026-01-31T12:00:00.000Z') });
const revision = z
  .number({ error: saying('a whole number from 1') })
  .int()
  .gte(1)
  .lte(2_147_483_647);

/** More than any workshop has. */
const MOST_MEMBERS = 500_000;

export const manifestSchema = z.strictObject({
  format: z.literal(WORKSHOP_FORMAT, { error: saying(`"${WORKSHOP_FORMAT}"`) }),
  version: z.literal(WORKSHOP_VERSION, {
    error: saying(`${WORKSHOP_VERSION} (an archive of a later version needs a later Eager Ladder)`),
  }),
  members: z
    .array(
      z.strictObject({
        path: z.string(),
        bytes: z.number().int().gte(0),
        sha256: z.string().regex(/^[0-9a-f]{64}$/, { error: saying('64 hexadecimal digits') }),
      }),
    )
    .max(MOST_MEMBERS),
});
export type Manifest = z.output<typeof manifestSchema>;

/** A design with its whole history, oldest first; the last is the one that stands. Documents are checked one by one. */
export const designMemberSchema = z.strictObject({
  id,
  createdAt: moment,
  archivedAt: moment.nullable(),
  revisions: z
    .array(z.strictObject({ revision, savedAt: moment, document: z.unknown() }))
    .min(1, { error: saying('a history with one revision at least') })
    .superRefine((revisions, context) => {
      revisions.forEach((one, at) => {
        if (at > 0 && one.revision <= revisions[at - 1].revision)
          context.addIssue({
            code: 'custom',
            path: [at, 'revision'],
            message: `is ${one.revision} after ${revisions[at - 1].revision}; must be larger than the one before`,
          });
      });
    }),
});
export type DesignMember = z.output<typeof designMemberSchema>;

export const benchMemberSchema = z.array(sessionReadingsSchema);
export const dischargesMemberSchema = runsSchema;
export const ticksMemberSchema = ticksSchema;
export const metersMemberSchema = ownMetersSchema;
export const drawerMemberSchema = z.strictObject({ parts: z.array(partSchema).max(100_000) });
/** What no schema reads, and where it stood. */
export const unreadMemberSchema = z.array(z.strictObject({ of: z.string(), row: z.unknown() }));
export type Unread = z.output<typeof unreadMemberSchema>;

/** Enough for any member but a design with its history, whose documents are held to bounds of their own. */
export const MEMBER_BOUNDS: Bounds = { values: 3_000_000, depth: 30, keys: 2000 };

/** How a fault of a member is told: the member first, then where in it. */
export const inMember = (member: string, { path, message }: Fault): Fault => ({
  path: path === '$' ? member : `${member} ${path}`,
  message,
});
