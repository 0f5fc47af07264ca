'use client';

import ArrowLeftRight from 'lucide-react/icons/arrow-left-right';
import { format } from 'date-fns';
import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import { useMemo } from 'react';
import { buttonStyle } from '@/ui/button';
import { Pick } from '@/ui/pick';
import { TopBar } from '@/ui/top-bar';
import { Compared } from './compared';
import { compareHref, sideIn, type Side } from './sides';
import { useSide, type SideState } from './use-side';

type Named = { id: string; name: string };

const NONE = '';

/** Any two designs, or two revisions of one, compared; which ones stands in the address. */
export function CompareScreen({ designs }: { designs: readonly Named[] }) {
  const router = useRouter();
  const query = useSearchParams();
  const [oneText, otherText] = [query.get('one'), query.get('other')];
  const one = useMemo(() => sideIn(oneText), [oneText]);
  const other = useMemo(() => sideIn(otherText), [otherText]);
  const [left, right] = [useSide(one), useSide(other)];
  const go = (a: Side | null, b: Side | null) => router.replace(compareHref(a, b), { scroll: false });
  return (
    <div className="flex min-h-full flex-col">
      <TopBar here="compare" />
      <main className="mx-auto w-full max-w-6xl px-4 py-4 sm:px-6">
        <h1 className="text-xl font-semibold tracking-tight">Compare</h1>
        <div className="no-print mt-3 grid items-start gap-3 sm:grid-cols-[minmax(0,1fr)_auto_minmax(0,1fr)]">
          <Choose name="First" designs={designs} side={one} state={left} onSide={(side) => go(side, other)} />
          <button
            type="button"
            className={buttonStyle('quiet')}
            aria-label="Exchange the two"
            onClick={() => go(other, one)}
          >
            <ArrowLeftRight className="size-4" aria-hidden="true" />
          </button>
          <Choose name="Second" designs={designs} side={other} state={right} onSide={(side) => go(one, side)} />
        </div>
        {left.kind === 'found' && right.kind === 'found' ? (
          <Compared one={left.found} other={right.found} />
        ) : (
          <p className="mt-6 text-soft" role="status">
            {left.kind === 'reading' || right.kind === 'reading'
              ? 'Reading…'
              : left.kind === 'gone' || right.kind === 'gone'
                ? 'One of them cannot be read: it is gone, or the server cannot be reached.'
                : 'Choose two designs, or two revisions of one.'}
          </p>
        )}
      </main>
    </div>
  );
}

/** Which design, and which of its revisions. */
function Choose({
  name,
  designs,
  side,
  state,
  onSide,
}: {
  name: string;
  designs: readonly Named[];
  side: Side | null;
  state: SideState;
  onSide: (side: Side | null) => void;
}) {
  const found = state.kind === 'found' ? state.found : null;
  const known = designs.some(({ id }) => id === side?.id);
  const names = [
    ...(side ? [] : [{ value: NONE, name: 'Choose a design' }]),
    ...(side && !known ? [{ value: side.id, name: found?.design?.name ?? 'A design that is put away' }] : []),
    ...designs.map((one) => ({ value: one.id, name: one.name })),
  ];
  return (
    <div className="grid min-w-0 gap-1.5">
      <Pick
        label={`${name} design`}
        className="w-full"
        value={side?.id ?? NONE}
        options={names}
        onValue={(id) => onSide(id === NONE ? null : { id, revision: null })}
      />
      {found ? (
        <>
          <Pick
            label={`${name} revision`}
            className="w-full"
            value={String(found.revision)}
            options={found.revisions.map(({ revision, savedAt }, at) => ({
              value: String(revision),
              name: `Revision ${revision}, ${format(new Date(savedAt), 'd MMM yyyy, HH:mm')}${at === 0 ? ', as it stands' : ''}`,
            }))}
            onValue={(revision) => onSide({ id: found.side.id, revision: Number(revision) })}
          />
          <Link href={`/designs/${found.side.id}`} className="w-fit text-[13px] text-copper hover:underline">
            Open the design
          </Link>
        </>
      ) : null}
    </div>
  );
}
