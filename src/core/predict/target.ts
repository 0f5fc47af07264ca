import type { Design } from '../design/design-schema';

/** What of an output a target can be about, as fields call it. */
export const TARGET_FORM_NAMES: Record<Target['of'], string> = {
  mean: 'Mean',
  peak: 'Peak',
  valley: 'Valley of ripple',
};

export type Target = NonNullable<Design['target']>;

/** What an output reaches of a target. */
export type TargetOutcome = {
  met: boolean;
  /** Output over target, less one; null where there is no figure. */
  voltsExcess: number | null;
  voltsMet: boolean;
  ampsMet: boolean;
  /** Null where no ripple is asked for, or none is known. */
  rippleMet: boolean | null;
};

/** What a target is held against: volts and amperes at the load, mean or, of an output that alternates, RMS; ripple peak to peak over the mean; null where not known. */
export type Reached = {
  volts: number | null;
  amps: number | null;
  rippleFraction: number | null;
  /** Highest and lowest of a period, V; where they are not told the ripple lies evenly about the mean. */
  peakVolts?: number | null;
  valleyVolts?: number | null;
};

/** What of an output a target is about, V; null where there is no figure. */
export function voltsFor({ of }: Pick<Target, 'of'>, reached: Reached): number | null {
  const { volts, rippleFraction } = reached;
  if (of === 'mean' || volts === null) return volts;
  const told = of === 'peak' ? reached.peakVolts : reached.valleyVolts;
  const half = ((rippleFraction ?? 0) * volts) / 2;
  return told ?? (of === 'peak' ? volts + half : volts - half);
}

/** Half a percent is not a different load: a resistance draws a hair less than asked when the output is a hair low. */
const SAME_LOAD = 0.005;

/**
 * Whether a target is met: decided here for prediction, draws, choices and the
 * time domain alike.
 *
 * @param slack by what fraction volts may fall short and ripple be over and still count
 */
export function targetOutcome(
  target: Target,
  reached: Reached,
  slack: { volts: number; ripple: number } = { volts: 0, ripple: 0 },
): TargetOutcome {
  const { amps, rippleFraction } = reached;
  const volts = voltsFor(target, reached);
  const allowed = target.ripplePeakToPeakFraction;
  const voltsMet = volts !== null && volts >= target.volts * (1 - slack.volts);
  const ampsMet = amps !== null && amps >= target.amps * (1 - SAME_LOAD);
  const rippleMet = allowed === null || rippleFraction === null ? null : rippleFraction <= allowed * (1 + slack.ripple);
  return {
    met: voltsMet && ampsMet && rippleMet !== false,
    voltsExcess: volts === null ? null : volts / target.volts - 1,
    voltsMet,
    ampsMet,
    rippleMet,
  };
}
