import { Readable } from 'node:stream';
import { archiveRequestSchema } from '@/core/workshop/messages';
import { writeArchive } from '@/server/workshop/archive-out';
import { readBody } from '../answers';
import { handled } from '../handle';

/** The whole workshop as one archive, with the meters that the browser sends. */
export const POST = handled(async (request: Request): Promise<Response> => {
  const reading = await readBody(request, archiveRequestSchema);
  if (!reading.ok) return reading.response;
  const archive = writeArchive(reading.body);
  return new Response(Readable.toWeb(archive) as ReadableStream, { headers: { 'content-type': 'application/zip' } });
});
