import { faultSchema, type Fault } from '../schema/faults';
import * as z from '../zod';
import { designSchema } from './design-schema';
import { upgradeDesign } from './upgrade';

/** What the browser and the server say to each other about designs; declared once for both. */

/** A design document of any version there was, brought up to the present one. */
export const designDocumentSchema = z.preprocess(upgradeDesign, designSchema);

/** As large as the database counts. */
const revision = z.number().int().gte(1).lte(2_147_483_647);

export const saveRequestSchema = z.strictObject({
  baseRevision: revision,
  design: designDocumentSchema,
});

export const archiveRequestSchema = z.strictObject({ archived: z.boolean() });

const state = { revision, savedAt: z.string() };
const row = { id: z.string(), ...state, archivedAt: z.string().nullable() };
const faults = z.array(faultSchema).min(1);

/** A design as the server keeps it. */
export const storedDesignSchema = z.strictObject({ ...row, design: designDocumentSchema });
export type StoredDesign = z.output<typeof storedDesignSchema>;

/** A design whose document the schema refuses: it stands with its faults, and nothing of it is taken for granted. */
export type DamagedDesign = Omit<StoredDesign, 'design'> & { name: string; faults: Fault[] };

const savedRevisionSchema = z.strictObject({ ...state, design: designDocumentSchema });
export type SavedRevision = z.output<typeof savedRevisionSchema>;

/** Saved states of one design, newest first; a state that cannot be read has faults in place of its design. */
export const revisionsSchema = z.array(z.union([savedRevisionSchema, z.strictObject({ ...state, faults })]));
export type Revision = z.output<typeof revisionsSchema>[number];

export const archiveAnswerSchema = z.strictObject({ id: z.string(), archivedAt: z.string().nullable() });
