import { proxy, wrap } from 'comlink';
import type { Design } from '@/core/design/design-schema';
import type { RankedChange } from '@/core/predict/rank-changes';
import type { Tolerance } from '@/core/predict/tolerance';
import type { ChargeUp } from '@/core/transient/charge-up';
import type { Discharge, DischargeOptions } from '@/core/transient/discharge';
import type { TransientRun } from '@/core/transient/transient';
import type { TransientWork } from './transient.worker';

/** The time-domain engine in a worker of its own. A later request of a kind ends the one before, which then gives null. */
export type TransientClient = {
  settle: (design: Design, report: (periods: number) => void) => Promise<TransientRun | null>;
  chargeUp: (
    design: Design,
    settledVolts: number,
    exact: boolean,
    report: (part: number, seconds: number) => void,
  ) => Promise<ChargeUp | null>;
  discharge: (design: Design, volts: ReadonlyMap<string, number>, options: DischargeOptions) => Promise<Discharge>;
  /** What single changes would do, ranked. */
  rank: (design: Design) => Promise<RankedChange[] | null>;
  /** What tolerances make of the output, and its band over the load's current up to a limit. */
  tolerance: (design: Design, mostAmps: number) => Promise<Tolerance | null>;
  cancel: (kind: 'settle' | 'chargeUp' | 'rank' | 'tolerance') => void;
  end: () => void;
};

export function startTransientWorker(): TransientClient {
  const worker = new Worker(new URL('./transient.worker.ts', import.meta.url), { type: 'module' });
  const work = wrap<TransientWork>(worker);
  return {
    settle: (design, report) => work.settle(design, proxy(report)),
    chargeUp: (design, settledVolts, exact, report) => work.chargeUp(design, settledVolts, exact, proxy(report)),
    discharge: (design, volts, options) => work.discharge(design, volts, options),
    rank: (design) => work.rank(design),
    tolerance: (design, mostAmps) => work.tolerance(design, mostAmps),
    cancel: (kind) => void work.cancel(kind),
    end: () => worker.terminate(),
  };
}
