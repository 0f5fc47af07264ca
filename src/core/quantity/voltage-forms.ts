/** The three ways a sine's voltage is read off instruments and plates. */
export const VOLTAGE_FORMS = ['rms', 'peak', 'peak-to-peak'] as const;
export type VoltageForm = (typeof VOLTAGE_FORMS)[number];

const PEAK_PER: Record<VoltageForm, number> = { rms: Math.SQRT2, peak: 1, 'peak-to-peak': 0.5 };

/**
 * Peak volts of a sine from its reading in one of the three forms.
 *
 * @param volts the reading, V, in the form named
 * @param form rms, peak or peak-to-peak
 * @returns peak volts; valid for a sine without offset only. Handbook formula.
 */
export function sinePeakVolts(volts: number, form: VoltageForm): number {
  return volts * PEAK_PER[form];
}

/** The inverse of {@link sinePeakVolts}: what a sine of this peak reads in the form named, V. */
export function sineVoltsAs(peakVolts: number, form: VoltageForm): number {
  return peakVolts / PEAK_PER[form];
}
