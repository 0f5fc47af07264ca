'use client';

import { format } from 'date-fns';
import { useEffect, useState } from 'react';
import { fetchRevisions, type SavedRevision } from '@/client/designs-api';
import type { Design } from '@/core/design/design-schema';
import { differences } from '@/core/design/differences';
import { buttonStyle } from '@/ui/button';
import { Panel } from '@/ui/dialog';

/** Every saved state of this design; any can be brought back as a new edit. */
export function HistoryDialog({
  id,
  present,
  onClose,
  onRestore,
}: {
  id: string;
  present: Design;
  onClose: () => void;
  onRestore: (revision: SavedRevision) => void;
}) {
  const [revisions, setRevisions] = useState<SavedRevision[] | 'failed' | null>(null);
  useEffect(() => {
    let stale = false;
    fetchRevisions(id).then(
      (found) => stale || setRevisions(found),
      () => stale || setRevisions('failed'),
    );
    return () => {
      stale = true;
    };
  }, [id]);
  return (
    <Panel
      open
      onClose={onClose}
      size="wide"
      title="History"
      description="Bringing back an earlier state is an edit like any other: it can be undone."
    >
      {revisions === null ? <p className="text-soft">Reading…</p> : null}
      {revisions === 'failed' ? (
        <p className="text-over">The history cannot be read: the server cannot be reached.</p>
      ) : null}
      {Array.isArray(revisions) ? (
        <ol className="max-h-[60vh] overflow-y-auto">
          {revisions.map((revision, index) => {
            const before = revisions[index + 1];
            const changed = before
              ? differences(before.design, revision.design).map((difference) => difference.path.slice(2))
              : [];
            const same = differences(revision.design, present).length === 0;
            return (
              <li key={revision.revision} className="flex items-baseline gap-3 border-b border-rule py-1.5">
                <span className="figures w-8 text-right">{revision.revision}</span>
                <time dateTime={revision.savedAt} className="whitespace-nowrap text-soft">
                  {format(new Date(revision.savedAt), 'd MMM, HH:mm:ss')}
                </time>
                <span className="min-w-0 flex-1 truncate text-[13px]">{before ? changed.join(', ') : 'created'}</span>
                {same ? (
                  <span className="text-[13px] text-soft">on screen</span>
                ) : (
                  <button type="button" className={buttonStyle('quiet')} onClick={() => onRestore(revision)}>
                    Bring back
                  </button>
                )}
              </li>
            );
          })}
        </ol>
      ) : null}
    </Panel>
  );
}
