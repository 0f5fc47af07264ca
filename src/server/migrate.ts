import { runner } from 'node-pg-migrate';

/** Applies every migration in the folder that the database has not seen; safe to run twice and at once. */
export async function migrate(databaseUrl: string, folder: string): Promise<void> {
  await runner({
    databaseUrl,
    dir: folder,
    direction: 'up',
    migrationsTable: 'migrations',
    count: Infinity,
    advisoryLockMode: 'wait',
    log: () => undefined,
  });
}
