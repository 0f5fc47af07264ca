import { drawerSchema, madeChangesSchema, type Drawer, type DrawerRequest } from '@/core/drawer/drawer-messages';
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

/** Changes the drawer; the drawer as it stands then, and whether it had changed since, so that nothing was done. */
export async function changeDrawer(request: DrawerRequest): Promise<{ conflict: boolean; drawer: Drawer }> {
  const body = JSON.stringify(request);
  // Outlives the page where it may: browsers let no more than 64 KiB do so.
  const response = await call('/api/drawer', { method: 'POST', body, keepalive: body.length < MOST_KEPT_ALIVE });
  const drawer = await answer(response, drawerSchema, 409);
  return { conflict: response.status === 409, drawer };
}
