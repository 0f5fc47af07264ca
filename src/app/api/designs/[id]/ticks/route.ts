import { MOST_TICKS, tickChangesSchema } from '@/core/build/ticks';
import { NotKept } from '@/server/bench';
import { keepTicks, listTicks } from '@/server/ticks';
import { isId, notFound, readBody, refuse } from '../../../answers';
import { handled } from '../../../handle';

type Context = { params: Promise<{ id: string }> };

/** Steps done of this design's build sheets. */
export const GET = handled(async (_request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  return isId(id) ? Response.json(await listTicks(id)) : notFound();
});

/** Keeps steps as done, or as not done any more; the same again changes nothing. */
export const PUT = handled(async (request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  if (!isId(id)) return notFound();
  const reading = await readBody(request, tickChangesSchema);
  if (!reading.ok) return reading.response;
  try {
    await keepTicks(id, reading.body);
    return Response.json({ kept: reading.body.length });
  } catch (error) {
    if (!(error instanceof NotKept)) throw error;
    if (error.why === 'no design') return notFound();
    return refuse(422, [{ path: '$', message: `would be more than ${MOST_TICKS} steps of one design; must be fewer` }]);
  }
});
