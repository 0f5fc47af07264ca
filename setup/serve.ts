import { spawn, type ChildProcess } from 'node:child_process';
import { freePort } from './cluster';
import { NEXT, ROOT } from './build';

export type Served = { address: string; child: ChildProcess; stop: () => Promise<void> };

/**
 * Serves the built application on 127.0.0.1 and resolves when it really
 * answers, database included.
 *
 * @param preferredPort taken if free, else the next free one
 */
export async function serve(databaseUrl: string, preferredPort: number): Promise<Served> {
  const port = await freePort(preferredPort);
  const address = `http://127.0.0.1:${port}`;
  const child = spawn(process.execPath, [NEXT, 'start', '-H', '127.0.0.1', '-p', String(port)], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DATABASE_URL: databaseUrl, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
    // Its own group: Ctrl-C reaches it through stop, once, in order.
    detached: true,
  });
  const stop = () =>
    new Promise<void>((resolve) => {
      if (child.exitCode !== null || child.signalCode !== null) return resolve();
      child.once('exit', () => resolve());
      child.kill('SIGTERM');
      setTimeout(() => child.kill('SIGKILL'), 8000).unref();
    });
  const giveUpAt = Date.now() + 60_000;
  for (;;) {
    if (child.exitCode !== null) throw new Error(`The application ended with ${child.exitCode} before it answered.`);
    const healthy = await fetch(`${address}/api/health`).then(
      (response) => response.ok,
      () => false,
    );
    if (healthy) return { address, child, stop };
    if (Date.now() > giveUpAt) {
      await stop();
      throw new Error('The application did not answer within a minute.');
    }
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
