'use client';

import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import type { Holdings } from '@/core/workshop/messages';
import { TopBar } from '@/ui/top-bar';
import { ArchiveInPart } from './archive-in';
import { ArchiveOut } from './archive-out';
import { useArchiveIn } from './use-archive-in';

/** Everything of this workshop out as one file, and in again. */
export function WorkshopScreen({ holdings }: { holdings: Holdings }) {
  const bringing = useArchiveIn();
  const router = useRouter();
  const isTaking = bringing.state.kind === 'taking';
  // What there is to take out may have grown, also where it was left at the last moment.
  useEffect(() => {
    if (isTaking) return () => router.refresh();
  }, [isTaking, router]);
  return (
    <div
      className="flex min-h-full flex-col"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const [file] = event.dataTransfer.files;
        if (file) void bringing.bring(file);
      }}
    >
      <TopBar here="workshop" />
      <main className="mx-auto w-full max-w-6xl flex-1 px-3 py-6 sm:px-6">
        <h1 className="text-2xl font-semibold tracking-tight">Whole workshop</h1>
        <div className="mt-5 grid gap-x-12 gap-y-8 md:grid-cols-2">
          <ArchiveOut holdings={holdings} />
          <ArchiveInPart bringing={bringing} />
        </div>
      </main>
    </div>
  );
}
