import type { Transformer } from '../design/driver-schema';
import { sayQuantity } from '../quantity/print-quantity';
import { CHOSEN_MARGIN, fitOf, marginOf } from '../stress/margin';
import type { Report } from './made';

/** Part of saturation from which a core counts as near it (common practice, no source). */
const NEAR_SATURATION = 0.8;

/**
 * Working flux density against saturation, where the core is known: flux of one
 * turn at its peak over the core's area (handbook), said in tesla.
 *
 * @param fluxPerTurn peak, Wb
 */
export function judgeCore(
  report: Report,
  { coreSquareMetres, saturationTesla }: Transformer,
  fluxPerTurn: number,
): void {
  if (coreSquareMetres === null) return;
  const tesla = fluxPerTurn / coreSquareMetres;
  report.figure('transformer', 'flux', 'Flux density, peak, mT', tesla * 1000, '');
  if (tesla > saturationTesla)
    report.finding(
      'stop',
      'core-saturates',
      '$.transformer.coreSquareMetres',
      `The core would work at ${tesla.toPrecision(3)} T and saturates at ${saturationTesla} T: the primary becomes a short.`,
      'Use more primary turns, a larger core, a higher frequency or less voltage.',
    );
  else if (tesla > NEAR_SATURATION * saturationTesla)
    report.finding(
      'warn',
      'core-near-saturation',
      '$.transformer.coreSquareMetres',
      `The core works at ${tesla.toPrecision(3)} T of ${saturationTesla} T; hot ferrite saturates earlier.`,
      'Use more primary turns or a larger core.',
    );
}

/** What a transistor blocks against its rating, where that is known. */
export function judgeTransistor(report: Report, ratedVolts: number | null, peakVolts: number): void {
  const margin = marginOf(ratedVolts, peakVolts);
  const fit = fitOf(margin);
  if (ratedVolts === null || margin === null || fit === 'fits') return;
  report.finding(
    fit === 'over' ? 'stop' : 'warn',
    fit === 'over' ? 'transistor-over-voltage' : 'transistor-margin-thin',
    '$.driver.ratedVolts',
    `The transistor blocks ${sayQuantity(peakVolts, 'V')} peak of ${sayQuantity(ratedVolts, 'V')}, and edges overshoot.`,
    `Use one rated at least ${sayQuantity(peakVolts * (1 + CHOSEN_MARGIN), 'V')}, or a lower supply.`,
  );
}

/** A built-in rectifier hands on pulses of one polarity, which cannot pump a ladder. */
export function judgeRectifier(report: Report, { rectifierInside }: Transformer): void {
  if (rectifierInside)
    report.finding(
      'stop',
      'rectifier-inside',
      '$.transformer.rectifierInside',
      'The transformer has a rectifier inside: it hands on pulses of one polarity, the coupling capacitors charge once and pass nothing more.',
      'Use a transformer without a built-in diode; a ladder needs alternating voltage.',
    );
}
