'use client';

import { useMemo, useState } from 'react';
import type { RankedChange } from '@/core/choose/rank-changes';
import type { Design } from '@/core/design/design-schema';
import { useLatest } from '@/ui/use-latest';
import { useCounting } from '@/ui/use-counting';
import type { TransientClient } from '@/worker/transient-client';

/** Lets a burst of keystrokes pass, ms. */
const PAUSE_MILLISECONDS = 120;

/** What single changes would do, ranked; null until the first ranking is there. */
export type RankedChanges = {
  changes: RankedChange[] | null;
  /** Whether they are of the design on screen; those of the one before stay until the next are there. */
  current: boolean;
  failed: boolean;
};

/** One ranking for the verdict and the list behind it, computed in a worker. */
export function useRankedChanges(design: Design, client: TransientClient): RankedChanges {
  const [kept, setKept] = useState<{ of: Design; changes: RankedChange[] } | null>(null);
  const { counting } = useCounting();
  const job = useMemo(
    () => ({ run: () => client.rank(design, counting), cancel: () => client.cancel('rank') }),
    [design, client, counting],
  );
  const [run] = useLatest(job, PAUSE_MILLISECONDS);
  if (run.kind === 'ready' && kept?.changes !== run.result) setKept({ of: design, changes: run.result });
  return {
    changes: kept?.changes ?? null,
    current: kept?.of === design,
    failed: run.kind === 'failed',
  };
}
