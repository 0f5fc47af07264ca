import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { isId } from '@/app/api/answers';
import { DesignScreen } from '@/screens/design/design-screen';
import { findDesign } from '@/server/designs';

export const dynamic = 'force-dynamic';

type Props = { params: Promise<{ id: string }> };

async function stored(params: Props['params']) {
  const { id } = await params;
  return isId(id) ? findDesign(id) : null;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: (await stored(params))?.design.name ?? 'Design' };
}

export default async function DesignPage({ params }: Props) {
  const found = await stored(params);
  if (!found) notFound();
  return <DesignScreen key={found.id} stored={found} />;
}
