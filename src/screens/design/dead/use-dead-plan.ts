'use client';

import { useMemo } from 'react';
import { useDeadOptions } from '@/client/dead-store';
import type { DeadPlan } from '@/core/dead/plan';
import type { Design } from '@/core/design/design-schema';
import { useLatest, type Latest } from '@/ui/use-latest';
import type { TransientClient } from '@/worker/transient-client';

/** Lets a burst of keystrokes pass, ms. */
const PAUSE_MILLISECONDS = 80;

/** The plan by which a design is made dead, from a worker, with how much of it is done. */
export function useDeadPlan(design: Design, client: TransientClient): Latest<DeadPlan, number> {
  const { settings } = useDeadOptions();
  const job = useMemo(
    () => ({
      run: (report: (fraction: number) => void) => client.dead(design, settings, report),
      cancel: () => client.cancel('dead'),
    }),
    [design, settings, client],
  );
  const [latest] = useLatest<DeadPlan, number>(job, PAUSE_MILLISECONDS);
  return latest;
}
