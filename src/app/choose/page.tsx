import type { Metadata } from 'next';
import { OPENING_PARTS } from '@/core/drawer/drawer-messages';
import { ChooseScreen } from '@/screens/choose/choose-screen';
import { isId } from '@/app/api/answers';
import { findDesign, isDamaged } from '@/server/designs';
import { latestNames } from '@/server/shelf';
import { drawerOpening } from '@/server/drawer';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Choose' };

/** Designs offered as a drive: a list of thousands helps nobody. */
const MOST_NAMES = 200;

type Props = { searchParams: Promise<{ design?: string | string[] }> };

export default async function ChoosePage({ searchParams }: Props) {
  const { design } = await searchParams;
  const id = typeof design === 'string' && isId(design) ? design : null;
  const [names, opening, found] = await Promise.all([
    latestNames(MOST_NAMES),
    drawerOpening(OPENING_PARTS),
    id === null ? null : findDesign(id),
  ]);
  const from = found && !isDamaged(found) && found.archivedAt === null ? { id: found.id, design: found.design } : null;
  const others = names.filter((one) => one.id !== from?.id);
  const designs = from ? [{ id: from.id, name: from.design.name }, ...others] : names;
  return <ChooseScreen key={from?.id ?? ''} designs={designs} opening={opening} from={from} />;
}
