import { drawerSchema, type Drawer, type DrawerRequest } from '@/core/drawer/drawer-messages';
import { answer, call } from './answers';

export async function fetchDrawer(): Promise<Drawer> {
  return answer(await call('/api/drawer'), drawerSchema);
}

/** Changes the drawer; the drawer as it stands then, and whether it had changed since, so that nothing was done. */
export async function changeDrawer(request: DrawerRequest): Promise<{ conflict: boolean; drawer: Drawer }> {
  const response = await call('/api/drawer', { method: 'POST', body: JSON.stringify(request) });
  const drawer = await answer(response, drawerSchema, 409);
  return { conflict: response.status === 409, drawer };
}
