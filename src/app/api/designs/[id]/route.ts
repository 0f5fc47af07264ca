import { archiveRequestSchema, saveRequestSchema } from '@/core/design/design-messages';
import { findDesign, isDamaged, saveDesign, setArchived, standingRevision, type Shelved } from '@/server/designs';
import { isId, notFound, readBody, refuse } from '../../answers';
import { handled } from '../../handle';

type Context = { params: Promise<{ id: string }> };

/** A design, or the faults of one that cannot be read. */
const answer = (shelved: Shelved, status = 200) =>
  isDamaged(shelved) ? refuse(422, shelved.faults) : Response.json(shelved, { status });

/** The design as it stands; nothing where it is still the revision that `after` names. */
export const GET = handled(async (request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  const after = new URL(request.url).searchParams.get('after');
  if (isId(id) && after !== null && (await standingRevision(id)) === Number(after))
    return new Response(null, { status: 204 });
  const found = isId(id) ? await findDesign(id) : null;
  return found ? answer(found) : notFound();
});

/** Saves over the revision the editor last saw; 409 with the standing one when another has come between. */
export const PUT = handled(async (request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  if (!isId(id)) return notFound();
  const reading = await readBody(request, saveRequestSchema);
  if (!reading.ok) return reading.response;
  const outcome = await saveDesign(id, reading.body.baseRevision, reading.body.design);
  if (outcome.kind === 'missing') return notFound();
  return answer(outcome.stored, outcome.kind === 'conflict' ? 409 : 200);
});

/** Archives a design or brings it back, whether it can be read or not. */
export const PATCH = handled(async (request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  if (!isId(id)) return notFound();
  const reading = await readBody(request, archiveRequestSchema);
  if (!reading.ok) return reading.response;
  const found = await setArchived(id, reading.body.archived);
  return found ? Response.json({ id, archivedAt: found.archivedAt }) : notFound();
});
