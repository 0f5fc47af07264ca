import type { Metadata } from 'next';
import { cookies, headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { EnterScreen } from '@/screens/enter/enter-screen';
import { cookieName, mayEnter } from '@/server/entry/entry';
import { wayOf } from '@/server/entry/way';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Pass phrase' };

const HERE = 'http://here.invalid';

/** A path of ours out of what an address says; the shelf where it names anything else. */
function pathOf(to: string | string[] | undefined): string {
  const asked = typeof to === 'string' && URL.canParse(to, HERE) ? new URL(to, HERE) : null;
  return asked?.origin === HERE && asked.pathname !== '/enter' ? asked.pathname + asked.search : '/';
}

type Props = { searchParams: Promise<{ to?: string | string[] }> };

export default async function EnterPage({ searchParams }: Props) {
  const to = pathOf((await searchParams).to);
  const asked = await headers();
  const session = (await cookies()).get(cookieName(asked.get('host')!))?.value;
  if (mayEnter(wayOf(asked)!, to, session)) redirect(to);
  return <EnterScreen to={to} />;
}
