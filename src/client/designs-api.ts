import type { Design } from '@/core/design/design-schema';
import { answer, call } from './answers';

/** A design as the server stores it. */
export type StoredDesign = { id: string; design: Design; revision: number; savedAt: string; archivedAt: string | null };
export type SavedRevision = { revision: number; savedAt: string; design: Design };

export async function createDesign(design: Design): Promise<StoredDesign> {
  return answer(await call('/api/designs', { method: 'POST', body: JSON.stringify(design) }));
}

export async function fetchDesign(id: string): Promise<StoredDesign> {
  return answer(await call(`/api/designs/${id}`));
}

export async function fetchRevisions(id: string): Promise<SavedRevision[]> {
  return answer(await call(`/api/designs/${id}/revisions`));
}

export async function setArchived(id: string, archived: boolean): Promise<StoredDesign> {
  return answer(await call(`/api/designs/${id}`, { method: 'PATCH', body: JSON.stringify({ archived }) }));
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
  if (response.status === 409) return { conflict: true, stored: (await response.json()) as StoredDesign };
  return { conflict: false, stored: await answer<StoredDesign>(response) };
}
