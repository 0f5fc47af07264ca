import path from 'node:path';
import { buildIfStale, ROOT } from './build';
import { startCluster, type Cluster } from './cluster';
import { prepareDatabase } from './database';
import { alone, joinUsers } from './lock';
import { serve, type Served } from './serve';

const DATA = process.env.EAGER_LADDER_DATA ?? path.join(ROOT, '.data');

async function main(): Promise<void> {
  const leave = joinUsers(DATA);
  let cluster: Cluster | null = null;
  let serving: Promise<Served> | null = null;
  let ending = false;
  const end = async (code: number) => {
    if (ending) return;
    ending = true;
    await serving?.then((served) => served.stop()).catch(() => undefined);
    await alone(DATA, 'setup', async () => {
      if (leave() && cluster) await cluster.stop();
    });
    process.exit(code);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => void end(0));

  try {
    const port = Number(process.env.PORT ?? 4180);
    if (!Number.isInteger(port) || port < 1 || port > 65_535)
      throw new Error(`PORT is "${process.env.PORT}"; must be a whole number from 1 to 65535`);
    const url = await alone(DATA, 'setup', async () => {
      await buildIfStale();
      const own = process.env.DATABASE_URL || null;
      if (!own) cluster = await startCluster(path.join(DATA, 'postgres'));
      const address = own ?? cluster!.url;
      await prepareDatabase(address, { demo: true });
      return address;
    });
    if (ending) return;
    serving = serve(url, port);
    const served = await serving;
    if (ending) return;
    served.child.once('exit', () => void end(1));
    process.stdout.write(`Eager Ladder answers at ${served.address}\n`);
  } catch (error) {
    if (!ending) console.error((error as Error).message);
    await end(1);
  }
}

await main();
