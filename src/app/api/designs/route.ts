import { designSchema } from '@/core/design/design-schema';
import { createDesign } from '@/server/designs';
import { readBody } from '../answers';

/** Puts a new design on the shelf: a fresh one, a copy or an imported file. */
export async function POST(request: Request): Promise<Response> {
  const reading = await readBody(request, designSchema);
  if (!reading.ok) return reading.response;
  return Response.json(await createDesign(reading.body), { status: 201 });
}
