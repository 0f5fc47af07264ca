import { expose } from 'comlink';
import type { Design } from '@/core/design/design-schema';
import { rankChanges, type RankedChange } from '@/core/predict/rank-changes';
import { toleranceOf, USUAL_SAMPLES, type Tolerance } from '@/core/predict/tolerance';
import { chargeUpOf, type ChargeUp } from '@/core/transient/charge-up';
import { dischargeOf, type Discharge, type DischargeOptions } from '@/core/transient/discharge';
import { transientOf, type TransientRun } from '@/core/transient/transient';

/** How long to compute before looking whether a later request has come, ms. */
const SLICE_MILLISECONDS = 20;

/** The same draws for every design, so that a change shows and not chance. */
const SEED = 1;

/** The request each kind of work is at; a later one ends an earlier. */
const latest = { settle: 0, chargeUp: 0, rank: 0, tolerance: 0 };

/** Lets messages that have arrived be read. */
const breathe = () => new Promise((resume) => setTimeout(resume, 0));

/** Runs a computation in slices; null when a later request of its kind came in between. */
async function inSlices<P, R>(
  kind: keyof typeof latest,
  run: Generator<P, R>,
  report: (progress: P) => void,
): Promise<R | null> {
  latest[kind] += 1;
  const mine = latest[kind];
  let sliceEnds = performance.now() + SLICE_MILLISECONDS;
  for (;;) {
    const step = run.next();
    if (step.done) return step.value;
    if (performance.now() < sliceEnds) continue;
    report(step.value);
    await breathe();
    if (latest[kind] !== mine) return null;
    sliceEnds = performance.now() + SLICE_MILLISECONDS;
  }
}

const work = {
  settle(design: Design, report: (periods: number) => void): Promise<TransientRun | null> {
    return inSlices('settle', transientOf(design), ({ periods }) => report(periods));
  },
  chargeUp(
    design: Design,
    settledVolts: number,
    exact: boolean,
    report: (part: number, seconds: number) => void,
  ): Promise<ChargeUp | null> {
    return inSlices('chargeUp', chargeUpOf(design, settledVolts, exact), ({ part, seconds }) => report(part, seconds));
  },
  discharge(design: Design, volts: ReadonlyMap<string, number>, options: DischargeOptions): Discharge {
    return dischargeOf(design, volts, options);
  },
  rank(design: Design): Promise<RankedChange[] | null> {
    return inSlices('rank', rankChanges(design), () => undefined);
  },
  tolerance(design: Design, mostAmps: number): Promise<Tolerance | null> {
    return inSlices('tolerance', toleranceOf(design, SEED, USUAL_SAMPLES, mostAmps), () => undefined);
  },
  cancel(kind: keyof typeof latest): void {
    latest[kind] += 1;
  },
};

export type TransientWork = typeof work;

expose(work);
