import { listRevisions } from '@/server/designs';
import { isId, notFound } from '../../../answers';
import { handled } from '../../../handle';

export const GET = handled(
  async (_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => {
    const { id } = await params;
    const revisions = isId(id) ? await listRevisions(id) : [];
    return revisions.length ? Response.json(revisions) : notFound();
  },
);
