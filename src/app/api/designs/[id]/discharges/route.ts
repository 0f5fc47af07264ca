import { runSchema } from '@/core/dead/run';
import { keepDischarge, listDischarges } from '@/server/discharges';
import { isId, notFound, readBody } from '../../../answers';
import { handled } from '../../../handle';

type Context = { params: Promise<{ id: string }> };

/** What was gone through of this design's plans, newest first. */
export const GET = handled(async (_request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  return isId(id) ? Response.json(await listDischarges(id)) : notFound();
});

/** Keeps a run as it stands; the same again changes nothing. */
export const PUT = handled(async (request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  if (!isId(id)) return notFound();
  const reading = await readBody(request, runSchema);
  if (!reading.ok) return reading.response;
  return (await keepDischarge(id, reading.body)) ? Response.json({ id: reading.body.id }) : notFound();
});
