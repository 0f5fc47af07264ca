import type { Design } from '../design/design-schema';

/** A gap that strikes again and again. */
export type Sparks = {
  /** What hangs on the output gives each spark, J; null where nothing hangs there, and the ladder itself gives it. */
  joules: number | null;
  /** From one to the next, at least, s; null where no series resistor and nothing behind it sets it. */
  leastSeconds: number | null;
  /** Whether the arc goes out by itself, of what comes through the series resistor. */
  goesOut: boolean;
};

/**
 * Sparks of a gap load, with what hangs on the output charged anew through the
 * series resistor: C V² / 2, and R C ln(V0 / (V0 - V)) (handbook). The ladder's own
 * droop makes it longer.
 *
 * @param noLoadVolts mean at the output, V
 * @param highestVolts that the output climbs to under no load but the gap, V
 * @returns null for another load, and for a gap that never strikes
 */
export function sparksOf(
  { load, output: { seriesOhms, electrodeFarads } }: Pick<Design, 'load' | 'output'>,
  noLoadVolts: number,
  highestVolts: number,
): Sparks | null {
  if (load.kind !== 'gap' || highestVolts < load.strikeVolts) return null;
  const spare = noLoadVolts - load.strikeVolts;
  return {
    joules: electrodeFarads > 0 ? (electrodeFarads * load.strikeVolts ** 2) / 2 : null,
    leastSeconds:
      electrodeFarads > 0 && seriesOhms > 0 && spare > 0
        ? seriesOhms * electrodeFarads * Math.log(noLoadVolts / spare)
        : null,
    goesOut: noLoadVolts < load.quenchAmps * (seriesOhms + load.arcOhms),
  };
}
