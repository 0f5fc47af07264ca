'use client';

import { useStore } from 'zustand';
import { useAtBench } from '@/client/at-bench';
import { beginRun } from '@/core/dead/run';
import type { DeadPlan } from '@/core/dead/plan';
import type { Design } from '@/core/design/design-schema';
import { useListening } from '@/ui/use-listening';
import type { TransientClient } from '@/worker/transient-client';
import type { EditorStore } from '../saving/editor-store';
import { AtBench } from './at-bench';
import { DeadPage } from './dead-page';
import { useDeadPlan } from './use-dead-plan';

type Props = {
  store: EditorStore;
  design: Design;
  client: TransientClient;
  atBench: boolean;
  onBench: () => void;
  onPlan: () => void;
};

/** The plan of a design, to read and to go through. */
export function MakeItDead({ store, design, client, atBench, onBench, onPlan }: Props) {
  const id = useStore(store, (state) => state.id);
  const isSaved = useStore(store, (state) => state.save.kind === 'saved');
  // What this browser keeps is not known where the page is made.
  const listening = useListening();
  const kept = useAtBench((state) => state.runs[id]);
  const run = listening ? (kept?.run ?? null) : null;
  if (atBench && run) return <AtBench designId={id} onLeave={onPlan} />;
  const begin = (plan: DeadPlan) => {
    const { revision } = store.getState();
    useAtBench.getState().put(id, beginRun(plan, crypto.randomUUID(), revision, new Date().toISOString()));
    onBench();
  };
  return (
    <Planned
      design={design}
      client={client}
      isSaved={isSaved}

      run={run}
      onBegin={begin}
      onGoOn={onBench}
    />
  );
}

function Planned({
  design,
  client,
  ...page
}: Pick<Props, 'design' | 'client'> & Omit<Parameters<typeof DeadPage>[0], 'latest'>) {
  return <DeadPage latest={useDeadPlan(design, client)} {...page} />;
}
