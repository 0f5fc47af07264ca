import type { Remote } from 'comlink';
import { lazyWorker } from './lazy-worker';
import type { TrainingWork } from './training.worker';

/** The trainer's rounds, in a worker of their own. */
export type TrainingClient = { round: () => Remote<TrainingWork>; end: () => void };

/** Starts nothing yet: the worker begins with the first round. */
export function trainingClient(): TrainingClient {
  const worker = lazyWorker<TrainingWork>(
    () => new Worker(new URL('./training.worker.ts', import.meta.url), { type: 'module' }),
  );
  return { round: worker.work, end: worker.end };
}
