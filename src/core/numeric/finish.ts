/** Runs a computation to its end without looking at its progress. */
export function finish<T>(run: Generator<unknown, T>): T {
  let step = run.next();
  while (!step.done) step = run.next();
  return step.value;
}
