import type { Metadata } from 'next';
import { WorkshopScreen } from '@/screens/workshop/workshop-screen';
import { holdings } from '@/server/workshop/archive-out';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Whole workshop' };

export default async function WorkshopPage() {
  return <WorkshopScreen holdings={await holdings()} />;
}
