import type { DrawerChange } from '@/core/parts/part-schema';
import type { Drawer } from '@/core/drawer/parts-used';
import { answer, call } from './answers';

export async function fetchDrawer(): Promise<Drawer> {
  return answer(await call('/api/drawer'));
}

export async function changeDrawer(change: DrawerChange): Promise<Drawer> {
  return answer(await call('/api/drawer', { method: 'POST', body: JSON.stringify(change) }));
}
