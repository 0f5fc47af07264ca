import { nothingSchema } from '@/core/schema/entry-messages';
import { asksOf, cookieFor, entryFolder } from '@/server/entry/entry';
import { makePassPhrase, sessionKey } from '@/server/entry/pass-phrase';
import { openSession } from '@/server/entry/session';
import { wayOf } from '@/server/entry/way';
import { readBody, refuse } from '../answers';
import { handled } from '../handle';

/** Makes another pass phrase, for whoever is at this machine; every session ends but the one that asks. */
export const POST = handled(async (request: Request): Promise<Response> => {
  const way = wayOf(request.headers);
  const folder = entryFolder();
  if (way?.over !== 'loopback' || folder === null)
    return refuse(403, [{ path: '$', message: 'is made at the machine itself; must be asked for there' }]);
  const reading = await readBody(request, nothingSchema, {
    mostCharacters: 100,
    bounds: { values: 1, depth: 1, keys: 1 },
  });
  if (!reading.ok) return reading.response;
  const passPhrase = await makePassPhrase(folder);
  const headers: HeadersInit = asksOf(way)
    ? { 'set-cookie': cookieFor(request.headers.get('host')!, way, openSession(sessionKey(folder)!)) }
    : {};
  return Response.json({ passPhrase }, { headers });
});
