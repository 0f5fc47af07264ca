import { acrossOhms } from '../output/elements';
import type { Design } from '../design/design-schema';
import type { DriveFigures } from '../drive/figures';
import type { SettleProgress } from './steady-state';
import { transientOf } from './transient';

/** Whether nothing is drawn of a design's output as it is. */
export const isIdle = ({ load, output }: Design): boolean => load.kind === 'open' && acrossOhms(output) === Infinity;

/**
 * What the whole supply draws idle, its ladder filled and neither load nor
 * bleeder connected, in the time domain.
 *
 * @param design complete, as `readDesign` returns it
 * @yields the progress of settling
 * @returns the figures `idleAmps` and `idleWatts`; null where the driver is not part of the circuit, or has no supply of its own to draw from
 */
export function* idleOf(design: Design): Generator<SettleProgress, DriveFigures | null> {
  const bare: Design = {
    ...design,
    output: { ...design.output, bleederOhms: null, divider: null },
    load: { kind: 'open' },
  };
  const { transient } = yield* transientOf(bare);
  return transient.converged && transient.driver.kind === 'circuit' ? inputOf(transient.driver.figures) : null;
}

function inputOf({ supplyAmps, supplyWatts }: DriveFigures): DriveFigures | null {
  return supplyAmps === undefined ? null : { idleAmps: supplyAmps, idleWatts: supplyWatts };
}
