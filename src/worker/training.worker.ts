import { expose } from 'comlink';
import type { Fault } from '@/core/bench/faults/fault';
import type { FaultReading } from '@/core/bench/faults/judge';
import type { Place } from '@/core/bench/faults/next-reading';
import type { Left } from '@/core/bench/faults/suspects';
import { Training, type BestStep, type TrainingLadder, type Verdict } from '@/core/bench/faults/training';
import { provingOf, type ProvingTest } from '@/core/bench/proving';
import { finish } from '@/core/numeric/finish';
import { slicer } from './in-slices';

const slices = slicer(['begin', 'read', 'left', 'best', 'verdict'] as const);
const silent = () => undefined;

/** The round at present. */
let training: Training | null = null;

const work = {
  /** A round of a ladder: what it is to read where nothing is wrong, and where it can be read; null where it cannot be tested. */
  async begin(
    ladder: Omit<TrainingLadder, 'test'>,
    seed: number,
  ): Promise<{ test: ProvingTest; places: Place[] } | null> {
    training = null;
    const test = await slices.run('begin', provingOf(ladder.design, ladder.source, ladder.meter), silent);
    training = test && Training.of({ ...ladder, test }, seed);
    return training && test ? { test, places: training.places() } : null;
  },
  read(place: Place): FaultReading | null {
    return training && finish(training.reading(place));
  },
  left(readings: readonly FaultReading[]): Promise<Left | null> {
    return training ? slices.run('left', training.left(readings), silent) : Promise.resolve(null);
  },
  best(): Promise<BestStep[] | null> {
    return training ? slices.run('best', training.best(), silent) : Promise.resolve(null);
  },
  verdict(answer: Pick<Fault, 'kind' | 'place'> | null): Promise<Verdict | null> {
    return training ? slices.run('verdict', training.verdict(answer), silent) : Promise.resolve(null);
  },
};

export type TrainingWork = typeof work;

expose(work);
