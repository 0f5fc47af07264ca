import type { Metadata } from 'next';
import { ChooseScreen } from '@/screens/choose/choose-screen';
import { listDesignsInUse } from '@/server/designs';
import { readDrawer } from '@/server/drawer';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Choose' };

type Props = { searchParams: Promise<{ design?: string | string[] }> };

export default async function ChoosePage({ searchParams }: Props) {
  const { design } = await searchParams;
  const [{ designs }, drawer] = await Promise.all([listDesignsInUse(), readDrawer()]);
  const standing = designs.map(({ id, design }) => ({ id, design }));
  const from = standing.find(({ id }) => id === design) ?? null;
  return <ChooseScreen key={from?.id ?? ''} designs={standing} drawer={drawer} from={from} />;
}
