import { proxy } from 'comlink';
import type { FaultTask, FoundFaults, NoFaults } from '@/core/bench/faults/find';
import { searchedBy, type SearchWorker, type SearchProgress } from '@/core/bench/faults/shared-search';
import type { FaultsWork } from './faults.worker';
import { lazyWorker } from './lazy-worker';

/** More workers than this have too little to do each. */
const MOST_WORKERS = 8;

/** The search for faults, in as many workers as the machine has cores; a later one ends the one before, which then gives null. */
export type FaultsClient = {
  search: (task: FaultTask, report: (progress: SearchProgress) => void) => Promise<FoundFaults | NoFaults | null>;
  cancel: () => void;
  end: () => void;
};

/** Starts nothing yet: the workers begin with the first search. */
export function faultsClient(): FaultsClient {
  const cores = typeof navigator === 'undefined' ? 1 : navigator.hardwareConcurrency;
  const workers = Array.from({ length: Math.min(MOST_WORKERS, Math.max(1, cores)) }, () =>
    lazyWorker<FaultsWork>(() => new Worker(new URL('./faults.worker.ts', import.meta.url), { type: 'module' })),
  );
  let latest = 0;
  return {
    async search(task, report) {
      const mine = ++latest;
      const [begun] = await Promise.all(workers.map((worker) => worker.work().begin(task)));
      if (mine !== latest) return null;
      if (begun !== 'ready') return begun;
      const all = workers.map((worker): SearchWorker => ({
        singles: (share, told) => worker.work().singles(share, proxy(told)),
        firsts: (singles, best) => worker.work().firsts(singles, best),
        doubles: (firsts, share, told) => worker.work().doubles(firsts, share, proxy(told)),
        refined: (found) => worker.work().refined(found),
        withPairs: (singles, doubles) => worker.work().withPairs(singles, doubles),
        byEngine: (best, share, told) => worker.work().byEngine(best, share, proxy(told)),
        concluded: (best, isLast) => worker.work().concluded(best, isLast),
      }));
      return searchedBy(all, report, () => mine !== latest);
    },
    cancel: () => {
      latest += 1;
      for (const worker of workers) void worker.ifStarted()?.cancel();
    },
    end: () => workers.forEach((worker) => worker.end()),
  };
}
