import { drawerRequestSchema } from '@/core/drawer/drawer-messages';
import { changeDrawer, readDrawer } from '@/server/drawer';
import { readBody } from '../answers';

/** Enough for as many parts as one change takes, each with every field and a long note. */
const MOST_CHARACTERS = 10_000_000;

export async function GET(): Promise<Response> {
  return Response.json(await readDrawer());
}

/** Changes the drawer as a whole: parts put in or replaced, others taken out; 409 with the drawer as it stands when it has changed since. */
export async function POST(request: Request): Promise<Response> {
  const reading = await readBody(request, drawerRequestSchema, MOST_CHARACTERS);
  if (!reading.ok) return reading.response;
  const { kind, drawer } = await changeDrawer(reading.body);
  return Response.json(drawer, { status: kind === 'conflict' ? 409 : 200 });
}
