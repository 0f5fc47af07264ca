import { Pool, type PoolClient } from 'pg';

const globalForPool = globalThis as { eagerLadderPool?: Pool };

/** The one pool of this process; kept on the global so that development reloads do not pile up pools. */
export function pool(): Pool {
  if (!globalForPool.eagerLadderPool) {
    const connectionString = process.env.DATABASE_URL;
    if (!connectionString) throw new Error('DATABASE_URL is not set; start the application with ./start');
    globalForPool.eagerLadderPool = new Pool({ connectionString, max: 8 });
    globalForPool.eagerLadderPool.on('error', (error) => console.error('database connection lost:', error.message));
  }
  return globalForPool.eagerLadderPool;
}

/** Runs statements as one transaction: all take effect or, when `work` throws, none. */
export const transaction = <T>(work: (client: PoolClient) => Promise<T>): Promise<T> => within('BEGIN', work);

/** Reads everything as it stands at one moment, whatever is written meanwhile. */
export const atOneMoment = <T>(work: (client: PoolClient) => Promise<T>): Promise<T> =>
  within('BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY', work);

async function within<T>(begin: string, work: (client: PoolClient) => Promise<T>): Promise<T> {
  const client = await pool().connect();
  try {
    await client.query(begin);
    const result = await work(client);
    await client.query('COMMIT');
    return result;
  } catch (error) {
    await client.query('ROLLBACK').catch(() => undefined);
    throw error;
  } finally {
    client.release();
  }
}
