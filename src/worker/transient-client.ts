import { proxy } from 'comlink';
import type { Fit, FitReading, NoFit } from '@/core/bench/fit';
import type { FaultyRun } from '@/core/bench/faults/at-full-drive';
import type { Fault } from '@/core/bench/faults/fault';
import type { UnknownId } from '@/core/bench/fit-model';
import type { LowSource } from '@/core/bench/low-source';
import type { ProvingTest } from '@/core/bench/proving';
import type { Layout } from '@/core/build/layout';
import type { DeadPlan, PlanOptions } from '@/core/dead/plan';
import type { Design } from '@/core/design/design-schema';
import type { Air } from '@/core/load/air/air';
import type { Meter } from '@/core/drive/meter-sense';
import type { DriveFigures } from '@/core/drive/figures';
import type { RankedChange } from '@/core/choose/rank-changes';
import type { Tolerance } from '@/core/predict/tolerance';
import type { ChargeUp } from '@/core/transient/charge-up';
import type { Discharge, DischargeOptions } from '@/core/transient/discharge';
import type { TransientRun } from '@/core/transient/transient';
import type { Counting } from '@/core/quantity/counting';
import { lazyWorker } from './lazy-worker';
import type { TransientWork } from './transient.worker';

/** Kinds of work, each with a worker of its own so that none waits for another. */
const APART = [
  'settle',
  'chargeUp',
  'discharge',
  'rank',
  'tolerance',
  'dead',
  'prove',
  'fit',
  'overlay',
  'faulty',
  'layout',
] as const;
/** What a driver draws idle is asked for after it has settled, of the same worker; the best count beside the ranking, between its slices. */
type Kind = (typeof APART)[number] | 'idle' | 'optimum';

/** The long computations of a design, in workers. A later request of a kind ends the one before, which then gives null. */
export type TransientClient = {
  settle: (design: Design, report: (periods: number) => void) => Promise<TransientRun | null>;
  /** What it draws with nothing connected to its output; in the worker that settles. */
  idle: (design: Design) => Promise<DriveFigures | null>;
  chargeUp: (
    design: Design,
    settledVolts: number,
    exact: boolean,
    report: (fraction: number, seconds: number) => void,
  ) => Promise<ChargeUp | null>;
  discharge: (design: Design, volts: ReadonlyMap<string, number>, options: DischargeOptions) => Promise<Discharge>;
  /** What single changes would do, ranked. */
  rank: (design: Design, counting: Counting) => Promise<RankedChange[] | null>;
  /** What tolerances make of the output, and its band over the load's current up to a limit. */
  tolerance: (design: Design, mostAmps: number) => Promise<Tolerance | null>;
  /** The best number of stages; null where there is none. */
  optimum: (design: Design) => Promise<number | null>;
  /** How it is laid out; null where some distance has no figure. */
  layout: (design: Design, air: Air) => Promise<{ layout: Layout | null }>;
  /** How it is made dead. */
  dead: (design: Design, options: PlanOptions, report: (fraction: number) => void) => Promise<DeadPlan | null>;
  /** What a meter reads at each tap of a low-voltage test. */
  prove: (
    design: Design,
    source: LowSource,
    meter: Meter,
    report: (fraction: number) => void,
  ) => Promise<ProvingTest | null>;
  /** What readings at taps tell of a few unknowns. */
  fit: (
    design: Design,
    readings: readonly FitReading[],
    ids: readonly UnknownId[],
    report: (fraction: number) => void,
  ) => Promise<Fit | NoFit | null>;
  /** As `settle`, of another design than the one on screen: beside it. */
  overlay: (design: Design) => Promise<TransientRun | null>;
  /** A design at full drive with a fault in it; null as well where it does not settle. */
  faulty: (design: Design, fault: Fault) => Promise<FaultyRun | null>;
  cancel: (kind: Exclude<Kind, 'discharge' | 'optimum' | 'layout'>) => void;
  end: () => void;
};

/** Starts nothing yet: each worker begins with the first request to it. */
export function transientClient(): TransientClient {
  const start = () => new Worker(new URL('./transient.worker.ts', import.meta.url), { type: 'module' });
  const apart = Object.fromEntries(APART.map((kind) => [kind, lazyWorker<TransientWork>(start)])) as Record<
    (typeof APART)[number],
    ReturnType<typeof lazyWorker<TransientWork>>
  >;
  const workers: Record<Kind, ReturnType<typeof lazyWorker<TransientWork>>> = {
    ...apart,
    idle: apart.settle,
    optimum: apart.rank,
  };
  const of = (kind: Kind) => workers[kind].work();
  return {
    settle: (design, report) => of('settle').settle(design, proxy(report)),
    idle: (design) => of('idle').idle(design),
    chargeUp: (design, settledVolts, exact, report) =>
      of('chargeUp').chargeUp(design, settledVolts, exact, proxy(report)),
    discharge: (design, volts, options) => of('discharge').discharge(design, volts, options),
    rank: (design, counting) => of('rank').rank(design, counting),
    optimum: (design) => of('optimum').optimum(design),
    tolerance: (design, mostAmps) => of('tolerance').tolerance(design, mostAmps),
    layout: (design, air) => of('layout').layout(design, air),
    dead: (design, options, report) => of('dead').dead(design, options, proxy(report)),
    fit: (design, readings, ids, report) => of('fit').fit(design, readings, ids, proxy(report)),
    prove: (design, source, meter, report) => of('prove').prove(design, source, meter, proxy(report)),
    overlay: (design) => of('overlay').overlay(design),
    faulty: (design, fault) => of('faulty').faulty(design, fault),
    cancel: (kind) => void workers[kind].ifStarted()?.cancel(kind),
    end: () => APART.forEach((kind) => apart[kind].end()),
  };
}
