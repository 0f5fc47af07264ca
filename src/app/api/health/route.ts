import { pool } from '@/server/pool';

export const dynamic = 'force-dynamic';

/** Answers once the application and its database both do; says which start of it this is. */
export async function GET(): Promise<Response> {
  try {
    await pool().query('SELECT 1 FROM designs LIMIT 1');
    return Response.json({ ready: true, instance: process.env.EAGER_LADDER_INSTANCE ?? null });
  } catch {
    return Response.json({ ready: false }, { status: 503 });
  }
}
