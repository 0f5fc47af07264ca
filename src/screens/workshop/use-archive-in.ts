'use client';

import { useEffect, useRef, useState } from 'react';
import { Refusal } from '@/client/answers';
import { useOwnMeters } from '@/client/meter-store';
import { dropArchive, inspectArchive, sendArchive, takeArchive } from '@/client/workshop-api';
import type { Fault } from '@/core/schema/faults';
import type { Contents, Decisions, Inspection, Taken } from '@/core/workshop/messages';
import { metersTaken } from '@/core/workshop/meters';

/** How far an archive is that is brought in. */
export type ArchiveIn =
  | { kind: 'none' }
  | { kind: 'sending'; file: string; sent: number; of: number }
  | { kind: 'inspecting'; file: string }
  | { kind: 'seen'; file: string; id: string; inspection: Inspection; isAnew: boolean }
  | { kind: 'taking'; file: string }
  | { kind: 'taken'; file: string; contents: Contents; decisions: Decisions; metersFault: string | null }
  | { kind: 'refused'; file: string; faults: Fault[] };

const faultsOf = (error: unknown): Fault[] =>
  error instanceof Refusal ? error.faults : [{ path: '$', message: 'the server cannot be reached; try again' }];

/** An archive on its way in: sent, inspected, taken; and how to leave it. */
export function useArchiveIn() {
  const [state, setState] = useState<ArchiveIn>({ kind: 'none' });
  const stop = useRef<AbortController | null>(null);
  const { settings: own, change: changeMeters } = useOwnMeters();
  useEffect(() => () => stop.current?.abort(), []);

  /** Does something that can be stopped; what it is refused for is shown. */
  const run = async (file: string, work: (signal: AbortSignal) => Promise<void>) => {
    stop.current?.abort();
    const controller = (stop.current = new AbortController());
    try {
      await work(controller.signal);
    } catch (error) {
      if (!controller.signal.aborted) setState({ kind: 'refused', file, faults: faultsOf(error) });
    }
  };

  const bring = (file: File) =>
    run(file.name, async (signal) => {
      setState({ kind: 'sending', file: file.name, sent: 0, of: file.size });
      const id = await sendArchive(file, signal, (sent) => {
        if (!signal.aborted) setState({ kind: 'sending', file: file.name, sent, of: file.size });
      });
      setState({ kind: 'inspecting', file: file.name });
      try {
        const inspection = await inspectArchive(id, signal);
        setState({ kind: 'seen', file: file.name, id, inspection, isAnew: false });
      } catch (error) {
        void dropArchive(id);
        throw error;
      }
    });

  const take = (decisions: Decisions, meters: Taken) => {
    if (state.kind !== 'seen') return;
    const { file, id, inspection } = state;
    void run(file, async (signal) => {
      setState({ kind: 'taking', file });
      const { taken, inspection: now } = await takeArchive(id, decisions, inspection.seen, signal);
      if (!taken) return setState({ kind: 'seen', file, id, inspection: now, isAnew: true });
      const { contents } = now;
      const metersFault = changeMeters({ meters: metersTaken(own.meters, contents.meters, meters) });
      setState({ kind: 'taken', file, contents, decisions, metersFault });
    });
  };

  const leave = () => {
    stop.current?.abort();
    if (state.kind === 'seen') void dropArchive(state.id);
    setState({ kind: 'none' });
  };
  return { state, ownMeters: own.meters, bring, take, leave };
}
