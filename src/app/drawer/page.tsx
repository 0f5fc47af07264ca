import type { Metadata } from 'next';
import { OPENING_PARTS } from '@/core/drawer/drawer-messages';
import { DrawerScreen } from '@/screens/drawer/drawer-screen';
import { drawerOpening } from '@/server/drawer';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Drawer' };

export default async function DrawerPage() {
  return <DrawerScreen opening={await drawerOpening(OPENING_PARTS)} />;
}
