import { expose } from 'comlink';
import {
  findingOf,
  type FaultFinding,
  type FaultTask,
  type FoundFaults,
  type NoFaults,
} from '@/core/bench/faults/find';
import type { Suspect } from '@/core/bench/faults/judge';
import type { FaultSearch, Share } from '@/core/bench/faults/suspects';
import { slicer } from './in-slices';

const slices = slicer(['search'] as const);
type Report = (fraction: number) => void;

/** What is searched with at present. */
let finding: FaultFinding | null = null;

/** A step of the search. */
function step(
  work: (search: FaultSearch) => Generator<number, Suspect[]>,
  report: Report = () => undefined,
): Promise<Suspect[] | null> {
  return finding ? slices.run('search', work(finding.search), report) : Promise.resolve(null);
}

const work = {
  begin(task: FaultTask): NoFaults | 'ready' {
    slices.cancel('search');
    const found = findingOf(task, finding);
    finding = 'why' in found ? null : found;
    return 'why' in found ? found : 'ready';
  },
  singles: (share: Share, report: Report) => step((search) => search.singles(share), report),
  ranked: (found: readonly Suspect[]) => finding?.search.ranked(found) ?? [],
  refined: (ranked: readonly Suspect[], share: Share, report: Report) =>
    step((search) => search.refined(ranked, share), report),
  firsts: (singles: readonly Suspect[], best: readonly Suspect[]) => finding?.search.firsts(singles, best) ?? [],
  doubles: (firsts: readonly Suspect[], share: Share, report: Report) =>
    step((search) => search.doubles(firsts, share), report),
  withPairs: (singles: readonly Suspect[], doubles: readonly Suspect[]) =>
    step((search) => search.withPairs(singles, doubles)),
  byEngine: (best: readonly Suspect[], share: Share, report: Report) =>
    step((search) => search.byEngine(best, share), report),
  async concluded(best: readonly Suspect[], isLast: boolean): Promise<FoundFaults | null> {
    const mine = finding;
    const suspects = mine && (await slices.run('search', mine.search.concluded(best, isLast), () => undefined));
    return suspects && mine.said(suspects);
  },
  cancel(): void {
    slices.cancel('search');
  },
};

export type FaultsWork = typeof work;

expose(work);
