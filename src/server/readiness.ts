import { statfs } from 'node:fs/promises';
import { pool } from './pool';

/** Below this much room the database may not be able to write, bytes. */
const LEAST_ROOM = 64 * 1024 * 1024;

export type Readiness = {
  /** Whether the database answers, so that what is there can be read. */
  reads: boolean;
  /** What keeps the application from its work, in words; null where nothing does. */
  trouble: string | null;
};

export async function readiness(): Promise<Readiness> {
  try {
    await pool().query('SELECT 1 FROM designs LIMIT 1');
  } catch {
    return { reads: false, trouble: 'the database cannot be reached' };
  }
  const folder = process.env.EAGER_LADDER_DATA;
  const room = folder ? await statfs(folder).catch(() => null) : null;
  const full = room !== null && room.bavail * room.bsize < LEAST_ROOM;
  return { reads: true, trouble: full ? 'the disk is full: nothing can be saved until there is room' : null };
}
