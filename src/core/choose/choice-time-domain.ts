import type { Design } from '../design/design-schema';
import { targetOutcome } from '../predict/target';
import { transientOf } from '../transient/transient';

/** What the time domain says of a chosen ladder. */
export type ChoiceTimeDomain = { meanVolts: number; rippleFraction: number; settled: boolean; met: boolean };

/** Closed form and engine differ by that much where both are right: half a percent is not a different output. */
const SLACK = { volts: 0.005, ripple: 0.005 };

/** A choice settled by the engine: whether it still reaches the target there. */
export function* settleChoice(design: Design): Generator<unknown, ChoiceTimeDomain> {
  const running = transientOf(design);
  for (;;) {
    const step = running.next();
    if (!step.done) {
      yield step.value;
      continue;
    }
    const { meanVolts, minVolts, maxVolts, amps, ripplePeakToPeakVolts, converged } = step.value.transient;
    const rippleFraction = ripplePeakToPeakVolts / meanVolts;
    const { target } = design;
    return {
      meanVolts,
      rippleFraction,
      settled: converged,
      met:
        target !== null &&
        targetOutcome(
          target,
          { volts: meanVolts, peakVolts: maxVolts, valleyVolts: minVolts, amps, rippleFraction },
          SLACK,
        ).met,
    };
  }
}
