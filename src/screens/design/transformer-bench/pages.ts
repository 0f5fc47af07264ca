export const BENCH_PAGES = [
  { key: 'ratio', name: 'Ratio' },
  { key: 'resonance', name: 'Resonance' },
  { key: 'core', name: 'Core and primary' },
  { key: 'secondary', name: 'Secondary' },
  { key: 'pins', name: 'Pins' },
] as const;
export type BenchPage = (typeof BENCH_PAGES)[number]['key'];

const PLACE = 'transformer';

/** The page that the end of a design's address leads to; null where it leads to none. */
export function benchInPath([place, name = BENCH_PAGES[0].key, ...rest]: readonly string[]): BenchPage | null {
  if (place !== PLACE || rest.length > 0) return null;
  return BENCH_PAGES.find(({ key }) => key === name)?.key ?? null;
}

export const benchAddress = (id: string, page: BenchPage) => `/designs/${id}/${PLACE}/${page}`;
