import { wrap, type Remote } from 'comlink';
import nodeEndpoint from 'comlink/dist/umd/node-adapter';
import { Worker } from 'worker_threads';
import type { Design } from '@/core/design/design-schema';
import type { Prediction } from '@/core/predict/prediction';
import { CORE_VERSION, NOT_BUILT, type ShelfFigures } from './shelf-figures';
import { work } from './work';

type Thread = {
  work: Remote<typeof work>;
  /** Refuses what is asked of it, each until it is answered. */
  asked: Set<(reason: Error) => void>;
};

let standing: Thread | null = null;

function begin(): Thread {
  const worker = new Worker(new URL('./work.worker.ts', import.meta.url));
  // It may wait for more work without keeping a process alive that has nothing else to do.
  worker.unref();
  const thread: Thread = { work: wrap<typeof work>(nodeEndpoint(worker)), asked: new Set() };
  const ended = (reason: Error) => {
    if (standing === thread) standing = null;
    for (const refuse of thread.asked) refuse(reason);
    thread.asked.clear();
  };
  worker.on('error', ended);
  worker.on('exit', () => ended(new Error('the thread that computes beside the requests has ended')));
  return thread;
}

/** Sources that are not built, as tests and scripts run them, have no thread: they compute at once. */
async function beside<T>(task: (of: Remote<typeof work> | typeof work) => T | Promise<T>): Promise<T> {
  if (CORE_VERSION === NOT_BUILT) return task(work);
  const thread = (standing ??= begin());
  return new Promise<T>((resolve, reject) => {
    thread.asked.add(reject);
    Promise.resolve(task(thread.work))
      .then(resolve, reject)
      .finally(() => thread.asked.delete(reject));
  });
}

/**
 * What lists show of a document, computed in a thread beside those that answer requests.
 *
 * @throws what the thread ended with; the next call starts another
 */
export const figuresBeside = (document: unknown): Promise<ShelfFigures> =>
  beside<ShelfFigures>((of) => of.figures(document));

/** A design's prediction with its best stage count, computed in the same thread. */
export const predictedBeside = (design: Design): Promise<Prediction> =>
  beside<Prediction>((of) => of.prediction(design));
