import { databaseReady } from '@/server/readiness';

export const dynamic = 'force-dynamic';

/** Answers once the application and its database both do; says which start of it this is. */
export async function GET(): Promise<Response> {
  const ready = await databaseReady();
  return Response.json({ ready, instance: process.env.EAGER_LADDER_INSTANCE ?? null }, { status: ready ? 200 : 503 });
}
