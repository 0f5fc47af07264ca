import {
  archiveAnswerSchema,
  revisionsSchema,
  storedDesignSchema,
  type Revision,
  type StoredDesign,
} from '@/core/design/design-messages';
import type { Design } from '@/core/design/design-schema';
import { answer, call } from './answers';

export async function createDesign(design: Design): Promise<StoredDesign> {
  return answer(await call('/api/designs', { method: 'POST', body: JSON.stringify(design) }), storedDesignSchema);
}

export async function fetchDesign(id: string): Promise<StoredDesign> {
  return answer(await call(`/api/designs/${id}`), storedDesignSchema);
}

/** The design as it stands where that is later than a revision, else null. */
export async function fetchNewer(id: string, revision: number): Promise<StoredDesign | null> {
  const response = await call(`/api/designs/${id}?after=${revision}`);
  return response.status === 204 ? null : answer(response, storedDesignSchema);
}

export async function fetchRevisions(id: string): Promise<Revision[]> {
  return answer(await call(`/api/designs/${id}/revisions`), revisionsSchema);
}

export async function setArchived(id: string, archived: boolean): Promise<void> {
  await answer(
    await call(`/api/designs/${id}`, { method: 'PATCH', body: JSON.stringify({ archived }) }),
    archiveAnswerSchema,
  );
}

/** Where the document of a design, or of one of its revisions, is handed out just as it is stored. */
export function rawDocumentHref(id: string, revision?: number): string {
  return `/api/designs/${id}/document${revision === undefined ? '' : `?revision=${revision}`}`;
}

/**
 * Saves a design made from `baseRevision`.
 *
 * @param keepalive lets the request outlive the page
 * @returns the standing design, and whether it is another's rather than this one
 */
export async function saveDesign(
  id: string,
  baseRevision: number,
  design: Design,
  keepalive = false,
): Promise<{ conflict: boolean; stored: StoredDesign }> {
  const response = await call(`/api/designs/${id}`, {
    method: 'PUT',
    body: JSON.stringify({ baseRevision, design }),
    keepalive,
  });
  const stored = await answer(response, storedDesignSchema, 409);
  return { conflict: response.status === 409, stored };
}
