import { proxy, wrap } from 'comlink';
import type { Choices } from '@/core/choose/choose';
import type { ChoiceTimeDomain } from '@/core/choose/choice-time-domain';
import type { SearchTask } from '@/core/choose/search';
import type { Design } from '@/core/design/design-schema';
import type { ChooseWork, ChoosingReport } from './choose.worker';

/** The search in a worker of its own; a later search ends the one before, which then gives null. */
export type ChooseClient = {
  choose: (task: SearchTask, report: (state: ChoosingReport) => void) => Promise<Choices | null>;
  inTime: (design: Design) => Promise<ChoiceTimeDomain | null>;
  cancel: (kind: 'choose' | 'inTime') => void;
  end: () => void;
};

export function startChooseWorker(): ChooseClient {
  const worker = new Worker(new URL('./choose.worker.ts', import.meta.url), { type: 'module' });
  const work = wrap<ChooseWork>(worker);
  return {
    choose: (task, report) => work.choose(task, proxy(report)),
    inTime: (design) => work.inTime(design),
    cancel: (kind) => void work.cancel(kind),
    end: () => worker.terminate(),
  };
}
