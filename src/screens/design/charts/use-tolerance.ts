'use client';

import { useMemo } from 'react';
import type { Design } from '@/core/design/design-schema';
import type { Tolerance } from '@/core/predict/tolerance';
import { useLatest, type Latest } from '@/ui/use-latest';
import type { TransientClient } from '@/worker/transient-client';

/** Its result is null where the design has no figure to vary. */
export type ToleranceRun = Latest<{ tolerance: Tolerance | null }>;

/** Lets a burst of keystrokes pass, and the time domain begin, before samples are taken, ms. */
const PAUSE_MILLISECONDS = 250;

/** What tolerances make of the design on screen, sampled in a worker; a changed design ends the work for the one before. */
export function useTolerance(design: Design, client: TransientClient, mostAmps: number): ToleranceRun {
  const job = useMemo(
    () => ({
      run: async () => ({ tolerance: await client.tolerance(design, mostAmps) }),
      cancel: () => client.cancel('tolerance'),
    }),
    [design, client, mostAmps],
  );
  return useLatest(job, PAUSE_MILLISECONDS)[0];
}
