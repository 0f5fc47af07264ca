'use client';

import { useEffect, useState } from 'react';
import type { Design } from '@/core/design/design-schema';
import type { Tolerance } from '@/core/predict/tolerance';
import type { TransientClient } from '@/worker/transient-client';

export type ToleranceRun = { kind: 'working' } | { kind: 'ready'; tolerance: Tolerance | null } | { kind: 'failed' };

/** Lets a burst of keystrokes pass, and the time domain begin, before draws are made, ms. */
const PAUSE_MILLISECONDS = 250;
const WORKING: ToleranceRun = { kind: 'working' };

/** What tolerances make of the design on screen, drawn in the worker; a changed design ends the draws for the one before. */
export function useTolerance(design: Design, client: () => TransientClient, mostAmps: number): ToleranceRun {
  const [held, setHeld] = useState<{ of: Design; mostAmps: number; run: ToleranceRun } | null>(null);
  useEffect(() => {
    let over = false;
    const show = (run: ToleranceRun) => {
      if (!over) setHeld({ of: design, mostAmps, run });
    };
    const timer = setTimeout(() => {
      client()
        .tolerance(design, mostAmps)
        .then((tolerance) => show({ kind: 'ready', tolerance }))
        .catch(() => show({ kind: 'failed' }));
    }, PAUSE_MILLISECONDS);
    return () => {
      over = true;
      clearTimeout(timer);
      client().cancel('tolerance');
    };
  }, [design, client, mostAmps]);
  return held?.of === design && held.mostAmps === mostAmps ? held.run : WORKING;
}
