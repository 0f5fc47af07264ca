'use client';

import { useMemo } from 'react';
import type { Design } from '@/core/design/design-schema';
import type { DriveFigures } from '@/core/drive/figures';
import { isIdle } from '@/core/transient/idle';
import type { TransientRun } from '@/core/transient/transient';
import { useClient } from '@/ui/use-client';
import { useLatest } from '@/ui/use-latest';
import { transientClient, type TransientClient } from '@/worker/transient-client';

/** Where the time domain of the design on screen stands. */
export type TimeDomain =
  | { kind: 'working'; periods: number }
  /** With what the driver draws idle, once that is known where it is another thing. */
  | { kind: 'ready'; run: TransientRun; idle: DriveFigures | null }
  | { kind: 'failed'; reason: string };

/** Lets a burst of keystrokes pass before the engine is asked, ms. */
const PAUSE_MILLISECONDS = 80;
/** What nobody waits for begins once nothing has changed for so long, ms. */
const IDLE_PAUSE_MILLISECONDS = 1000;

export const WAITING: TimeDomain = { kind: 'working', periods: 0 };

/**
 * The settled time domain of a design, computed in a worker. A changed design
 * ends the work on the one before; its result never shows beside another design.
 */
export function useTransient(design: Design): { timeDomain: TimeDomain; client: TransientClient } {
  const client = useClient(transientClient);
  const job = useMemo(
    () => ({
      run: (report: (periods: number) => void) => client.settle(design, report),
      cancel: () => client.cancel('settle'),
    }),
    [design, client],
  );
  const [latest] = useLatest(job, PAUSE_MILLISECONDS);
  const asksIdle = latest.kind === 'ready' && latest.result.transient.driver.kind === 'circuit' && !isIdle(design);
  const idleJob = useMemo(
    () => (asksIdle ? { run: () => client.idle(design), cancel: () => client.cancel('idle') } : null),
    [asksIdle, design, client],
  );
  const [latestIdle] = useLatest(idleJob, IDLE_PAUSE_MILLISECONDS);
  const timeDomain = useMemo((): TimeDomain => {
    if (latest.kind === 'ready')
      return {
        kind: 'ready',
        run: latest.result,
        idle: asksIdle && latestIdle.kind === 'ready' ? latestIdle.result : null,
      };
    if (latest.kind === 'failed') return { kind: 'failed', reason: latest.reason };
    return latest.progress === null ? WAITING : { kind: 'working', periods: latest.progress };
  }, [latest, latestIdle, asksIdle]);
  return { timeDomain, client };
}
