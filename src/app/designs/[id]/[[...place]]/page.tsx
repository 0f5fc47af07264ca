import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { preload } from 'react-dom';
import { isId } from '@/app/api/answers';
import { DamagedScreen } from '@/screens/design/damaged-screen';
import { DesignScreen } from '@/screens/design/design-screen';
import { placeInPath } from '@/screens/design/places';
import { findDesign, isDamaged } from '@/server/designs';
import { predictedBeside } from '@/server/thread/beside';

export const dynamic = 'force-dynamic';

/** Under a design's address each of its pages has its own; they share what is typed and not yet saved. */
type Props = { params: Promise<{ id: string; place?: string[] }> };

async function stored(params: Props['params']) {
  const { id, place = [] } = await params;
  return isId(id) && placeInPath(place) !== null ? findDesign(id) : null;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const found = await stored(params);
  return { title: found === null ? 'Design' : isDamaged(found) ? found.name : found.design.name };
}

export default async function DesignPage({ params }: Props) {
  const found = await stored(params);
  if (!found) notFound();
  if (isDamaged(found)) return <DamagedScreen damaged={found} />;
  // Asked for once the page listens: on its way while the page's scripts are still read.
  const { place: [place] = [] } = await params;
  if (place === 'bench') preload(`/api/designs/${found.id}/bench`, { as: 'fetch', crossOrigin: 'anonymous' });
  return <DesignScreen key={found.id} stored={found} opened={await predictedBeside(found.design)} />;
}
