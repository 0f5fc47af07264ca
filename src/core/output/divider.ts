import type { Design } from '../design/design-schema';
import { dividerOhms, meteredFootOhms } from './elements';

export type Divider = NonNullable<Design['output']['divider']>;

const USUAL_OHMS = { footOhms: 1e6, meterOhms: 10e6 };
/** A thousand to one, with a usual meter across a usual foot. */
export const USUAL_DIVIDER = {
  ...USUAL_OHMS,
  topOhms: Number((999 * meteredFootOhms({ ...USUAL_OHMS, topOhms: 0 })).toPrecision(6)),
};

/** Temperature between string and foot that the error counts with, K (common practice, no source). */
export const DIVIDER_KELVINS = 20;

/** What a measuring divider does to what it measures, and what its meter shows. */
export type DividerFigures = {
  /** Volts at the terminal for each volt at the meter. */
  ratio: number;
  /** What it draws, A, and what the meter shows, V: at the mean of the terminal; null where that is not known. */
  amps: number | null;
  shownVolts: number | null;
  /** The most that stands on the meter, V: at the highest of the output. */
  mostShownVolts: number;
  /** The same should the foot open: what the clamp holds, or all that the string lets through. */
  openFootVolts: number;
  /** How far off the reading may be, as parts of it; of what is not known null, and not in the sum. */
  errors: {
    tolerance: number;
    perVolt: number | null;
    perKelvin: number | null;
    meter: number;
    /** All of them at their worst at once. */
    atWorst: number;
  };
  /** On each resistor of the string at the highest of the output, V; and its heat without load, W. */
  voltsEach: number;
  wattsEach: number;
  /** Where what alternates is shown 3 dB too small, Hz; null where the string's own capacitance lets all of it through. */
  bandHertz: number | null;
  /** Across the string, which would show it right at every frequency, F. */
  levelFarads: number;
};

/**
 * Figures of a measuring divider (Ohm's law; the pole of string and foot, handbook).
 *
 * @param meanVolts at the terminal, V; null where it is not known
 * @param noLoadPeakVolts highest at the output, V
 * @param noLoadRmsVolts what heats it without load, V
 */
export function dividerFigures(
  divider: Divider,
  meanVolts: number | null,
  noLoadPeakVolts: number,
  noLoadRmsVolts: number,
): DividerFigures {
  const { topOhms, topCount, meterOhms, clampVolts, topFarads, footFarads } = divider;
  const ohms = dividerOhms(divider);
  const foot = meteredFootOhms(divider);
  const ratio = ohms / foot;
  const voltsEach = (noLoadPeakVolts * topOhms) / ohms / topCount;
  const throughMeter = meterOhms === null ? noLoadPeakVolts : (noLoadPeakVolts * meterOhms) / (topOhms + meterOhms);
  // What the string and the foot are off counts by what the string takes of the whole.
  const share = topOhms / ohms;
  const meanEach = ((meanVolts ?? noLoadPeakVolts) * topOhms) / ohms / topCount;
  const errors = {
    tolerance: share * (divider.topTolerance + divider.footTolerance),
    perVolt: divider.perVolt === null ? null : share * divider.perVolt * meanEach,
    perKelvin: divider.perKelvin === null ? null : share * divider.perKelvin * DIVIDER_KELVINS,
    meter: divider.meterTolerance,
  };
  const joined = 1 / (1 / topOhms + 1 / foot);
  const levelFarads = (footFarads * foot) / topOhms;
  const flat = topFarads >= levelFarads;
  return {
    ratio,
    amps: meanVolts === null ? null : meanVolts / ohms,
    shownVolts: meanVolts === null ? null : meanVolts / ratio,
    mostShownVolts: noLoadPeakVolts / ratio,
    openFootVolts: Math.min(throughMeter, clampVolts ?? Infinity),
    errors: {
      ...errors,
      atWorst: errors.tolerance + (errors.perVolt ?? 0) + (errors.perKelvin ?? 0) + errors.meter,
    },
    voltsEach,
    wattsEach: (noLoadRmsVolts / ohms) ** 2 * (topOhms / topCount),
    bandHertz: flat ? null : bandOf(topOhms, topFarads, joined * (topFarads + footFarads)),
    levelFarads,
  };
}

/** Where (1 + (f / zero)²) / (1 + (f / pole)²) has fallen to a half, Hz; null where it never does. */
function bandOf(topOhms: number, topFarads: number, poleSeconds: number): number | null {
  const zeroSeconds = topOhms * topFarads;
  const square = poleSeconds ** 2 - 2 * zeroSeconds ** 2;
  return square > 0 ? 1 / (2 * Math.PI * Math.sqrt(square)) : null;
}
