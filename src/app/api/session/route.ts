import { nothingSchema, passPhraseSchema } from '@/core/schema/entry-messages';
import { asksOf, cookieFor, entryFolder } from '@/server/entry/entry';
import { isPassPhrase, sessionKey } from '@/server/entry/pass-phrase';
import { openSession } from '@/server/entry/session';
import { Tries } from '@/server/entry/tries';
import { wayOf } from '@/server/entry/way';
import { readBody, refuse } from '../answers';
import { handled } from '../handle';

const A_PHRASE = { mostCharacters: 2000, bounds: { values: 10, depth: 3, keys: 10 } };

const tries = new Tries();

/** Opens a session for whoever knows the pass phrase. */
export const POST = handled(async (request: Request): Promise<Response> => {
  const way = wayOf(request.headers);
  const folder = entryFolder();
  if (way === null || folder === null || !asksOf(way))
    return refuse(404, [{ path: '$', message: 'is not needed; nobody is asked for a pass phrase here' }]);
  const reading = await readBody(request, passPhraseSchema, A_PHRASE);
  if (!reading.ok) return reading.response;
  const wait = tries.waitSeconds(way.from);
  if (wait > 0) {
    const message = `cannot be tried for another ${wait} s, after too many that were wrong; must be entered then`;
    const response = refuse(429, [{ path: 'passPhrase', message }]);
    response.headers.set('retry-after', String(wait));
    return response;
  }
  tries.begin(way.from);
  if (!(await isPassPhrase(folder, reading.body.passPhrase)))
    return refuse(403, [
      { path: 'passPhrase', message: 'is not the pass phrase; must be the five words shown when it was made' },
    ]);
  tries.right(way.from);
  const session = openSession(sessionKey(folder)!);
  return Response.json({}, { headers: { 'set-cookie': cookieFor(request.headers.get('host')!, way, session) } });
});

/** Ends the session of whoever asks. */
export const DELETE = handled(async (request: Request): Promise<Response> => {
  const way = wayOf(request.headers);
  const reading = await readBody(request, nothingSchema, A_PHRASE);
  if (!reading.ok) return reading.response;
  if (way === null) return refuse(404, [{ path: '$', message: 'is no session' }]);
  return Response.json({}, { headers: { 'set-cookie': cookieFor(request.headers.get('host')!, way, null) } });
});
