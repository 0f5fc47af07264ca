import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { isId } from '@/app/api/answers';
import { DamagedScreen } from '@/screens/design/damaged-screen';
import { DesignScreen } from '@/screens/design/design-screen';
import { findDesign, isDamaged } from '@/server/designs';

export const dynamic = 'force-dynamic';

type Props = { params: Promise<{ id: string }> };

async function stored(params: Props['params']) {
  const { id } = await params;
  return isId(id) ? findDesign(id) : null;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const found = await stored(params);
  return { title: found === null ? 'Design' : isDamaged(found) ? found.name : found.design.name };
}

export default async function DesignPage({ params }: Props) {
  const found = await stored(params);
  if (!found) notFound();
  if (isDamaged(found)) return <DamagedScreen damaged={found} />;
  return <DesignScreen key={found.id} stored={found} />;
}
