import { MOST_READINGS, sessionReadingsSchema } from '@/core/bench/session';
import { keepReadings, listSessions, NotKept } from '@/server/bench';
import { isId, notFound, readBody, refuse } from '../../../answers';
import { handled } from '../../../handle';

const WHY_NOT: Record<Exclude<NotKept['why'], 'no design'>, string> = {
  'too many': `would have more than ${MOST_READINGS} readings; must begin another session`,
  'put away': 'is of a design that is put away; bring it back to the shelf first',
  'of another design': 'is a session of another design; must be one of this',
};

type Context = { params: Promise<{ id: string }> };

/** Readings taken of this design, session by session, newest first. */
export const GET = handled(async (_request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  return isId(id) ? Response.json(await listSessions(id)) : notFound();
});

/** Keeps more readings of a session; the same again changes nothing. */
export const PUT = handled(async (request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  if (!isId(id)) return notFound();
  const reading = await readBody(request, sessionReadingsSchema);
  if (!reading.ok) return reading.response;
  try {
    return Response.json({ kept: await keepReadings(id, reading.body) });
  } catch (error) {
    if (!(error instanceof NotKept)) throw error;
    if (error.why === 'no design') return notFound();
    return refuse(422, [{ path: '$.session', message: WHY_NOT[error.why] }]);
  }
});
