import { archiveRequestSchema, saveRequestSchema } from '@/core/design/design-messages';
import { findDesign, saveDesign, setArchived } from '@/server/designs';
import { isId, notFound, readBody } from '../../answers';

type Context = { params: Promise<{ id: string }> };

export async function GET(_request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const stored = isId(id) ? await findDesign(id) : null;
  return stored ? Response.json(stored) : notFound();
}

/** Saves over the revision the editor last saw; 409 with the standing one when another has come between. */
export async function PUT(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  if (!isId(id)) return notFound();
  const reading = await readBody(request, saveRequestSchema);
  if (!reading.ok) return reading.response;
  const outcome = await saveDesign(id, reading.body.baseRevision, reading.body.design);
  if (outcome.kind === 'missing') return notFound();
  return Response.json(outcome.stored, { status: outcome.kind === 'conflict' ? 409 : 200 });
}

/** Archives a design or brings it back. */
export async function PATCH(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  if (!isId(id)) return notFound();
  const reading = await readBody(request, archiveRequestSchema);
  if (!reading.ok) return reading.response;
  const stored = await setArchived(id, reading.body.archived);
  return stored ? Response.json(stored) : notFound();
}
