import { drawerChangeSchema } from '@/core/parts/part-schema';
import { changeDrawer, readDrawer } from '@/server/drawer';
import { readBody } from '../answers';

export async function GET(): Promise<Response> {
  return Response.json(await readDrawer());
}

/** Changes the drawer as a whole: parts put in or replaced, others taken out. */
export async function POST(request: Request): Promise<Response> {
  const reading = await readBody(request, drawerChangeSchema);
  return reading.ok ? Response.json(await changeDrawer(reading.body)) : reading.response;
}
