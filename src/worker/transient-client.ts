import { proxy, wrap } from 'comlink';
import type { Design } from '@/core/design/design-schema';
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
  cancel: (kind: 'settle' | 'chargeUp') => void;
  end: () => void;
};

export function startTransientWorker(): TransientClient {
  const worker = new Worker(new URL('./transient.worker.ts', import.meta.url), { type: 'module' });
  const work = wrap<TransientWork>(worker);
  return {
    settle: (design, report) => work.settle(design, proxy(report)),
    chargeUp: (design, settledVolts, exact, report) => work.chargeUp(design, settledVolts, exact, proxy(report)),
    discharge: (design, volts, options) => work.discharge(design, volts, options),
    cancel: (kind) => void work.cancel(kind),
    end: () => worker.terminate(),
  };
}
