'use client';

import { useMemo } from 'react';
import type { LowSource } from '@/core/bench/low-source';
import type { ProvingTest } from '@/core/bench/proving';
import type { Design } from '@/core/design/design-schema';
import type { Meter } from '@/core/drive/meter-sense';
import { useLatest, type Latest } from '@/ui/use-latest';
import type { TransientClient } from '@/worker/transient-client';

/** Lets a burst of keystrokes pass, ms. */
const PAUSE_MILLISECONDS = 80;

/** What a meter reads in a low-voltage test, from a worker, with how much of it is done. */
export function useProving(
  design: Design,
  source: LowSource,
  meter: Meter,
  client: TransientClient,
): Latest<ProvingTest, number> {
  const job = useMemo(
    () => ({
      run: (report: (fraction: number) => void) => client.prove(design, source, meter, report),
      cancel: () => client.cancel('prove'),
    }),
    [design, source, meter, client],
  );
  const [latest] = useLatest<ProvingTest, number>(job, PAUSE_MILLISECONDS);
  return latest;
}
