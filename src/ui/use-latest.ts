'use client';

import { useCallback, useEffect, useRef, useState } from 'react';

/** Work whose result is shown while what it was asked for stands on screen. */
export type Job<R, P = never> = {
  /** Begins the work; gives null where it was ended before its result. */
  run: (report: (progress: P) => void) => Promise<R | null>;
  /** Ends what `run` began. */
  cancel?: () => void;
};

/** Where a job stands; with the progress last reported. */
export type Latest<R, P = never> =
  | { kind: 'working'; progress: P | null }
  | { kind: 'stopped'; progress: P | null }
  | { kind: 'ready'; progress: P | null; result: R }
  | { kind: 'failed'; progress: P | null; reason: string };

const WAITING = { kind: 'working', progress: null } as const;

/**
 * Runs the latest of the jobs given, each ended by the next; what an earlier
 * one still reports is never shown.
 *
 * @param job the same object while it is the same work; null where there is nothing to do
 * @param pauseMilliseconds lets a burst of keystrokes pass before work begins
 * @returns where the job stands, and a function that stops it
 */
export function useLatest<R, P = never>(job: Job<R, P> | null, pauseMilliseconds = 0): [Latest<R, P>, () => void] {
  const [held, setHeld] = useState<{ of: Job<R, P>; state: Latest<R, P> } | null>(null);
  const halt = useRef(() => {});
  useEffect(() => {
    if (!job) return;
    let over = false;
    let progress: P | null = null;
    const show = (state: Latest<R, P>) => {
      if (over) return;
      // Progress travels by a way of its own and may arrive after the result.
      over = state.kind !== 'working';
      setHeld({ of: job, state });
    };
    const begin = () =>
      job
        .run((latest) => {
          progress = latest;
          show({ kind: 'working', progress });
        })
        .then((result) => show(result === null ? { kind: 'stopped', progress } : { kind: 'ready', progress, result }))
        .catch((error: unknown) => show({ kind: 'failed', progress, reason: String(error) }));
    const timer = setTimeout(() => void begin(), pauseMilliseconds);
    const end = () => {
      over = true;
      clearTimeout(timer);
      job.cancel?.();
    };
    halt.current = () => {
      show({ kind: 'stopped', progress });
      end();
    };
    return end;
  }, [job, pauseMilliseconds]);
  const stop = useCallback(() => halt.current(), []);
  return [held !== null && held.of === job ? held.state : WAITING, stop];
}
