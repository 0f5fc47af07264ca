import { NO_PICTURE, pictureTooLarge } from '@/core/bench/picture';
import { NotKept } from '@/server/bench';
import { asKept, findPicture, keepPicture, MOST_PICTURES } from '@/server/pictures';
import { isId, notFound, refuse } from '../../../../../answers';
import { handled } from '../../../../../handle';

type Context = { params: Promise<{ id: string; picture: string }> };

/** A picture of this design, as a JPEG. */
export const GET = handled(async (_request: Request, { params }: Context): Promise<Response> => {
  const { id, picture } = await params;
  const jpeg = isId(id) && isId(picture) ? await findPicture(id, picture) : null;
  return jpeg
    ? new Response(new Uint8Array(jpeg), {
        headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=31536000, immutable' },
      })
    : notFound();
});

/** Keeps the file that is sent, if it is a picture; the same again changes nothing. */
export const PUT = handled(async (request: Request, { params }: Context): Promise<Response> => {
  const { id, picture } = await params;
  if (!isId(id) || !isId(picture)) return notFound();
  const refused = (status: number, message: string) => refuse(status, [{ path: '$', message }]);
  const announced = pictureTooLarge(Number(request.headers.get('content-length') ?? 0));
  if (announced) return refused(413, announced);
  const file = new Uint8Array(await request.arrayBuffer());
  const tooLarge = pictureTooLarge(file.byteLength);
  if (tooLarge) return refused(413, tooLarge);
  const jpeg = await asKept(file);
  if (!jpeg) return refused(415, NO_PICTURE);
  try {
    await keepPicture(id, picture, jpeg);
    return Response.json({ kept: [picture] });
  } catch (error) {
    if (!(error instanceof NotKept)) throw error;
    if (error.why === 'no design') return notFound();
    return refused(
      422,
      error.why === 'too many'
        ? `would be more than ${MOST_PICTURES} pictures of one design; must leave some out`
        : 'is a picture of another design; must be one of this',
    );
  }
});
