import { wrap, type Remote } from 'comlink';

/** A worker that starts with the first request to it, and again with the first one after its end. */
export function lazyWorker<W>(start: () => Worker) {
  let standing: { worker: Worker; work: Remote<W> } | null = null;
  const begin = () => {
    const worker = start();
    return { worker, work: wrap<W>(worker) };
  };
  return {
    work: (): Remote<W> => (standing ??= begin()).work,
    /** What runs, to tell it to stop; null where nothing was ever asked of it. */
    ifStarted: (): Remote<W> | null => standing?.work ?? null,
    end(): void {
      standing?.worker.terminate();
      standing = null;
    },
  };
}
