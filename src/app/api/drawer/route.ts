import { drawerRequestSchema, MOST_PARTS_A_CHANGE } from '@/core/drawer/drawer-messages';
import { changeDrawer, changesMade, drawerText, standingRevision } from '@/server/drawer';
import { isId, readBody } from '../answers';
import { handled } from '../handle';

/** Enough for as many parts as one change takes, each with every field and a long note. */
const A_CHANGE = {
  mostCharacters: MOST_PARTS_A_CHANGE * 6000,
  bounds: { values: MOST_PARTS_A_CHANGE * 60, depth: 8, keys: 100 },
};

/** Most changes that are asked about at once. */
const MOST_ASKED = 1000;

const asJson = (text: string, status = 200) =>
  new Response(text, { status, headers: { 'content-type': 'application/json' } });

/**
 * The drawer, with `after` only where it stands at a later revision, else 204;
 * or, of changes named in `made`, those that have been made.
 */
export const GET = handled(async (request: Request): Promise<Response> => {
  const { searchParams } = new URL(request.url);
  const asked = searchParams.get('made');
  if (asked === null) {
    const after = searchParams.get('after');
    if (after !== null && (await standingRevision()) <= Number(after)) return new Response(null, { status: 204 });
    return asJson(await drawerText());
  }
  const ids = asked.split(',').filter(isId).slice(0, MOST_ASKED);
  return Response.json({ made: await changesMade(ids) });
});

/** Changes the drawer as a whole: parts put in or replaced, others taken out; 409 with the drawer as it stands when it has changed since. */
export const POST = handled(async (request: Request): Promise<Response> => {
  const reading = await readBody(request, drawerRequestSchema, A_CHANGE);
  if (!reading.ok) return reading.response;
  const outcome = await changeDrawer(reading.body);
  return outcome.kind === 'changed'
    ? Response.json({ revision: outcome.revision })
    : asJson(outcome.drawer, outcome.kind === 'conflict' ? 409 : 200);
});
