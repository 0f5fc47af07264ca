/** What a dimmer leaves of a sine of peak 1 when it lets it through this angle after each zero crossing. */
export type PhaseCut = { peak: number; rms: number };

/**
 * Peak and RMS of a sine that starts late in each half period: the peak is whole
 * up to 90 degrees, the RMS is sqrt((1 - a / pi + sin 2a / 2 pi) / 2) (handbook,
 * phase control of a resistive load).
 *
 * @param degrees 0 to 180
 */
export function phaseCut(degrees: number): PhaseCut {
  const angle = (degrees * Math.PI) / 180;
  return {
    peak: degrees <= 90 ? 1 : Math.sin(angle),
    rms: Math.sqrt(Math.max(0, (1 - angle / Math.PI + Math.sin(2 * angle) / (2 * Math.PI)) / 2)),
  };
}

/** Points of a cut sine: one for each degree. */
const POINTS = 360;

/** One period of a sine of this peak, V, cut to the degree above, from its zero crossing, even in time. */
export function phaseCutSamples(degrees: number, peakVolts: number): number[] {
  return Array.from({ length: POINTS }, (_, point) => {
    const half = (point % (POINTS / 2)) / (POINTS / 2);
    const volts = peakVolts * Math.sin((2 * Math.PI * point) / POINTS);
    return half * 180 < degrees ? 0 : volts;
  });
}
