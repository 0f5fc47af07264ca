import type { Transformer } from '../design/driver-schema';
import { sayQuantity } from '../quantity/format-quantity';
import { CHOSEN_MARGIN, fitOf, marginOf } from '../quantity/margin';
import { ratioOf, type Report } from './drive-result';

/** Part of saturation from which a core counts as near it (common practice, no source). */
const NEAR_SATURATION = 0.8;

/** Name of the figure that tells the flux linkage of the whole primary. */
export const VOLT_SECONDS = 'volt-seconds';

/**
 * Flux linkage of the whole primary, and working flux density against
 * saturation where the core is known: flux of one turn at its peak over the
 * core's area (handbook), said in tesla.
 *
 * @param fluxPerTurn peak, Wb
 */
export function judgeCore(report: Report, transformer: Transformer, fluxPerTurn: number): void {
  const { coreSquareMetres, saturationTesla, primaryTurns } = transformer;
  report.figure('transformer', VOLT_SECONDS, 'Primary, whole, peak µV s', fluxPerTurn * primaryTurns * 1e6, '');
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
    `The transistor blocks ${sayQuantity(peakVolts, 'V')} peak of ${sayQuantity(ratedVolts, 'V')}.`,
    `Use one rated at least ${sayQuantity(peakVolts * (1 + CHOSEN_MARGIN), 'V')}, or a lower supply.`,
  );
}

/**
 * What a primary that is charged and let fly makes of its transformer: strokes either way at the secondary, the flux of
 * its peak current L Ip / N (handbook), and whether a rectifier is in the way.
 */
export function reportStrokes(
  report: Report,
  transformer: Transformer,
  { forwardVolts, backVolts, peakAmps }: { forwardVolts: number; backVolts: number; peakAmps: number },
): void {
  const coupled = ratioOf(transformer) * transformer.coupling;
  report.figure('transformer', 'ratio', 'Turns ratio', ratioOf(transformer), '');
  report.figure('transformer', 'forward', 'Forward stroke, secondary', forwardVolts * coupled, 'V');
  report.figure('transformer', 'flyback', 'Pulse back, secondary, no load', backVolts * coupled, 'V');
  judgeRectifier(report, transformer);
  judgeCore(report, transformer, (transformer.primaryHenries! * peakAmps) / transformer.primaryTurns);
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
