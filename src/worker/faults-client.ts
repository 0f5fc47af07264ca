import { proxy } from 'comlink';
import { NOT_PROVED, type FaultTask, type FoundFaults, type NoFaults } from '@/core/bench/faults/find';
import { searchedBy, type SearchWorker, type SearchProgress } from '@/core/bench/faults/shared-search';
import type { FaultsWork } from './faults.worker';
import { lazyWorker } from './lazy-worker';

/** More workers than this have too little to do each. */
const MOST_WORKERS = 8;

/** The search for faults, in as many workers as the machine has cores; a later one ends the one before, which then gives null. */
export type FaultsClient = {
  /** Computes beforehand what a search will need, where what is to be read of a sound ladder is not known yet. */
  prepare: (task: Omit<FaultTask, 'test'>) => void;
  search: (task: FaultTask, report: (progress: SearchProgress) => void) => Promise<FoundFaults | NoFaults | null>;
  cancel: () => void;
  end: () => void;
};

const ignore = () => undefined;

/** Starts nothing yet: the workers begin with the first search or what is prepared for it. */
export function faultsClient(): FaultsClient {
  const cores = typeof navigator === 'undefined' ? 1 : navigator.hardwareConcurrency;
  const workers = Array.from({ length: Math.min(MOST_WORKERS, Math.max(1, cores)) }, () =>
    lazyWorker<FaultsWork>(() => new Worker(new URL('./faults.worker.ts', import.meta.url), { type: 'module' })),
  );
  let latest = 0;
  return {
    prepare(task) {
      latest += 1;
      workers.forEach((worker, at) => {
        const work = worker.work();
        // What fails here fails in the search as well, which says so.
        work.begin({ ...task, test: NOT_PROVED }).catch(ignore);
        work.singles({ at, of: workers.length }, proxy(ignore)).catch(ignore);
      });
    },
    async search(task, report) {
      const mine = ++latest;
      const [begun] = await Promise.all(workers.map((worker) => worker.work().begin(task)));
      if (mine !== latest) return null;
      if (begun !== 'ready') return begun;
      const all = workers.map((worker): SearchWorker => ({
        singles: (share, told) => worker.work().singles(share, proxy(told)),
        firsts: (singles, best) => worker.work().firsts(singles, best),
        doubles: (firsts, share, told) => worker.work().doubles(firsts, share, proxy(told)),
        ranked: (found) => worker.work().ranked(found),
        refined: (ranked, share, told) => worker.work().refined(ranked, share, proxy(told)),
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
