import type { OwnMeters } from '@/core/drive/meter-sense';
import {
  inspectionSchema,
  MOST_PIECE_BYTES,
  pieceAnswerSchema,
  type Decisions,
  type Inspection,
} from '@/core/workshop/messages';
import * as z from '@/core/zod';
import { answer, call, Refusal } from './answers';

const uploadPath = (id: string) => `/api/workshop/uploads/${id}`;

/**
 * The whole workshop as one file, with the meters of this browser.
 *
 * @param onBytes tells how much has come
 * @throws Refusal where the server does not give it, or it broke off
 */
export async function fetchArchive(
  meters: OwnMeters,
  signal: AbortSignal,
  onBytes: (bytes: number) => void,
): Promise<Blob> {
  const response = await call('/api/workshop', { method: 'POST', body: JSON.stringify(meters), signal });
  if (!response.ok || !response.body) return answer(response, z.never());
  let bytes = 0;
  const counted = response.body.pipeThrough(
    new TransformStream<Uint8Array, Uint8Array>({
      transform(piece, controller) {
        bytes += piece.byteLength;
        onBytes(bytes);
        controller.enqueue(piece);
      },
    }),
  );
  try {
    return await new Response(counted).blob();
  } catch (error) {
    if (signal.aborted) throw error;
    throw broken();
  }
}

const broken = () => new Refusal([{ path: '$', message: 'the archive broke off; try again' }]);

/**
 * Sends an archive piece by piece.
 *
 * @param onSent tells how much has gone
 * @returns under which id the server has it
 */
export async function sendArchive(file: Blob, signal: AbortSignal, onSent: (bytes: number) => void): Promise<string> {
  const id = crypto.randomUUID();
  let sent = 0;
  do {
    const response = await fetch(`${uploadPath(id)}?at=${sent}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/octet-stream' },
      body: file.slice(sent, sent + MOST_PIECE_BYTES),
      signal,
    });
    const { bytes } = await answer(response, pieceAnswerSchema);
    if (bytes <= sent && file.size > 0) throw new Refusal([{ path: '$', message: 'the server took nothing of it' }]);
    sent = bytes;
    onSent(sent);
  } while (sent < file.size);
  return id;
}

/** What an archive that was sent holds beside what is here. */
export async function inspectArchive(id: string, signal: AbortSignal): Promise<Inspection> {
  return answer(await call(uploadPath(id), { signal }), inspectionSchema);
}

/** Takes an archive in; where what it holds is no longer what was seen, nothing is taken and that is told anew. */
export async function takeArchive(
  id: string,
  decisions: Decisions,
  seen: string,
  signal: AbortSignal,
): Promise<{ taken: boolean; inspection: Inspection }> {
  const response = await call(uploadPath(id), { method: 'POST', body: JSON.stringify({ decisions, seen }), signal });
  const inspection = await answer(response, inspectionSchema, 409);
  return { taken: response.ok, inspection };
}

/** The server need not keep an archive that is not taken. */
export async function dropArchive(id: string): Promise<void> {
  await call(uploadPath(id), { method: 'DELETE' }).catch(() => undefined);
}
