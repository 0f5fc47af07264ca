import type { Metadata } from 'next';
import { DrawerScreen } from '@/screens/drawer/drawer-screen';
import { drawerText } from '@/server/drawer';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Drawer' };

export default async function DrawerPage() {
  return <DrawerScreen drawer={await drawerText()} />;
}
