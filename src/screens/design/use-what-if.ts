'use client';

import { useCallback, useMemo, useState } from 'react';
import type { Fault } from '@/core/bench/faults/fault';
import { faultsOfPart, raisedStresses, type FaultyRun, type RaisedStress } from '@/core/bench/faults/at-full-drive';
import type { Design } from '@/core/design/design-schema';
import { useLatest } from '@/ui/use-latest';
import type { TransientClient } from '@/worker/transient-client';

/** A fault that is only thought of, and what is known of the ladder with it. */
export type WhatIfShown = {
  fault: Fault;
  name: string;
  run: FaultyRun | null;
  raised: readonly RaisedStress[];
  /** Where there are no figures: still computed, or none to be had. */
  waits: 'working' | 'none' | null;
  onEnd: () => void;
};

/** A fault put into the picture of a design, at full drive and load; it goes with the part that it is in. */
export function useWhatIf(
  design: Design,
  client: TransientClient,
): { shown: WhatIfShown | null; put: (fault: Fault | null) => void } {
  const [wanted, put] = useState<Fault | null>(null);
  const known = useMemo(() => {
    const found = wanted && faultsOfPart(design, wanted.place).find(({ fault }) => fault.kind === wanted.kind);
    return found ? { ...found, fault: wanted } : null;
  }, [design, wanted]);
  const job = useMemo(
    () => (known ? { run: () => client.faulty(design, known.fault), cancel: () => client.cancel('faulty') } : null),
    [design, known, client],
  );
  const [latest] = useLatest(job);
  const onEnd = useCallback(() => put(null), []);
  const run = latest.kind === 'ready' ? latest.result : null;
  const shown = useMemo(
    (): WhatIfShown | null =>
      known && {
        ...known,
        run,
        raised: run?.sound ? raisedStresses(design, run.sound.transient, run.transient) : [],
        waits: run ? null : latest.kind === 'working' ? 'working' : 'none',
        onEnd,
      },
    [known, run, design, latest.kind, onEnd],
  );
  return { shown, put };
}
