/** How long to compute before looking whether a later request has come, ms. */
const SLICE_MILLISECONDS = 20;
/** How often progress is told, ms: each telling makes the page begin anew with what it draws in its own time. */
const TOLD_MILLISECONDS = 200;

/** Lets messages that have arrived be read: by a message to itself, where a timer would wait 4 ms each time. */
const breathe = (): Promise<void> =>
  new Promise((resume) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resume();
    };
    port2.postMessage(null);
  });

/**
 * Runs computations in slices, each kind's own; a later request of a kind ends
 * the one before, which then gives null.
 *
 * @param kinds of work that there are
 */
export function slicer<K extends string>(kinds: readonly K[]) {
  const latest = Object.fromEntries(kinds.map((kind) => [kind, 0])) as Record<K, number>;
  return {
    async run<P, R>(kind: K, work: Generator<P, R>, report: (progress: P) => void): Promise<R | null> {
      latest[kind] += 1;
      const mine = latest[kind];
      let sliceEnds = performance.now() + SLICE_MILLISECONDS;
      let tellAt = 0;
      for (;;) {
        const step = work.next();
        if (step.done) return step.value;
        if (performance.now() < sliceEnds) continue;
        if (performance.now() >= tellAt) {
          report(step.value);
          tellAt = performance.now() + TOLD_MILLISECONDS;
        }
        await breathe();
        if (latest[kind] !== mine) return null;
        sliceEnds = performance.now() + SLICE_MILLISECONDS;
      }
    },
    cancel(kind: K): void {
      latest[kind] += 1;
    },
  };
}
