import path from 'node:path';
import { loadDemoData } from '../src/server/demo-data';
import { migrate } from '../src/server/migrate';
import { pool } from '../src/server/pool';
import { ROOT } from './build';

/** Brings a database up to date and, when it is empty, loads the demo designs. */
export async function prepareDatabase(url: string, { demo }: { demo: boolean }): Promise<void> {
  await migrate(url, path.join(ROOT, 'db/migrations'));
  if (!demo) return;
  process.env.DATABASE_URL = url;
  await loadDemoData(path.join(ROOT, 'demo'));
  await pool().end();
}
