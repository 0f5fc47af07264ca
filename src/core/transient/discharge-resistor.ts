import { formatQuantity } from '../quantity/format-quantity';
import { preferredAtLeast } from '../quantity/preferred-values';
import type { Severity } from '../quantity/finding';
import { surgeRating } from '../stress/surge';
import type { Discharge } from './discharge';

/** What a discharge asks of its resistor and its contact. */
export type DischargeJudgement = {
  /** First, before anything has fallen: V, A and W; and all that goes into the resistor, J. */
  volts: number;
  amps: number;
  watts: number;
  joules: number;
  findings: { code: string; severity: Severity; message: string }[];
};

/**
 * What one ordinary resistor stands at once, V and J: a body of a watt or two,
 * film on ceramic (common practice, no source; a data sheet beats them).
 */
export const ORDINARY = { volts: 500, joules: 1 };
/** First current from which the contact is made by an arc that pits it and is heard, A (common practice, no source). */
const ARC_AMPS = 1;
/** First current that a resistance chosen anew is for, A. */
const GENTLE_AMPS = 0.05;
/** Past so many nobody builds it of ordinary ones (common practice, no source). */
export const MOST_IN_SERIES = 60;

/**
 * Judges a discharge by what its resistor, its contact and the ladder's diodes
 * take. What is judged is the resistor held across the terminal, not a bleeder
 * beside it.
 *
 * @param ohms of that resistor, above zero
 * @param surgeAmps of a diode, null where it is not known; of the discharge the
 *   greatest diode current is taken to last as long as the terminal takes to fall
 */
export function judgeDischarge(
  { samples, diodePeakAmps, joules }: Pick<Discharge, 'samples' | 'diodePeakAmps' | 'joules'>,
  ohms: number,
  surgeAmps: number | null,
): DischargeJudgement {
  const volts = Math.abs(samples[0].volts);
  const amps = volts / ohms;
  const findings: DischargeJudgement['findings'] = [];
  const inSeries = bodiesFor(volts, joules.resistor);
  if (inSeries > 1)
    findings.push({
      code: 'resistor-over',
      severity: 'stop',
      message: `One ordinary resistor stands about ${formatQuantity(ORDINARY.volts, 'V')} and ${formatQuantity(ORDINARY.joules, 'J')}: it arcs over or bursts here. ${
        inSeries > MOST_IN_SERIES
          ? `Use one made for ${formatQuantity(volts, 'V')} and ${formatQuantity(joules.resistor, 'J')}.`
          : `Use ${inSeries} of ${formatQuantity(ohms / inSeries, 'Ω')} in series, or one made for it.`
      }`,
    });
  if (amps > ARC_AMPS)
    findings.push({
      code: 'contact-arcs',
      severity: 'warn',
      message: `It begins with ${formatQuantity(amps, 'A')}, an arc at the contact. ${formatQuantity(gentleOhms(volts), 'Ω')} begins with under ${formatQuantity(GENTLE_AMPS, 'A')}.`,
    });
  const seconds = fallSeconds(samples);
  if (surgeAmps !== null && diodePeakAmps > surgeRating(surgeAmps, seconds))
    findings.push({
      code: 'diodes-surge',
      severity: 'stop',
      message: `Diodes carry ${formatQuantity(diodePeakAmps, 'A')} for some ${formatQuantity(seconds, 's')}, over their surge rating for that long, ${formatQuantity(surgeRating(surgeAmps, seconds), 'A')}: use a larger resistance.`,
    });
  return { volts, amps, watts: volts * amps, joules: joules.resistor, findings };
}

/** How many ordinary resistors in series stand this voltage and energy, shared evenly; at least one. */
export const bodiesFor = (volts: number, joules: number): number =>
  Math.max(1, Math.ceil(volts / ORDINARY.volts), Math.ceil(joules / ORDINARY.joules));

/** The resistance to hold across a charged output, Ω: the next of E6 that begins with a current that draws no arc. */
export const gentleOhms = (volts: number): number => preferredAtLeast(6, volts / GENTLE_AMPS);

/** Until the terminal is at a third of where it began, s; the whole run where it does not come there. */
function fallSeconds(samples: Discharge['samples']): number {
  const fallen = samples.find((sample) => Math.abs(sample.volts) < Math.abs(samples[0].volts) / Math.E);
  return (fallen ?? samples[samples.length - 1]).seconds;
}
