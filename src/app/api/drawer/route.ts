import { drawerRequestSchema, MOST_PARTS_A_CHANGE } from '@/core/drawer/drawer-messages';
import { changeDrawer, changesMade, readDrawer } from '@/server/drawer';
import { isId, readBody } from '../answers';
import { handled } from '../handle';

/** Enough for as many parts as one change takes, each with every field and a long note. */
const A_CHANGE = {
  mostCharacters: MOST_PARTS_A_CHANGE * 6000,
  bounds: { values: MOST_PARTS_A_CHANGE * 60, depth: 8, keys: 100 },
};

/** Most changes that are asked about at once. */
const MOST_ASKED = 1000;

/** The drawer; or, of changes named in `made`, those that have been made. */
export const GET = handled(async (request: Request): Promise<Response> => {
  const asked = new URL(request.url).searchParams.get('made');
  if (asked === null) return Response.json(await readDrawer());
  const ids = asked.split(',').filter(isId).slice(0, MOST_ASKED);
  return Response.json({ made: await changesMade(ids) });
});

/** Changes the drawer as a whole: parts put in or replaced, others taken out; 409 with the drawer as it stands when it has changed since. */
export const POST = handled(async (request: Request): Promise<Response> => {
  const reading = await readBody(request, drawerRequestSchema, A_CHANGE);
  if (!reading.ok) return reading.response;
  const { kind, drawer } = await changeDrawer(reading.body);
  return Response.json(drawer, { status: kind === 'conflict' ? 409 : 200 });
});
