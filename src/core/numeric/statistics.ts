/** 5, 50 and 95 of a hundred lie below. */
export type Band = { low: number; median: number; high: number };

/** Mean square of the distances from the mean; 0 of nothing. */
export function variance(values: readonly number[]): number {
  if (values.length === 0) return 0;
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length;
}

/** The band of some values, at least one. */
export function bandOf(values: readonly number[]): Band {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (fraction: number) => sorted[Math.min(sorted.length - 1, Math.floor(fraction * sorted.length))];
  return { low: at(0.05), median: at(0.5), high: at(0.95) };
}

/** Bars of equal width over rising values, each with the share of all that fall into it. */
export function histogramOf(rising: ArrayLike<number>, bars: number): { from: number; to: number; share: number }[] {
  const [least, most] = [rising[0], rising[rising.length - 1]];
  const width = (most - least) / bars || 1;
  const counts = new Array<number>(bars).fill(0);
  for (let at = 0; at < rising.length; at += 1)
    counts[Math.min(bars - 1, Math.floor((rising[at] - least) / width))] += 1;
  return counts.map((count, bar) => ({
    from: least + bar * width,
    to: least + (bar + 1) * width,
    share: count / rising.length,
  }));
}
