import {
  changedDrawerSchema,
  drawerSchema,
  madeChangesSchema,
  type Drawer,
  type DrawerRequest,
} from '@/core/drawer/drawer-messages';
import { answer, call } from './answers';

/** Characters: of several bytes each at worst, three to one. */
const MOST_KEPT_ALIVE = 20_000;

/** Which of these changes have arrived, though nobody was told. */
export async function fetchMade(changeIds: readonly string[]): Promise<ReadonlySet<string>> {
  const response = await call(`/api/drawer?made=${changeIds.join(',')}`);
  return new Set((await answer(response, madeChangesSchema)).made);
}

export async function fetchDrawer(): Promise<Drawer> {
  return answer(await call('/api/drawer'), drawerSchema);
}

/** The drawer as it stands where that is later than a revision, else null. */
export async function fetchNewerDrawer(revision: number): Promise<Drawer | null> {
  const response = await call(`/api/drawer?after=${revision}`);
  return response.status === 204 ? null : answer(response, drawerSchema);
}

/**
 * Changes the drawer.
 *
 * @returns whether it had changed since, so that nothing was done; the drawer
 *   as it stands, or the revision that the change alone led to
 */
export async function changeDrawer(
  request: DrawerRequest,
): Promise<{ conflict: boolean; drawer: Drawer | null; revision: number }> {
  const body = JSON.stringify(request);
  // Outlives the page where it may: browsers let no more than 64 KiB do so.
  const response = await call('/api/drawer', { method: 'POST', body, keepalive: body.length < MOST_KEPT_ALIVE });
  const told = await answer(response, changedDrawerSchema, 409);
  return { conflict: response.status === 409, drawer: 'parts' in told ? told : null, revision: told.revision };
}
