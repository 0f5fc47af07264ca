import type { FoundFaults } from './find';
import type { Suspect } from './judge';
import { withRefined, type Share } from './suspects';

/** A worker that does a share of a search that has begun; each step gives null where it was ended. */
export type SearchWorker = {
  singles: (share: Share, report: Report) => Promise<Suspect[] | null>;
  ranked: (found: readonly Suspect[]) => Promise<Suspect[]>;
  refined: (ranked: readonly Suspect[], share: Share, report: Report) => Promise<Suspect[] | null>;
  firsts: (singles: readonly Suspect[], best: readonly Suspect[]) => Promise<Suspect[]>;
  doubles: (firsts: readonly Suspect[], share: Share, report: Report) => Promise<Suspect[] | null>;
  withPairs: (singles: readonly Suspect[], doubles: readonly Suspect[]) => Promise<Suspect[] | null>;
  byEngine: (best: readonly Suspect[], share: Share, report: Report) => Promise<Suspect[] | null>;
  concluded: (best: readonly Suspect[], isLast: boolean) => Promise<FoundFaults | null>;
};
type Report = (fraction: number) => void;

/** How far a search is, 0 to 1, and what it has before the engine ran anything. */
export type SearchProgress = { fraction: number; soFar: FoundFaults | null };

/** What fraction of the whole is done at the beginning of each step. */
const STEPS = { singles: 0, refined: 0.2, doubles: 0.3, byEngine: 0.5, concluded: 0.95 };

/**
 * A search for faults by several workers at once.
 *
 * @param workers at least one; each does an equal share of what is long
 * @param isEnded whether it is to go on
 * @returns null where it was ended
 */
export async function searchedBy(
  workers: readonly SearchWorker[],
  report: (progress: SearchProgress) => void,
  isEnded: () => boolean,
): Promise<FoundFaults | null> {
  let soFar: FoundFaults | null = null;
  const [first] = workers;
  /** What all workers have, each of its share. */
  const together = async (
    from: number,
    to: number,
    job: (worker: SearchWorker, share: Share, report: Report) => Promise<Suspect[] | null>,
  ): Promise<Suspect[][] | null> => {
    if (isEnded()) return null;
    const done = workers.map(() => 0);
    const shares = await Promise.all(
      workers.map((worker, at) =>
        job(worker, { at, of: workers.length }, (fraction) => {
          done[at] = fraction;
          const mean = done.reduce((sum, one) => sum + one, 0) / workers.length;
          report({ fraction: from + mean * (to - from), soFar });
        }),
      ),
    );
    return isEnded() || shares.includes(null) ? null : (shares as Suspect[][]);
  };
  const singles = await together(STEPS.singles, STEPS.refined, (worker, share, told) => worker.singles(share, told));
  const all = singles?.flat();
  if (!all || isEnded()) return null;
  const ranked = await first.ranked(all);
  soFar = isEnded() ? null : await first.concluded(ranked, false);
  if (!soFar || isEnded()) return null;
  report({ fraction: STEPS.refined, soFar });
  const refined = await together(STEPS.refined, STEPS.doubles, (worker, share, told) =>
    worker.refined(ranked, share, told),
  );
  if (!refined) return null;
  let best: Suspect[] | null = withRefined(ranked, refined.flat());
  const firsts = await first.firsts(all, best);
  if (firsts.length > 0) {
    const doubles = await together(STEPS.doubles, STEPS.byEngine, (worker, share, told) =>
      worker.doubles(firsts, share, told),
    );
    best = doubles && (await first.withPairs(best, doubles.flat()));
    if (!best || isEnded()) return null;
  }
  const near = best;
  const run = await together(STEPS.byEngine, STEPS.concluded, (worker, share, told) =>
    worker.byEngine(near, share, told),
  );
  if (!run) return null;
  const done = run.flat();
  return first.concluded([...done, ...near.slice(done.length)], true);
}
