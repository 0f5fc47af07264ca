import { MOST_ARCHIVE_BYTES, MOST_PIECE_BYTES, takeRequestSchema } from '@/core/workshop/messages';
import { inspectArchive, SeenOtherwise, takeArchive } from '@/server/workshop/archive-in';
import { dropUpload, takePiece, uploaded } from '@/server/workshop/uploads';
import { ArchiveRefused } from '@/server/workshop/zip-in';
import { isId, readBody, refuse } from '../../../answers';
import { handled } from '../../../handle';

type Context = { params: Promise<{ id: string }> };

const refused = (status: number, message: string) => refuse(status, [{ path: '$', message }]);
const notSent = () => refused(404, 'was not sent, or too long ago; must be sent anew');

/** The next piece of an archive, from `at` on; answers how much of it is there. */
export const PUT = handled(async (request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  const at = Number(new URL(request.url).searchParams.get('at'));
  if (!isId(id) || !Number.isSafeInteger(at) || at < 0) return notSent();
  const piece = new Uint8Array(await request.arrayBuffer());
  if (piece.length > MOST_PIECE_BYTES) return refused(413, `is a piece of more than ${MOST_PIECE_BYTES} bytes`);
  if (at + piece.length > MOST_ARCHIVE_BYTES)
    return refused(413, `is larger than ${MOST_ARCHIVE_BYTES / 1e9} GB; must be smaller`);
  return Response.json({ bytes: await takePiece(id, at, piece) });
});

/** Works on an archive that was sent; what it is refused for is the answer. */
async function onUpload(id: string, work: (file: string) => Promise<Response>): Promise<Response> {
  const file = isId(id) ? await uploaded(id) : null;
  if (file === null) return notSent();
  try {
    return await work(file);
  } catch (error) {
    if (error instanceof ArchiveRefused) return refuse(422, error.faults);
    if (error instanceof SeenOtherwise) return Response.json(error.inspection, { status: 409 });
    throw error;
  }
}

/** What the archive holds beside what is here. */
export const GET = handled(async (request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  return onUpload(id, async (file) => Response.json(await inspectArchive(file, request.signal)));
});

/** Takes the archive in, all of it or nothing; 409 with what it holds now where that has changed since it was seen. */
export const POST = handled(async (request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  const reading = await readBody(request, takeRequestSchema);
  if (!reading.ok) return reading.response;
  const { decisions, seen } = reading.body;
  return onUpload(id, async (file) => {
    const contents = await takeArchive(file, decisions, seen, request.signal);
    await dropUpload(id);
    return Response.json({ contents, seen });
  });
});

/** Throws away what was sent. */
export const DELETE = handled(async (_request: Request, { params }: Context): Promise<Response> => {
  const { id } = await params;
  if (!isId(id)) return notSent();
  await dropUpload(id);
  return Response.json({ bytes: 0 });
});
