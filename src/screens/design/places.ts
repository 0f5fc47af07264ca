import { BENCH_PAGES, type BenchPage } from './transformer-bench/pages';

/** What belongs to a design, each with its own address. */
export type Place =
  | { kind: 'design' }
  | { kind: 'transformer'; page: BenchPage }
  | { kind: 'build-sheet' }
  | { kind: 'bench' }
  | { kind: 'dead'; atBench: boolean };

const TRANSFORMER = 'transformer';
const SHEET = 'build-sheet';
const BENCH = 'bench';
const DEAD = 'dead';
const AT_BENCH = 'at-the-bench';

/** The place that the end of a design's address leads to; null where it leads to none. */
export function placeInPath([place, name, ...rest]: readonly string[]): Place | null {
  if (place === undefined) return { kind: 'design' };
  if (rest.length > 0) return null;
  if (place === DEAD)
    return name === undefined || name === AT_BENCH ? { kind: 'dead', atBench: name === AT_BENCH } : null;
  if (place === SHEET) return name === undefined ? { kind: 'build-sheet' } : null;
  if (place === BENCH) return name === undefined ? { kind: 'bench' } : null;
  if (place !== TRANSFORMER) return null;
  const page = BENCH_PAGES.find(({ key }) => key === (name ?? BENCH_PAGES[0].key));
  return page ? { kind: 'transformer', page: page.key } : null;
}

export function addressOf(id: string, place: Place): string {
  return `/designs/${[id, ...pathOf(place)].join('/')}`;
}

function pathOf(place: Place): string[] {
  switch (place.kind) {
    case 'design':
      return [];
    case 'transformer':
      return [TRANSFORMER, place.page];
    case 'build-sheet':
      return [SHEET];
    case 'bench':
      return [BENCH];
    case 'dead':
      return place.atBench ? [DEAD, AT_BENCH] : [DEAD];
  }
}
