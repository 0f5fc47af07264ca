'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { Choices } from '@/core/choose/choose';
import type { ChoiceTimeDomain } from '@/core/choose/choice-time-domain';
import type { ChoiceRow } from '@/core/choose/row';
import type { SearchTask } from '@/core/choose/search';
import { startChooseWorker, type ChooseClient } from '@/worker/choose-client';
import type { ChoosingReport } from '@/worker/choose.worker';

/** Lets a burst of keystrokes pass, ms. */
const PAUSE_MILLISECONDS = 150;
/** How many of the best the engine looks at by itself. */
const MOST_IN_TIME = 8;

export type Choosing = {
  kind: 'working' | 'ready' | 'stopped' | 'failed';
  progress: Omit<ChoosingReport, 'rows'> | null;
  /** Those found so far while it works. */
  rows: ChoiceRow[];
  choices: Choices | null;
  /** From the request to the first row and to the end, ms. */
  milliseconds: { first: number | null; all: number | null };
};

const NOTHING: Choosing = {
  kind: 'working',
  progress: null,
  rows: [],
  choices: null,
  milliseconds: { first: null, all: null },
};

/**
 * The search for what is asked, in a worker; a changed requirements ends the search for
 * the one before. Then the engine settles the best and whatever row is looked at.
 */
export function useChoosing(task: SearchTask | null, looked: ChoiceRow | null) {
  const worker = useRef<ChooseClient | null>(null);
  const [client] = useState(() => () => (worker.current ??= startChooseWorker()));
  const [held, setHeld] = useState<{ of: SearchTask; choosing: Choosing } | null>(null);
  const [again, setAgain] = useState(0);
  /** Ends the search under way, or the one about to begin. */
  const halt = useRef(() => {});
  useEffect(
    () => () => {
      worker.current?.end();
      worker.current = null;
    },
    [],
  );
  useEffect(() => {
    if (!task) return;
    let over = false;
    const change = (to: (now: Choosing) => Choosing) => {
      if (over) return;
      setHeld((now) => {
        const standing = now?.of === task && now.choosing.kind === 'working' ? now.choosing : NOTHING;
        return { of: task, choosing: to(standing) };
      });
    };
    const timer = setTimeout(() => {
      const begun = performance.now();
      change(() => NOTHING);
      client()
        .choose(task, ({ rows, ...progress }) => {
          const at = performance.now() - begun;
          change((now) => ({
            ...now,
            progress,
            rows: rows ?? now.rows,
            milliseconds: { ...now.milliseconds, first: now.milliseconds.first ?? (rows?.length ? at : null) },
          }));
        })
        .then((choices) => {
          const all = performance.now() - begun;
          change((now) =>
            choices
              ? {
                  ...now,
                  kind: 'ready',
                  choices,
                  rows: choices.rows,
                  milliseconds: { first: now.milliseconds.first ?? all, all },
                }
              : { ...now, kind: 'stopped' },
          );
          // Progress travels by a way of its own and may arrive after the result.
          over = true;
        })
        .catch(() => change((now) => ({ ...now, kind: 'failed' })));
    }, PAUSE_MILLISECONDS);
    halt.current = () => {
      change((now) => ({ ...now, kind: 'stopped' }));
      over = true;
      clearTimeout(timer);
      worker.current?.cancel('choose');
    };
    return () => {
      over = true;
      clearTimeout(timer);
      worker.current?.cancel('choose');
    };
  }, [task, client, again]);
  const choosing = held !== null && held.of === task ? held.choosing : NOTHING;
  const stop = useCallback(() => halt.current(), []);
  const restart = useCallback(() => setAgain((count) => count + 1), []);
  const inTime = useInTime(choosing.choices, looked, client);
  return { choosing, stop, restart, inTime };
}

/** What the engine says of the best rows and of the one looked at, by the row's key, as it comes. */
function useInTime(
  choices: Choices | null,
  looked: ChoiceRow | null,
  client: () => ChooseClient,
): ReadonlyMap<string, ChoiceTimeDomain | null> {
  const [settled, setSettled] = useState<{ of: Choices; found: ReadonlyMap<string, ChoiceTimeDomain | null> } | null>(
    null,
  );
  const found = settled !== null && settled.of === choices ? settled.found : NONE;
  const waiting =
    choices === null
      ? undefined
      : [...(looked ? [looked] : []), ...choices.rows.slice(0, MOST_IN_TIME)].find(({ key }) => !found.has(key));
  useEffect(() => {
    if (!choices || !waiting) return;
    let over = false;
    client()
      .inTime(waiting.design)
      // A row the engine cannot settle has no figure of its own, and the next is looked at.
      .catch(() => null)
      .then((result) => {
        if (over) return;
        setSettled((now) => {
          const before = now?.of === choices ? now.found : NONE;
          return { of: choices, found: new Map([...before, [waiting.key, result]]) };
        });
      });
    return () => {
      over = true;
      client().cancel('inTime');
    };
  }, [choices, waiting, client]);
  return found;
}

const NONE: ReadonlyMap<string, ChoiceTimeDomain | null> = new Map();
