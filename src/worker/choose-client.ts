import { proxy } from 'comlink';
import type { Choices } from '@/core/choose/choose';
import type { ChoiceTimeDomain } from '@/core/choose/choice-time-domain';
import type { SearchTask } from '@/core/choose/search';
import type { Design } from '@/core/design/design-schema';
import type { ChooseWork, ChoosingReport } from './choose.worker';
import { lazyWorker } from './lazy-worker';

/** The search in a worker of its own; a later search ends the one before, which then gives null. */
export type ChooseClient = {
  choose: (task: SearchTask, report: (state: ChoosingReport) => void) => Promise<Choices | null>;
  settle: (design: Design) => Promise<ChoiceTimeDomain | null>;
  cancel: (kind: 'choose' | 'settle') => void;
  end: () => void;
};

/** Starts nothing yet: the worker begins with the first request to it. */
export function chooseClient(): ChooseClient {
  const worker = lazyWorker<ChooseWork>(
    () => new Worker(new URL('./choose.worker.ts', import.meta.url), { type: 'module' }),
  );
  return {
    choose: (task, report) => worker.work().choose(task, proxy(report)),
    settle: (design) => worker.work().settle(design),
    cancel: (kind) => void worker.ifStarted()?.cancel(kind),
    end: worker.end,
  };
}
