'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { attempt } from '@/client/attempt';
import { rawDocumentHref, saveDesign } from '@/client/designs-api';
import type { DamagedDesign } from '@/core/design/design-messages';
import { buttonStyle } from '@/ui/button';
import { FaultList } from '@/ui/fault-list';
import { TopBar } from '@/ui/top-bar';
import { HistoryDialog } from './saving/history-dialog';

/** A design whose document cannot be read: what is wrong with it, and the ways to get it back. */
export function DamagedScreen({ damaged: { id, name, revision, faults } }: { damaged: DamagedDesign }) {
  const router = useRouter();
  const [history, setHistory] = useState(false);
  return (
    <>
      <TopBar here="design" />
      <main className="mx-auto w-full max-w-2xl px-5 py-12">
        <h1 className="text-xl font-semibold break-words">{name}</h1>
        <p className="mt-2 text-soft">
          This design cannot be read. Nothing of it is lost: it stands in the database as it was stored. Export it as
          stored, correct the fields below and import the file, or bring back an earlier revision.
        </p>
        <div className="my-5">
          <FaultList faults={faults} />
        </div>
        <div className="flex flex-wrap gap-2">
          <a href={rawDocumentHref(id)} download className={buttonStyle('solid')}>
            Export as stored
          </a>
          <button type="button" className={buttonStyle('plain')} onClick={() => setHistory(true)}>
            Earlier revisions
          </button>
        </div>
      </main>
      {history ? (
        <HistoryDialog
          id={id}
          present={null}
          onClose={() => setHistory(false)}
          onRestore={(earlier) =>
            void attempt('Bringing the revision back', () => saveDesign(id, revision, earlier.design)).then((done) => {
              if (done) router.refresh();
              setHistory(false);
            })
          }
        />
      ) : null}
    </>
  );
}
