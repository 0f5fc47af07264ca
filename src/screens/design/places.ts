import { BENCH_PAGES, type BenchPage } from './transformer-bench/pages';

/** What belongs to a design, each with its own address. */
export type Place = { kind: 'design' } | { kind: 'bench'; page: BenchPage } | { kind: 'dead'; atBench: boolean };

const BENCH = 'transformer';
const DEAD = 'dead';
const AT_BENCH = 'at-the-bench';

/** The place that the end of a design's address leads to; null where it leads to none. */
export function placeInPath([place, name, ...rest]: readonly string[]): Place | null {
  if (place === undefined) return { kind: 'design' };
  if (rest.length > 0) return null;
  if (place === DEAD)
    return name === undefined || name === AT_BENCH ? { kind: 'dead', atBench: name === AT_BENCH } : null;
  if (place !== BENCH) return null;
  const page = BENCH_PAGES.find(({ key }) => key === (name ?? BENCH_PAGES[0].key));
  return page ? { kind: 'bench', page: page.key } : null;
}

export function addressOf(id: string, place: Place): string {
  const path =
    place.kind === 'design'
      ? []
      : place.kind === 'bench'
        ? [BENCH, place.page]
        : [DEAD, ...(place.atBench ? [AT_BENCH] : [])];
  return `/designs/${[id, ...path].join('/')}`;
}
