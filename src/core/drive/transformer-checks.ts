import { ratioOf, type Transformer } from '../magnetics/transformer';
import type { Rating } from '../quantity/ratings';
import type { DriveCollector } from './drive-result';

/**
 * Flux linkage of the whole primary, and working flux density where the core is
 * known: flux of one turn at its peak over the core's area (handbook).
 *
 * @param fluxPerTurn peak, Wb
 */
export function reportCore(result: DriveCollector, transformer: Transformer, fluxPerTurn: number): void {
  const { coreSquareMetres, primaryTurns } = transformer;
  result.figure('fluxLinkageVoltSeconds', fluxPerTurn * primaryTurns);
  if (coreSquareMetres === null) return;
  const tesla = fluxPerTurn / coreSquareMetres;
  result.figure('fluxTesla', tesla);
  result.stress('coreFlux', 'loaded', tesla);
}

/** What a transformer is rated for beside its wire. */
export const transformerRatings = ({ coreSquareMetres, saturationTesla }: Transformer): Rating[] =>
  coreSquareMetres === null ? [] : [{ id: 'coreFlux', rated: saturationTesla }];

/**
 * What a primary that is charged and let fly makes of its transformer: strokes either way at the secondary, the flux of
 * its peak current L Ip / N (handbook).
 */
export function reportStrokes(
  result: DriveCollector,
  transformer: Transformer,
  { forwardVolts, backVolts, peakAmps }: { forwardVolts: number; backVolts: number; peakAmps: number },
): void {
  const coupled = ratioOf(transformer) * transformer.coupling;
  result.figure('turnsRatio', ratioOf(transformer));
  result.figure('forwardVolts', forwardVolts * coupled);
  result.figure('flybackVolts', backVolts * coupled);
  reportCore(result, transformer, (transformer.primaryHenries! * peakAmps) / transformer.primaryTurns);
}
