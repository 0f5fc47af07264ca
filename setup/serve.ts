import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import path from 'node:path';
import { freePort } from './cluster';
import { ROOT } from './build';

export type Served = { address: string; child: ChildProcess; stop: () => Promise<void> };

const APPLICATION = path.join(ROOT, 'setup/application.mjs');
const PATIENCE_MILLISECONDS = 60_000;
const MOST_PORTS_TRIED = 10;
/** What a start killed a moment ago may take to leave its port, ms. */
const LEAVING_MILLISECONDS = 2000;

async function untilFree(port: number): Promise<void> {
  const giveUpAt = Date.now() + LEAVING_MILLISECONDS;
  while (Date.now() < giveUpAt && (await freePort(port)) !== port)
    await new Promise((resolve) => setTimeout(resolve, 100));
}

/**
 * Serves the built application on 127.0.0.1 and resolves when this very
 * process of it answers, database included.
 *
 * @param preferredPort taken if free, else the next free one; also when
 *   somebody else takes it at the last moment
 */
export async function serve(databaseUrl: string, preferredPort: number): Promise<Served> {
  await untilFree(preferredPort);
  let port = preferredPort;
  for (let tried = 0; tried < MOST_PORTS_TRIED; tried += 1) {
    port = await freePort(port);
    const served = await serveAt(databaseUrl, port);
    if (served) return served;
    port += 1;
  }
  throw new Error('The application ended before it answered; see the messages above.');
}

/** Serves at one port; null when the process ended by itself, as it does when the port is taken. */
async function serveAt(databaseUrl: string, port: number): Promise<Served | null> {
  const address = `http://127.0.0.1:${port}`;
  const instance = randomUUID();
  // However this process ends, the application ends with it, and leaves the address to the next.
  const child = spawn('setpriv', ['--pdeathsig', 'KILL', process.execPath, APPLICATION, String(port)], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: {
      ...process.env,
      DATABASE_URL: databaseUrl,
      EAGER_LADDER_INSTANCE: instance,
      NEXT_TELEMETRY_DISABLED: '1',
      NODE_ENV: 'production',
    },
    // Its own group: Ctrl-C reaches it through stop, once, in order.
    detached: true,
  });
  const ended = () => child.exitCode !== null || child.signalCode !== null;
  const stop = () =>
    new Promise<void>((resolve) => {
      if (ended()) return resolve();
      child.once('exit', () => resolve());
      child.kill('SIGTERM');
      setTimeout(() => child.kill('SIGKILL'), 8000).unref();
    });
  const giveUpAt = Date.now() + PATIENCE_MILLISECONDS;
  while (!ended()) {
    const health = (await fetch(`${address}/api/health`)
      .then((response) => response.json())
      .catch(() => null)) as { reads: boolean; trouble: string | null; instance: string } | null;
    if (health?.reads && health.instance === instance) {
      if (health.trouble) console.error(`It can be read only: ${health.trouble}.`);
      return { address, child, stop };
    }
    if (Date.now() > giveUpAt) {
      await stop();
      throw new Error('The application did not answer within a minute.');
    }
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  return null;
}
