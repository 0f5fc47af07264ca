/** How a part stands to its rating, for shape and word beside the colour. */
export type Fit = 'fits' | 'close' | 'over' | 'unrated';

/** Margin under which a part is called close: the usual 25 % of practice. */
export const CHOSEN_MARGIN = 0.25;

/**
 * Rated over working voltage, less one.
 *
 * @returns 0.25 where the rating is a quarter above the stress, negative when over; null when the rating
 *   is not known or nothing is across the part
 */
export function marginOf(ratedVolts: number | null, workingVolts: number): number | null {
  return ratedVolts === null || workingVolts === 0 ? null : ratedVolts / workingVolts - 1;
}

/** By what factor the drive may stand higher than it is drawn up. */
export const atHighest = ({ peaks }: { peaks: number }): number => 1 + peaks;

/** The word for a margin: over below zero, close below 25 %. */
export function fitOf(margin: number | null): Fit {
  if (margin === null) return 'unrated';
  if (margin < 0) return 'over';
  return margin < CHOSEN_MARGIN ? 'close' : 'fits';
}

/**
 * What the two schools of practice would have a part rated for, and what it stands
 * where the drive is as high as it may be, V (common practice, no source).
 *
 * @param overvoltage how far the drive's peaks may be over, as a fraction
 */
export function ratingsWanted(
  stressVolts: number,
  drivePeakVolts: number,
  overvoltage: number,
): { usual: number; cautious: number; driveHigh: number } {
  // The stress is already twice the peak where it is at its worst; the cautious rule counts three.
  return {
    usual: stressVolts * (1 + CHOSEN_MARGIN),
    cautious: 3 * drivePeakVolts,
    driveHigh: stressVolts * (1 + overvoltage),
  };
}
