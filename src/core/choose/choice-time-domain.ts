import type { Design } from '../design/design-schema';
import { transientOf } from '../transient/transient';

/** What the time domain says of a chosen ladder. */
export type ChoiceTimeDomain = { meanVolts: number; rippleFraction: number; settled: boolean; met: boolean };

/** The current that a load of the target draws is met by being set; half a percent is not a different output. */
const AS_GOOD_AS = 0.995;

/** A choice settled by the engine: whether it still reaches the target there. */
export function* settleChoice(design: Design): Generator<unknown, ChoiceTimeDomain> {
  const running = transientOf(design);
  for (;;) {
    const step = running.next();
    if (!step.done) {
      yield step.value;
      continue;
    }
    const { meanVolts, ripplePeakToPeakVolts, converged } = step.value.transient;
    const rippleFraction = ripplePeakToPeakVolts / meanVolts;
    const { target } = design;
    return {
      meanVolts,
      rippleFraction,
      settled: converged,
      met:
        target !== null &&
        meanVolts >= AS_GOOD_AS * target.volts &&
        rippleFraction <= (target.ripplePeakToPeakFraction ?? Infinity) / AS_GOOD_AS,
    };
  }
}
