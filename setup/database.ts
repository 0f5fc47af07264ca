import path from 'node:path';
import { loadDemoData } from '../src/server/demo-data';
import { migrate } from '../src/server/migrate';
import { pool } from '../src/server/pool';
import { keepCopy, pendingMigrations } from './backup';
import { ROOT } from './build';

const MIGRATIONS = path.join(ROOT, 'db/migrations');

/**
 * Brings a database up to date and, when it is empty, loads the demo designs.
 *
 * @param copies folder for a copy of what is there before it is brought up to date; none without
 */
export async function prepareDatabase(
  url: string,
  { demo, copies = null }: { demo: boolean; copies?: string | null },
): Promise<void> {
  const [next] = copies ? await pendingMigrations(url, MIGRATIONS) : [];
  if (copies && next) await keepCopy(url, copies, next);
  await migrate(url, MIGRATIONS);
  if (!demo) return;
  process.env.DATABASE_URL = url;
  await loadDemoData(path.join(ROOT, 'demo'));
  await pool().end();
}
