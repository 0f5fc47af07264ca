export const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
export const say = (line: string) => process.stdout.write(`${line}\n`);
export const verdict = (measured: number, limit: number) =>
  `${measured.toFixed(1)} ms, ${(limit / measured).toFixed(1)} times within ${limit} ms${measured > limit ? '  OVER' : ''}`;

/** Median milliseconds of a task over its repetitions, after a warm-up. */
export function time(repetitions: number, task: () => void, warmUp = Math.min(20, repetitions)): number {
  for (let warm = 0; warm < warmUp; warm += 1) task();
  return median(
    Array.from({ length: repetitions }, () => {
      const start = performance.now();
      task();
      return performance.now() - start;
    }),
  );
}
