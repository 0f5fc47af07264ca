import { keptReadingsSchema, sessionReadingsSchema, type SessionReadings } from '@/core/bench/session';
import * as z from '@/core/zod';
import { answer, call } from './answers';

const path = (designId: string) => `/api/designs/${designId}/bench`;

/** Keeps readings on the server; the same again does no harm. Answers the ids of those that it has now. */
export async function keepReadings(designId: string, readings: SessionReadings): Promise<string[]> {
  const { kept } = await answer(
    await call(path(designId), { method: 'PUT', body: JSON.stringify(readings) }),
    keptReadingsSchema,
  );
  return kept;
}

/** Every session of a design, newest first. */
export async function fetchSessions(designId: string): Promise<SessionReadings[]> {
  return answer(await call(path(designId)), z.array(sessionReadingsSchema));
}

export const pictureHref = (designId: string, id: string): string => `${path(designId)}/pictures/${id}`;

/** Keeps a picture on the server; the same again does no harm. */
export async function keepPicture(designId: string, id: string, picture: Blob): Promise<void> {
  const headers = { 'content-type': 'application/octet-stream' };
  await answer(await fetch(pictureHref(designId, id), { method: 'PUT', headers, body: picture }), keptReadingsSchema);
}
