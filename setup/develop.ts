import { spawn } from 'node:child_process';
import path from 'node:path';
import { NEXT, ROOT } from './build';
import { freePort, startCluster } from './cluster';
import { prepareDatabase } from './database';

/** `npm run dev`: the application as it is being written, on the same database as ./start. */
const folder = path.join(process.env.EAGER_LADDER_DATA ?? path.join(ROOT, '.data'), 'postgres');
const url = process.env.DATABASE_URL || (await startCluster(folder)).url;
await prepareDatabase(url, { demo: true });
const port = await freePort(Number(process.env.PORT ?? 4190));
const child = spawn(process.execPath, [NEXT, 'dev', '-H', '127.0.0.1', '-p', String(port)], {
  cwd: ROOT,
  stdio: 'inherit',
  env: { ...process.env, DATABASE_URL: url, NEXT_TELEMETRY_DISABLED: '1' },
});
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => child.kill(signal));
child.once('exit', (code) => process.exit(code ?? 0));
