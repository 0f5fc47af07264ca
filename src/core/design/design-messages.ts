import * as z from '../zod';
import { designSchema } from './design-schema';

/** What the browser and the server say to each other about designs; declared once for both. */
export const saveRequestSchema = z.strictObject({
  baseRevision: z.number().int().gte(1),
  design: designSchema,
});

export const archiveRequestSchema = z.strictObject({ archived: z.boolean() });
