'use client';

import { format } from 'date-fns';
import Link from 'next/link';
import { useMemo } from 'react';
import { fetchSessions } from '@/client/bench-api';
import { fetchRevisions, rawDocumentHref } from '@/client/designs-api';
import { fetchDischarges } from '@/client/discharges-api';
import { FAILURE_WAYS, isReading } from '@/core/bench/entries';
import { standing, type SessionReadings } from '@/core/bench/session';
import { doneSteps, highestRead, type DeadRun } from '@/core/dead/run';
import { formatQuantity } from '@/core/quantity/format-quantity';
import type { Revision, SavedRevision } from '@/core/design/design-messages';
import type { Design } from '@/core/design/design-schema';
import { changeWords } from '@/core/design/change-words';
import { differences } from '@/core/design/differences';
import { formatFaults } from '@/core/schema/faults';
import { buttonStyle } from '@/ui/button';
import { useLatest } from '@/ui/use-latest';
import { Panel } from '@/ui/dialog';
import type { Counting } from '@/core/quantity/counting';
import { useCounting } from '@/ui/use-counting';
import { BenchPicture } from '../bench-picture';

/** What a revision changed, in words; nothing to say where the one before cannot be read. */
function changedSince(before: Revision | undefined, { design }: SavedRevision, counting: Counting): string {
  if (!before) return 'created';
  if ('faults' in before) return '';
  return changeWords(before.design, design, counting);
}

/** Every saved state of this design; any that can be read can be brought back as a new edit. */
export function HistoryDialog({
  id,
  present,
  onClose,
  onRestore,
}: {
  id: string;
  /** What is on screen; null where it cannot be read. */
  present: Design | null;
  onClose: () => void;
  onRestore: (revision: SavedRevision) => void;
}) {
  const { counting } = useCounting();
  const job = useMemo(
    () => ({
      run: async () => {
        const [revisions, discharges, sessions] = await Promise.all([
          fetchRevisions(id),
          fetchDischarges(id),
          fetchSessions(id),
        ]);
        return { revisions, discharges, sessions };
      },
    }),
    [id],
  );
  const [read] = useLatest(job);
  return (
    <Panel
      open
      onClose={onClose}
      size="wide"
      title="History"
      description={
        present
          ? 'Bringing back an earlier state is an edit like any other: it can be undone.'
          : 'Bringing back an earlier state saves it as a new revision.'
      }
    >
      {read.kind === 'working' ? <p className="text-soft">Reading…</p> : null}
      {read.kind === 'failed' ? (
        <p className="text-over">The history cannot be read: the server cannot be reached.</p>
      ) : null}
      {read.kind === 'ready' ? (
        <ol className="max-h-[60vh] overflow-y-auto">
          {read.result.revisions.map((revision, index) => {
            return (
              <li key={revision.revision} className="border-b border-rule py-1.5">
                <div className="flex items-baseline gap-3">
                  <span className="figures w-8 text-right">{revision.revision}</span>
                  <time dateTime={revision.savedAt} className="whitespace-nowrap text-soft">
                    {format(new Date(revision.savedAt), 'd MMM, HH:mm:ss')}
                  </time>
                  <span className="min-w-0 flex-1 text-[13px]">
                    {'faults' in revision
                      ? `cannot be read: ${formatFaults(revision.faults)}`
                      : changedSince(read.result.revisions[index + 1], revision, counting)}
                  </span>
                  {'faults' in revision ? (
                    <a href={rawDocumentHref(id, revision.revision)} download className={buttonStyle('quiet')}>
                      Export as stored
                    </a>
                  ) : present && differences(revision.design, present).length === 0 ? (
                    <span className="text-[13px] text-soft">on screen</span>
                  ) : (
                    <>
                      <Link
                        href={`/compare?one=${id}.${revision.revision}&other=${id}`}
                        className={buttonStyle('quiet')}
                      >
                        Compare
                      </Link>
                      <button type="button" className={buttonStyle('quiet')} onClick={() => onRestore(revision)}>
                        Bring back
                      </button>
                    </>
                  )}
                </div>
                <Sessions
                  designId={id}
                  of={read.result.sessions.filter(({ session }) => session.revision === revision.revision)}
                />
                <Discharges runs={read.result.discharges.filter((run) => run.revision === revision.revision)} />
              </li>
            );
          })}
        </ol>
      ) : null}
    </Panel>
  );
}

/** When a revision was measured at the bench, how much was read, and what failed. */
function Sessions({ designId, of }: { designId: string; of: readonly SessionReadings[] }) {
  return of.map(({ session, readings }) => {
    const entries = standing(readings);
    const count = entries.filter(isReading).length;
    const pictures = entries.flatMap(({ pictureId, takenAt }) => (pictureId ? [{ pictureId, takenAt }] : []));
    return (
      <div key={session.id} data-session={session.id} className="pl-11 text-[13px] text-soft">
        <p>
          {format(new Date(session.startedAt), 'd MMM, HH:mm')}: measured at the bench, {count}{' '}
          {count === 1 ? 'reading' : 'readings'}
        </p>
        {entries.flatMap((one) =>
          one.kind === 'failure'
            ? [
                <p key={one.id} className="text-over">
                  {format(new Date(one.takenAt), 'HH:mm')}: {one.at} {FAILURE_WAYS[one.how]}
                </p>,
              ]
            : [],
        )}
        {pictures.length > 0 ? (
          <p className="flex flex-wrap gap-1 py-0.5">
            {pictures.map(({ pictureId, takenAt }) => (
              <BenchPicture key={pictureId} designId={designId} id={pictureId} takenAt={takenAt} size="h-14" />
            ))}
          </p>
        ) : null}
      </div>
    );
  });
}

/** When a revision was made dead at the bench, and how far that went. */
function Discharges({ runs }: { runs: readonly DeadRun[] }) {
  return runs.map((run) => {
    const highest = highestRead(run);
    return (
      <p key={run.id} data-discharge={run.id} className="pl-11 text-[13px] text-soft">
        {format(new Date(run.startedAt), 'd MMM, HH:mm')}: {run.finishedAt ? 'made dead' : 'begun to make it dead'},{' '}
        {doneSteps(run)} of {run.steps.length} steps
        {highest === null ? '' : `, the highest reading ${formatQuantity(highest, 'V')}`}
      </p>
    );
  });
}
