import { readdirSync, readFileSync } from 'node:fs';
import { request as plainRequest } from 'node:http';
import { request as secureRequest } from 'node:https';
import path from 'node:path';
import { ROOT } from '../setup/build';
import type { Started } from './started';

const NOWHERE = '00000000-0000-4000-8000-000000000000';
const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'];
const JSON_TYPE = { 'content-type': 'application/json' };
/** What one enters by, on each way, and how a start learns that the application is up. */
const OPEN = ['/enter', '/api/session'];
const OPEN_HERE = [...OPEN, '/api/health'];
/** What somebody who is not let in might send to be taken for one who is. */
const DISGUISES: Readonly<Record<string, string>>[] = [
  {},
  { 'x-eager-ladder-way': 'loopback 127.0.0.1 127.0.0.1' },
  { 'x-middleware-subrequest': Array(5).fill('src/proxy').join(':') },
  { rsc: '1', 'next-router-prefetch': '1' },
  { 'x-forwarded-for': '127.0.0.1', 'x-forwarded-host': 'localhost' },
];

type Answer = { status: number; headers: NodeJS.Dict<string | string[]>; body: string };

/** Every page and route there is, with ids that name nothing. */
function everywhere(): string[] {
  const app = path.join(ROOT, 'src/app');
  return (readdirSync(app, { recursive: true }) as string[])
    .filter((file) => /(^|\/)(page\.tsx|route\.ts)$/.test(file))
    .map((file) => `/${path.dirname(file)}`.replace('/.', '/').replace('/[[...place]]', '').replace('[id]', NOWHERE));
}

/** One request, over HTTPS trusting only the authority that the start has made. */
function ask(
  url: string,
  ca: string,
  { method = 'GET', headers = {}, body }: { method?: string; headers?: Record<string, string>; body?: string } = {},
): Promise<Answer> {
  const send = url.startsWith('https:') ? secureRequest : plainRequest;
  return new Promise((resolve, reject) => {
    const request = send(url, { method, headers, ca, timeout: 10_000 }, (response) => {
      let text = '';
      response.setEncoding('utf8');
      response.on('data', (chunk: string) => (text += chunk));
      response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers, body: text }));
    });
    request.on('error', reject);
    request.end(body);
  });
}

/** Whether an answer gives anything away, or does anything. */
const letsIn = ({ status, headers }: Answer): boolean =>
  !(status >= 400 || (status === 307 && String(headers.location).includes('/enter?to=')));

/**
 * Somebody without the pass phrase, over the network and on this machine: asks
 * for everything there is, disguised and not, and tries pass phrases; then
 * somebody who has it.
 */
export async function intruder(started: Started, folder: string): Promise<{ tried: string; lost: string[] }> {
  await started.start('--network', '--address', '127.0.0.1', '--locked');
  const network = started.networkAddress();
  const passPhrase = started.passPhrase()!;
  const ca = readFileSync(path.join(folder, 'entry/authority.crt'), 'utf8');
  const lost: string[] = [];
  const must = (held: boolean, what: string) => void (held || lost.push(what));
  let requests = 0;

  for (const address of [network, started.address])
    for (const where of everywhere())
      for (const method of METHODS)
        for (const disguise of DISGUISES) {
          if ((address === network ? OPEN : OPEN_HERE).includes(where)) continue;
          requests += 1;
          const body = method === 'GET' ? undefined : '{}';
          const answer = await ask(address + where, ca, { method, headers: { ...JSON_TYPE, ...disguise }, body });
          must(!letsIn(answer), `${answer.status} to ${method} ${address}${where} ${JSON.stringify(disguise)}`);
        }

  const enter = (phrase: string, headers: Record<string, string> = {}) =>
    ask(`${network}/api/session`, ca, {
      method: 'POST',
      headers: { ...JSON_TYPE, ...headers },
      body: JSON.stringify({ passPhrase: phrase }),
    });
  must((await enter('', {})).status === 422, 'an empty pass phrase is not refused for what it is');
  must((await enter(passPhrase, { origin: 'https://evil.example' })).status === 403, 'another site’s page enters');
  const began = performance.now();
  const wrong = await Promise.all(Array.from({ length: 20 }, (_, at) => enter(`wrong ${at}`)));
  must(
    wrong.every(({ status }) => status === 403 || status === 429),
    'a wrong pass phrase lets in',
  );
  const early = await enter(passPhrase);
  // On a machine so slow that the first wait is over meanwhile, one more is let through.
  if (performance.now() - began < 2000) {
    must(wrong.filter(({ status }) => status === 403).length === 5, 'many at once are not slowed down after five');
    must(early.status === 429, 'the right one need not wait after wrong ones');
  }
  await new Promise((resolve) => setTimeout(resolve, 1000 * Number(early.headers['retry-after'] ?? 0) + 200));
  const entered = await enter(passPhrase);
  must(entered.status === 200, `the right one is answered with ${entered.status}`);
  const [cookie] = [entered.headers['set-cookie'] ?? []].flat();
  for (const word of ['HttpOnly', 'SameSite=Strict', 'Secure', 'Path=/'])
    must(Boolean(cookie?.includes(word)), `the session's cookie is not ${word}`);

  const session = { cookie: cookie?.split(';')[0] ?? '' };
  const opens = async (headers: Record<string, string>) =>
    (await ask(`${network}/api/drawer`, ca, { headers })).status === 200;
  must(await opens(session), 'who has entered is not let in');
  must(!(await opens({ cookie: `${session.cookie}x` })), 'a session that was changed lets in');
  const made = await ask(`${network}/api/pass-phrase`, ca, {
    method: 'POST',
    headers: { ...JSON_TYPE, ...session },
    body: '{}',
  });
  must(made.status === 403, 'another pass phrase can be made over the network');

  await started.stop();
  await started.start('--network', '--address', '127.0.0.1');
  must(started.passPhrase() === null, 'a pass phrase is made though there is one');
  must(await opens(session), 'a session does not outlive the start');
  must((await ask(`${started.address}/api/drawer`, ca)).status === 200, 'who is on this machine is asked unlocked');
  await started.stop();
  await started.start('--network', '--address', '127.0.0.1', '--new-pass-phrase');
  must(!(await opens(session)), 'a session outlives its pass phrase');
  must((await enter(passPhrase)).status === 403, 'a pass phrase outlives the one made after it');
  return { tried: `${requests} requests without the pass phrase, ${wrong.length} wrong ones`, lost };
}
