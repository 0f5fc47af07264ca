'use client';

import { useCallback, useMemo, useState } from 'react';
import type { ChoiceTimeDomain } from '@/core/choose/choice-time-domain';
import type { Choices } from '@/core/choose/choose';
import type { ChoiceRow } from '@/core/choose/row';
import type { SearchTask } from '@/core/choose/search';
import { useClient } from '@/ui/use-client';
import { useLatest } from '@/ui/use-latest';
import { chooseClient, type ChooseClient } from '@/worker/choose-client';
import type { ChoosingReport } from '@/worker/choose.worker';

/** Lets a burst of keystrokes pass, ms. */
const PAUSE_MILLISECONDS = 150;
/** How many of the best the engine evaluates by itself. */
const MOST_SETTLED = 8;

/** What a search has found by now. */
type Found = {
  progress: Omit<ChoosingReport, 'rows'> | null;
  /** Those found so far while it works. */
  rows: ChoiceRow[];
  choices: Choices | null;
  /** From the request to the first row and to the end, ms. */
  milliseconds: { first: number | null; all: number | null };
};

export type Choosing = Found & { kind: 'working' | 'ready' | 'stopped' | 'failed' };

const NOTHING: Found = { progress: null, rows: [], choices: null, milliseconds: { first: null, all: null } };

/**
 * The search for what is required, in a worker; changed requirements end the
 * search for the ones before. Then the engine settles the best rows and
 * whichever is selected.
 */
export function useChoosing(task: SearchTask | null, selected: ChoiceRow | null) {
  const client = useClient(chooseClient);
  const [again, setAgain] = useState(0);
  const job = useMemo(() => (task ? searchJob(client, task, again) : null), [client, task, again]);
  const [latest, stop] = useLatest(job, PAUSE_MILLISECONDS);
  const found = latest.kind === 'ready' ? latest.result : (latest.progress ?? NOTHING);
  const restart = useCallback(() => setAgain((count) => count + 1), []);
  const settled = useSettled(found.choices, selected, client);
  const choosing: Choosing = { ...found, kind: latest.kind };
  return { choosing, stop, restart, settled };
}

/** @param _again tells a search from the same one made again */
function searchJob(client: ChooseClient, task: SearchTask, _again: number) {
  return {
    async run(report: (found: Found) => void): Promise<Found | null> {
      const begun = performance.now();
      let found = NOTHING;
      const choices = await client.choose(task, ({ rows, ...progress }) => {
        const first = found.milliseconds.first ?? (rows?.length ? performance.now() - begun : null);
        found = { ...found, progress, rows: rows ?? found.rows, milliseconds: { first, all: null } };
        report(found);
      });
      if (!choices) return null;
      const all = performance.now() - begun;
      const { first } = found.milliseconds;
      return { ...found, choices, rows: choices.rows, milliseconds: { first: first ?? all, all } };
    },
    cancel: () => client.cancel('choose'),
  };
}

type Settled = ReadonlyMap<string, ChoiceTimeDomain | null>;

const NONE: Settled = new Map();

/** What the engine says of the best rows and of the selected one, by the row's key, as it comes; null where it cannot say. */
function useSettled(choices: Choices | null, selected: ChoiceRow | null, client: ChooseClient): Settled {
  // What is known stays known when another row is selected.
  const known = useMemo(() => ({ of: choices, settled: new Map<string, ChoiceTimeDomain | null>() }), [choices]);
  const job = useMemo(() => {
    if (!known.of) return null;
    const rows = [...(selected ? [selected] : []), ...known.of.rows.slice(0, MOST_SETTLED)];
    return {
      async run(report: (settled: Settled) => void): Promise<Settled | null> {
        report(new Map(known.settled));
        for (const { key, design } of rows) {
          if (known.settled.has(key)) continue;
          const answer = await client.settle(design).then(
            (timeDomain) => ({ timeDomain, ended: timeDomain === null }),
            () => ({ timeDomain: null, ended: false }),
          );
          if (answer.ended) return null;
          known.settled.set(key, answer.timeDomain);
          report(new Map(known.settled));
        }
        return new Map(known.settled);
      },
      cancel: () => client.cancel('settle'),
    };
  }, [known, selected, client]);
  const [latest] = useLatest<Settled, Settled>(job);
  return latest.kind === 'ready' ? latest.result : (latest.progress ?? NONE);
}
