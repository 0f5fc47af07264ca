import { designDocumentSchema } from '@/core/design/design-messages';
import { createDesign } from '@/server/designs';
import { readBody } from '../answers';
import { handled } from '../handle';

/** Puts a new design on the shelf: a fresh one, a copy or an imported file. */
export const POST = handled(async (request: Request): Promise<Response> => {
  const reading = await readBody(request, designDocumentSchema);
  if (!reading.ok) return reading.response;
  return Response.json(await createDesign(reading.body), { status: 201 });
});
