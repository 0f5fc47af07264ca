import { drawerRequestSchema, MOST_PARTS_A_CHANGE } from '@/core/drawer/drawer-messages';
import { changeDrawer, readDrawer } from '@/server/drawer';
import { readBody } from '../answers';
import { handled } from '../handle';

/** Enough for as many parts as one change takes, each with every field and a long note. */
const A_CHANGE = {
  mostCharacters: MOST_PARTS_A_CHANGE * 6000,
  bounds: { values: MOST_PARTS_A_CHANGE * 60, depth: 8, keys: 100 },
};

export const GET = handled(async (): Promise<Response> => {
  return Response.json(await readDrawer());
});

/** Changes the drawer as a whole: parts put in or replaced, others taken out; 409 with the drawer as it stands when it has changed since. */
export const POST = handled(async (request: Request): Promise<Response> => {
  const reading = await readBody(request, drawerRequestSchema, A_CHANGE);
  if (!reading.ok) return reading.response;
  const { kind, drawer } = await changeDrawer(reading.body);
  return Response.json(drawer, { status: kind === 'conflict' ? 409 : 200 });
});
