import { listRevisions } from '@/server/designs';
import { isId, notFound } from '../../../answers';

export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  const revisions = isId(id) ? await listRevisions(id) : [];
  return revisions.length ? Response.json(revisions) : notFound();
}
