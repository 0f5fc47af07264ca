import { coreLossWatts } from '../magnetics/core-loss';
import { ratioOf, type Transformer } from '../magnetics/transformer';
import type { Rating } from '../quantity/ratings';
import type { DriveCollector } from './drive-result';

/** Flux of one turn at its peak, Wb, what of that swings either way, Wb, and how often. */
type CoreFlux = { perTurn: number; swing: number; hertz: number };

/**
 * Flux linkage of the whole primary, working flux density where the core is
 * known, flux of one turn at its peak over the core's area (handbook), and about
 * what a usual ferrite of that size loses.
 *
 * @returns that loss, W; zero where the core is not known, or saturates
 */
export function reportCore(
  result: DriveCollector,
  { coreSquareMetres, corePathMetres, primaryTurns, saturationTesla }: Transformer,
  { perTurn, swing, hertz }: CoreFlux,
): number {
  result.figure('fluxLinkageVoltSeconds', perTurn * primaryTurns);
  if (coreSquareMetres === null) return 0;
  const tesla = perTurn / coreSquareMetres;
  result.figure('fluxTesla', tesla);
  result.stress('coreFlux', 'loaded', tesla);
  // Past saturation no figure for its loss means anything.
  if (corePathMetres === null || tesla > saturationTesla) return 0;
  const core = { squareMetres: coreSquareMetres, pathMetres: corePathMetres };
  const watts = coreLossWatts(swing / coreSquareMetres, hertz, core);
  result.figure('coreLossWatts', watts);
  return watts;
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
  {
    forwardVolts,
    backVolts,
    peakAmps,
    hertz,
  }: { forwardVolts: number; backVolts: number; peakAmps: number; hertz: number },
): void {
  const coupled = ratioOf(transformer) * transformer.coupling;
  result.figure('turnsRatio', ratioOf(transformer));
  result.figure('forwardVolts', forwardVolts * coupled);
  result.figure('flybackVolts', backVolts * coupled);
  const perTurn = (transformer.primaryHenries! * peakAmps) / transformer.primaryTurns;
  // It goes from nothing to its peak: half of that either way.
  reportCore(result, transformer, { perTurn, swing: perTurn / 2, hertz });
}
