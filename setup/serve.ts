import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import path from 'node:path';
import { freePort } from './cluster';
import { ROOT } from './build';
import { LOCAL_RANGES } from './network';

export type Served = {
  address: string;
  /** Where it is reached over the network; empty where it is not. */
  networkAddresses: string[];
  child: ChildProcess;
  stop: () => Promise<void>;
};

/** Who is let in besides whoever uses this machine. */
export type Entry = {
  /** Where certificates and the hash of the pass phrase are; null where nobody is asked for it. */
  folder: string | null;
  /** Where to listen for the local network; null for nowhere. */
  network: { host: string; port: number; addresses: string[] } | null;
  /** Whether the pass phrase is asked of those on this machine too. */
  locked: boolean;
  /** The pass phrase, where this start has made it; it is shown until another is made. */
  passPhrase: string | null;
};

export const OPEN_HERE: Entry = { folder: null, network: null, locked: false, passPhrase: null };

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
export async function serve(databaseUrl: string, preferredPort: number, entry = OPEN_HERE): Promise<Served> {
  await untilFree(preferredPort);
  let port = preferredPort;
  for (let tried = 0; tried < MOST_PORTS_TRIED; tried += 1) {
    port = await freePort(port);
    const served = await serveAt(databaseUrl, port, entry);
    if (served) return served;
    port += 1;
  }
  throw new Error('The application ended before it answered; see the messages above.');
}

const WARMED = ['/drawer', '/choose', '/api/drawer'];
const DESIGN_ADDRESS = /\/designs\/[0-9a-f-]{36}/;

/** Leaves the first seconds to who waits for the first page, ms. */
const WARMED_AFTER_MILLISECONDS = 3000;

/**
 * Asks for each kind of page once: what is asked first is read and compiled, and
 * nothing else is answered meanwhile. Where a pass phrase is wanted of it, or it
 * ends, the first visitor waits.
 */
async function warm(address: string): Promise<void> {
  const ask = async (path: string) => (await fetch(address + path)).text();
  const design = DESIGN_ADDRESS.exec(await ask('/'));
  for (const path of [...(design ?? []), ...WARMED]) await ask(path);
}

/** Serves at one port; null when the process ended by itself, as it does when the port is taken. */
async function serveAt(
  databaseUrl: string,
  port: number,
  { folder, network, locked, passPhrase }: Entry,
): Promise<Served | null> {
  const address = `http://127.0.0.1:${port}`;
  const networkPort = network ? await freePort(network.port === port ? port + 1 : network.port, network.host) : 0;
  const networkAddresses = (network?.addresses ?? []).map(
    (one) => `https://${one.includes(':') ? `[${one}]` : one}:${networkPort}`,
  );
  const instance = randomUUID();
  // However this process ends, the application ends with it, and leaves the address to the next.
  const child = spawn('setpriv', ['--pdeathsig', 'KILL', process.execPath, APPLICATION, String(port)], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: {
      ...process.env,
      DATABASE_URL: databaseUrl,
      EAGER_LADDER_INSTANCE: instance,
      EAGER_LADDER_ENTRY: folder ?? '',
      EAGER_LADDER_LOCKED: locked ? '1' : '',
      EAGER_LADDER_PASS_PHRASE: passPhrase ?? '',
      EAGER_LADDER_ADDRESSES: JSON.stringify(networkAddresses),
      EAGER_LADDER_NETWORK: network
        ? JSON.stringify({ host: network.host, port: networkPort, folder, ranges: LOCAL_RANGES })
        : '',
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
      setTimeout(() => void warm(address).catch(() => {}), WARMED_AFTER_MILLISECONDS).unref();
      return { address, networkAddresses, child, stop };
    }
    if (Date.now() > giveUpAt) {
      await stop();
      throw new Error('The application did not answer within a minute.');
    }
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  return null;
}
