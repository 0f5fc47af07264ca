import { readiness } from '@/server/readiness';

export const dynamic = 'force-dynamic';

/** Whether the application and its database can work, what is wrong where they cannot, and which start of it this is. */
export async function GET(): Promise<Response> {
  const { reads, trouble } = await readiness();
  return Response.json(
    { ready: trouble === null, reads, trouble, instance: process.env.EAGER_LADDER_INSTANCE ?? null },
    { status: trouble === null ? 200 : 503 },
  );
}
