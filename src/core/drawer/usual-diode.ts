import type { Design } from '../design/design-schema';
import { seriesFor } from '../parts/bank';
import { usualDiode, type DiodeKind } from '../parts/diode-kinds';
import { needsOf, type Stresses } from './places/places';

/**
 * The diodes of a design with what is usual of a kind, as many in series in each
 * place as carry what stands there.
 *
 * @param stresses without load hardly hang on the diode, so that a string for these is one for its own
 */
export function withUsualDiode(design: Design, kind: DiodeKind, stresses: Stresses): Design['ladder']['diode'] {
  const { diode } = design.ladder;
  const usual = usualDiode(kind, diode.peakInverseVolts);
  const { diodeVolts } = needsOf(design, stresses);
  const series = seriesFor('diode', { ratedVolts: usual.peakInverseVolts, tolerance: 0 }, diodeVolts) ?? 1;
  return { ...diode, ...usual, series, partId: null };
}
