'use client';

import { useMemo, useState } from 'react';
import type { Design } from '@/core/design/design-schema';
import { useLatest } from '@/ui/use-latest';
import type { TransientClient } from '@/worker/transient-client';

/** Lets a burst of keystrokes pass, ms. */
const PAUSE_MILLISECONDS = 40;

/**
 * The best stage count of a design. The search for it takes longer than all else
 * of a prediction, so that of the design as it was opened comes with the page, and
 * after a change that of the one before stands until a worker has found the next.
 */
export function useOptimum(opened: number | null, design: Design, client: TransientClient): number | null {
  const [kept, setKept] = useState(() => ({ of: design, optimum: opened }));
  const job = useMemo(
    () => ({ run: async () => ({ of: design, optimum: await client.optimum(design) }) }),
    [design, client],
  );
  const [run] = useLatest(kept.of === design ? null : job, PAUSE_MILLISECONDS);
  if (run.kind === 'ready' && run.result !== kept && run.result.of === design) setKept(run.result);
  if (run.kind === 'failed' && kept.of !== design) setKept({ of: design, optimum: null });
  return kept.optimum;
}
