import { pool } from './pool';

/** Whether the database answers and has been migrated. */
export async function databaseReady(): Promise<boolean> {
  try {
    await pool().query('SELECT 1 FROM designs LIMIT 1');
    return true;
  } catch {
    return false;
  }
}
