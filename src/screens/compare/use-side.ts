'use client';

import { useMemo } from 'react';
import { fetchSessions } from '@/client/bench-api';
import { fetchRevisions } from '@/client/designs-api';
import type { SessionReadings } from '@/core/bench/session';
import type { Revision } from '@/core/design/design-messages';
import type { Design } from '@/core/design/design-schema';
import { useLatest } from '@/ui/use-latest';
import type { Side } from './sides';

export type Found = {
  side: Side;
  revisions: readonly Revision[];
  /** The revision that is compared, and its design; null where it cannot be read. */
  revision: number;
  design: Design | null;
  /** Of that revision. */
  sessions: readonly SessionReadings[];
};

export type SideState = { kind: 'none' } | { kind: 'reading' } | { kind: 'gone' } | { kind: 'found'; found: Found };

/** What a side of the comparison is, from the server. */
export function useSide(side: Side | null): SideState {
  const id = side?.id ?? null;
  const job = useMemo(
    () =>
      id === null
        ? null
        : {
            run: async () => {
              const [revisions, sessions] = await Promise.all([fetchRevisions(id), fetchSessions(id)]);
              return { id, revisions, sessions };
            },
          },
    [id],
  );
  const [latest] = useLatest(job);
  return useMemo(() => {
    if (!side) return { kind: 'none' };
    if (latest.kind === 'failed') return { kind: 'gone' };
    if (latest.kind !== 'ready' || latest.result.id !== side.id) return { kind: 'reading' };
    const { revisions, sessions } = latest.result;
    const wanted = side.revision === null ? revisions[0] : revisions.find((one) => one.revision === side.revision);
    if (!wanted) return { kind: 'gone' };
    return {
      kind: 'found',
      found: {
        side,
        revisions,
        revision: wanted.revision,
        design: 'faults' in wanted ? null : wanted.design,
        sessions: sessions.filter(({ session }) => session.revision === wanted.revision),
      },
    };
  }, [side, latest]);
}
