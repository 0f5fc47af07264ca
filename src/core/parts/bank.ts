import { CHOSEN_MARGIN } from '../quantity/margin';

/** How far junction capacitances of one type of diode lie apart, either way (common practice, no source). */
const JUNCTION_SPREAD = 0.2;

/**
 * The greatest share of a string's voltage that one of its capacitances can get
 * when each lies within a tolerance: one at the low end, all others at the high
 * end, since charge is the same in all (handbook).
 *
 * @param count in series, 1 or more
 * @param tolerance of each, as a fraction of it, 0 to under 1
 * @returns 1 / count for equal ones, towards 1 the further they lie apart
 */
export function worstShare(count: number, tolerance: number): number {
  const [most, least] = [1 / (1 - tolerance), 1 / (1 + tolerance)];
  return most / (most + (count - 1) * least);
}

/**
 * Direct voltage that a capacitor is taken to stand, V: its own rating, else the
 * crest of its alternating one, which it meets twice in every period (common
 * practice, no source; most are given more).
 */
export const directRating = (part: { ratedVolts: number | null; ratedAcVolts: number | null }): number | null =>
  part.ratedVolts ?? (part.ratedAcVolts === null ? null : Math.SQRT2 * part.ratedAcVolts);

/** What a document says of the single parts in a ladder's places, and of how many of them are joined there. */
export type SingleParts = {
  capacitor: {
    farads: number;
    ratedVolts: number | null;
    ratedAcVolts: number | null;
    tolerance: number;
    series: number;
    parallel: number;
  };
  diode: {
    forwardVolts: number;
    peakInverseVolts: number | null;
    junctionFarads: number;
    onOhms: number;
    leakageAmps: number;
    series: number;
  };
};

/** Capacitance of so many in series, and so many such strings in parallel, F (handbook). */
export const bankFarads = (farads: number, series: number, parallel: number) => (farads * parallel) / series;

/** What stands in each place of a ladder where one part is drawn: a string or bank of like ones as a whole. */
export type LadderParts = {
  capacitor: {
    farads: number;
    ratedVolts: number | null;
    worstShare: number;
    series: number;
    parallel: number;
    /** The greatest share of the bank's current that one string gets. */
    currentShare: number;
  };
  diode: {
    forwardVolts: number;
    peakInverseVolts: number | null;
    junctionFarads: number;
    onOhms: number;
    leakageAmps: number;
    worstShare: number;
    series: number;
  };
};

/**
 * The parts of a ladder's places as wholes. Capacitors in series divide their
 * value, in parallel multiply it; a string stands what its worst-placed one
 * stands over its share. Diodes in series add drops and resistances, divide
 * junction capacitance, and block by their junctions' shares. Voltage that
 * stands for long shares by leakage instead, which is not known: balancing
 * resistors are for that and are not counted.
 */
export function ladderParts({ capacitor, diode }: SingleParts): LadderParts {
  const { series, parallel } = capacitor;
  const ratedVolts = directRating(capacitor);
  const capacitorShare = worstShare(series, capacitor.tolerance);
  const diodeShare = worstShare(diode.series, JUNCTION_SPREAD);
  return {
    capacitor: {
      farads: bankFarads(capacitor.farads, series, parallel),
      ratedVolts: ratedVolts === null ? null : ratedVolts / capacitorShare,
      worstShare: capacitorShare,
      series,
      parallel,
      // In parallel current shares as voltage does in series, the other way about: the same ratio of most to least.
      currentShare: worstShare(parallel, capacitor.tolerance),
    },
    diode: {
      forwardVolts: diode.forwardVolts * diode.series,
      peakInverseVolts: diode.peakInverseVolts === null ? null : diode.peakInverseVolts / diodeShare,
      junctionFarads: diode.junctionFarads / diode.series,
      onOhms: diode.onOhms * diode.series,
      leakageAmps: diode.leakageAmps,
      worstShare: diodeShare,
      series: diode.series,
    },
  };
}

/** A bank in words: "3 in series, 2 in parallel"; empty for a single part. */
export function formatBank(series: number, parallel: number): string {
  return [series > 1 ? `${series} in series` : '', parallel > 1 ? `${parallel} in parallel` : '']
    .filter((words) => words !== '')
    .join(', ');
}

const MOST_IN_SERIES = 50;

/**
 * The fewest in series that carry a stress with a margin, the chosen one if not said otherwise.
 *
 * @param kind decides what they share by: capacitors by their tolerance, diodes
 *   by the spread of their junctions
 * @returns null where the rating is not known or not even fifty do
 */
export function seriesFor(
  kind: 'capacitor' | 'diode',
  { ratedVolts, tolerance }: { ratedVolts: number | null; tolerance: number },
  stressVolts: number,
  margin: number = CHOSEN_MARGIN,
): number | null {
  if (ratedVolts === null) return null;
  for (let count = 1; count <= MOST_IN_SERIES; count += 1)
    if (stringRating(kind, { ratedVolts, tolerance }, count) >= stressVolts * (1 + margin)) return count;
  return null;
}

/** What a string of like parts stands, as its worst-placed one sets it, V. */
export function stringRating(
  kind: 'capacitor' | 'diode',
  { ratedVolts, tolerance }: { ratedVolts: number | null; tolerance: number },
  count: number,
): number {
  return (ratedVolts ?? Infinity) / worstShare(count, kind === 'diode' ? JUNCTION_SPREAD : tolerance);
}

/**
 * The greatest balancing resistor across each of a string that keeps the one
 * which leaks least within its rating, while the others leak their most:
 * (n Vr - V) / ((n - 1) I) (handbook, series connection of rectifiers), and what
 * it takes.
 *
 * @param count in series, 2 or more
 * @param ratedVolts of each
 * @param volts across the whole string
 * @param leakageAmps of the leakiest, above zero
 * @returns Ω and W each; null where the string cannot carry the voltage at all
 */
export function balancing(
  count: number,
  ratedVolts: number,
  volts: number,
  leakageAmps: number,
): { ohms: number; wattsEach: number } | null {
  const spare = count * ratedVolts - volts;
  if (!(spare > 0)) return null;
  const ohms = spare / ((count - 1) * leakageAmps);
  // The worst placed stands its rating.
  return { ohms, wattsEach: ratedVolts ** 2 / ohms };
}
