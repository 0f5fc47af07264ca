'use client';

import { useEffect, useRef, useState } from 'react';
import type { Design } from '@/core/design/design-schema';
import type { TransientRun } from '@/core/transient/transient';
import { startTransientWorker, type TransientClient } from '@/worker/transient-client';

/** Where the time domain of the design on screen stands. */
export type TimeDomain =
  { kind: 'working'; periods: number } | { kind: 'ready'; run: TransientRun } | { kind: 'failed'; reason: string };

/** Lets a burst of keystrokes pass before the engine is asked, ms. */
const PAUSE_MILLISECONDS = 80;

/**
 * The settled time domain of a design, computed in a worker. A changed design
 * ends the work on the one before; its result never shows beside another design.
 */
export function useTransient(design: Design): { timeDomain: TimeDomain; client: () => TransientClient } {
  const worker = useRef<TransientClient | null>(null);
  const [state, setState] = useState<{ of: Design; timeDomain: TimeDomain } | null>(null);
  const [client] = useState(() => () => (worker.current ??= startTransientWorker()));
  useEffect(
    () => () => {
      worker.current?.end();
      worker.current = null;
    },
    [],
  );
  useEffect(() => {
    let over = false;
    const show = (timeDomain: TimeDomain) => {
      if (over) return;
      // Progress travels by a way of its own and may arrive after the result.
      over = timeDomain.kind !== 'working';
      setState({ of: design, timeDomain });
    };
    const timer = setTimeout(() => {
      client()
        .settle(design, (periods) => show({ kind: 'working', periods }))
        .then((run) => {
          if (run) show({ kind: 'ready', run });
        })
        .catch((error: unknown) => show({ kind: 'failed', reason: String(error) }));
    }, PAUSE_MILLISECONDS);
    return () => {
      over = true;
      clearTimeout(timer);
      worker.current?.cancel('settle');
    };
  }, [design, client]);
  return { timeDomain: state?.of === design ? state.timeDomain : WAITING, client };
}

export const WAITING: TimeDomain = { kind: 'working', periods: 0 };
