export const BENCH_PAGES = [
  { key: 'ratio', name: 'Ratio' },
  { key: 'resonance', name: 'Resonance' },
  { key: 'core', name: 'Core and primary' },
  { key: 'secondary', name: 'Secondary' },
  { key: 'pins', name: 'Pins' },
] as const;
export type BenchPage = (typeof BENCH_PAGES)[number]['key'];
