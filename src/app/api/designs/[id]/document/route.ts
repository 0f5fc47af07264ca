import { rawDocument } from '@/server/designs';
import { isId, notFound } from '../../../answers';
import { handled } from '../../../handle';

/** The document just as the database holds it, readable or not, as a file; `?revision=` for an earlier state. */
export const GET = handled(
  async (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> => {
    const { id } = await params;
    const revision = new URL(request.url).searchParams.get('revision');
    if (!isId(id) || (revision !== null && !/^\d{1,9}$/.test(revision))) return notFound();
    const document = await rawDocument(id, revision === null ? null : Number(revision));
    if (document === undefined) return notFound();
    return new Response(`${JSON.stringify(document, null, 2)}\n`, {
      headers: {
        'content-type': 'application/json',
        'content-disposition': `attachment; filename="as-stored-${id.slice(0, 8)}${revision === null ? '' : `-${revision}`}.json"`,
      },
    });
  },
);
