/** Form of the charging pulses on a sine, two a period, by charge: what their current comes to for a charge of one. */
export type PulseShape = {
  /** Twice the integral of one pulse's square over the angle, over the square of its charge: both pulses of a period. */
  square: number;
  /** How fast it falls at its end, per square radian of the drive. */
  endSlope: number;
};

/** No pulses at all. */
const NONE: PulseShape = { square: 0, endSlope: 0 };

/** Angle under which the closed expressions lose their digits by cancellation; their leading terms are right within 1e-4 there. */
const SMALL_ANGLE = 0.01;

/**
 * The form of the pulses that a sine charges a ladder by: a tip of a cosine where
 * the source's resistance spreads them, a sine from the charging angle to the
 * peak where the capacitors do, whichever is the wider. The true pulse is wider
 * than either. Behind a reactance they have the form of its resonance. Source: derived.
 *
 * @param droop its `sourceAngle` half the tip's angle, rad; 0 for a stiff source
 * @param chargingAngle rad; 0 without load
 */
export function pulseShape(
  { sourceAngle, reactive }: { sourceAngle: number; reactive: { shape: () => PulseShape } | null },
  chargingAngle: number,
): PulseShape {
  if (reactive) return reactive.shape();
  const tip = sourceAngle > 0 ? tipOf(sourceAngle) : null;
  const ramp = chargingAngle > 0 ? rampOf(chargingAngle) : null;
  if (tip && ramp) return tip.square < ramp.square ? tip : ramp;
  return tip ?? ramp ?? NONE;
}

/** A pulse as cos x - cos t on [-t, t]. */
function tipOf(t: number): PulseShape {
  if (t < SMALL_ANGLE) return { square: 6 / (5 * t), endSlope: 3 / (2 * t ** 2) };
  const area = 2 * (Math.sin(t) - t * Math.cos(t));
  const square = t + Math.sin(t) * Math.cos(t) - 4 * Math.sin(t) * Math.cos(t) + 2 * t * Math.cos(t) ** 2;
  return { square: (2 * square) / area ** 2, endSlope: Math.sin(t) / area };
}

/** A pulse as sin x on [0, c], run backwards to the peak. */
function rampOf(c: number): PulseShape {
  if (c < SMALL_ANGLE) return { square: 8 / (3 * c), endSlope: 2 / c ** 2 };
  return {
    square: (c - Math.sin(c) * Math.cos(c)) / (1 - Math.cos(c)) ** 2,
    endSlope: 1 / (1 - Math.cos(c)),
  };
}
