import { expose } from 'comlink';
import type { Design } from '@/core/design/design-schema';
import type { DriveFigures } from '@/core/drive/figures';
import { rankChanges, type RankedChange } from '@/core/choose/rank-changes';
import { insulationOf } from '@/core/build/insulation';
import { layoutOf, type Layout } from '@/core/build/layout';
import { deadPlanOf, type DeadPlan, type PlanOptions } from '@/core/dead/plan';
import { optimumStages } from '@/core/predict/optimum-stages';
import { faultyRunOf, type FaultyRun } from '@/core/bench/faults/at-full-drive';
import type { Fault } from '@/core/bench/faults/fault';
import { fitOf, type Fit, type FitReading, type NoFit } from '@/core/bench/fit';
import type { UnknownId } from '@/core/bench/fit-model';
import { provingOf, type ProvingTest } from '@/core/bench/proving';
import type { LowSource } from '@/core/bench/low-source';
import type { Meter } from '@/core/drive/meter-sense';
import type { Air } from '@/core/load/air/air';
import { toleranceOf, USUAL_SAMPLES, type Tolerance } from '@/core/predict/tolerance';
import { chargeUpOf, type ChargeUp } from '@/core/transient/charge-up';
import { dischargeOf, type Discharge, type DischargeOptions } from '@/core/transient/discharge';
import { idleOf } from '@/core/transient/idle';
import { transientOf, type TransientRun } from '@/core/transient/transient';
import type { Counting } from '@/core/quantity/counting';
import { slicer } from './in-slices';

/** The same draws for every design, so that a change shows and not chance. */
const SEED = 1;

const KINDS = ['settle', 'idle', 'chargeUp', 'rank', 'tolerance', 'dead', 'prove', 'fit', 'overlay', 'faulty'] as const;
const slices = slicer(KINDS);

const work = {
  settle(design: Design, report: (periods: number) => void): Promise<TransientRun | null> {
    return slices.run('settle', transientOf(design), ({ periods }) => report(periods));
  },
  idle(design: Design): Promise<DriveFigures | null> {
    return slices.run('idle', idleOf(design), () => undefined);
  },
  chargeUp(
    design: Design,
    settledVolts: number,
    exact: boolean,
    report: (fraction: number, seconds: number) => void,
  ): Promise<ChargeUp | null> {
    return slices.run('chargeUp', chargeUpOf(design, settledVolts, exact), ({ fraction, seconds }) =>
      report(fraction, seconds),
    );
  },
  discharge(design: Design, volts: ReadonlyMap<string, number>, options: DischargeOptions): Discharge {
    return dischargeOf(design, volts, options);
  },
  rank(design: Design, counting: Counting): Promise<RankedChange[] | null> {
    return slices.run('rank', rankChanges(design, counting), () => undefined);
  },
  layout(design: Design, air: Air): { layout: Layout | null } {
    const insulation = insulationOf(design, air);
    return { layout: insulation && layoutOf(design, insulation) };
  },
  optimum(design: Design): number | null {
    return optimumStages(design);
  },
  tolerance(design: Design, mostAmps: number): Promise<Tolerance | null> {
    return slices.run('tolerance', toleranceOf(design, SEED, USUAL_SAMPLES, mostAmps), () => undefined);
  },
  dead(design: Design, options: PlanOptions, report: (fraction: number) => void): Promise<DeadPlan | null> {
    return slices.run('dead', deadPlanOf(design, options), report);
  },
  prove(
    design: Design,
    source: LowSource,
    meter: Meter,
    report: (fraction: number) => void,
  ): Promise<ProvingTest | null> {
    return slices.run('prove', provingOf(design, source, meter), report);
  },
  fit(
    design: Design,
    readings: readonly FitReading[],
    ids: readonly UnknownId[],
    report: (fraction: number) => void,
  ): Promise<Fit | NoFit | null> {
    return slices.run('fit', fitOf(design, readings, ids), report);
  },
  /** The same as `settle`, of another design than the one on screen. */
  overlay(design: Design): Promise<TransientRun | null> {
    return slices.run('overlay', transientOf(design), () => undefined);
  },
  /** A design at full drive with a fault in it. */
  faulty(design: Design, fault: Fault): Promise<FaultyRun | null> {
    return slices.run('faulty', faultyRunOf(design, fault), () => undefined);
  },
  cancel(kind: (typeof KINDS)[number]): void {
    slices.cancel(kind);
  },
};

export type TransientWork = typeof work;

expose(work);
