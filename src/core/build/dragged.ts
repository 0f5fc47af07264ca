import type { Design } from '../design/design-schema';
import { arrangedBy } from './arranged';
import { jointRadiiOf, type Insulation } from './insulation';
import type { Layout } from './layout';

/** By which a pitch is changed to see what follows it, m. */
const STEP = 1e-3;
/** To which it is rounded: so many in a metre. */
const ROUNDED = 1e4;

/**
 * The spacing from stage to stage at which a joint stands so far along the ladder, all else as it is.
 *
 * @param at which of the layout's conductors
 * @param alongMetres where it is to stand, in the layout's own first way
 * @returns m, in tenths of a millimetre, one at least; null where its place does not follow the spacing
 */
export function pitchAt(
  design: Design,
  { potentials, nodes }: Insulation,
  { arranged, spacing, bodies }: Layout,
  at: number,
  alongMetres: number,
): number | null {
  const further = { ...spacing, pitch: spacing.pitch + STEP };
  const wider = arrangedBy(potentials.network, bodies, design.build, further, jointRadiiOf(design, nodes));
  const [stands] = arranged.conductors[at].from;
  const follows = (wider.conductors[at].from[0] - stands) / STEP;
  if (Math.abs(follows) < 1e-6) return null;
  const pitch = spacing.pitch + (alongMetres - stands) / follows;
  return Math.max(1, Math.round(pitch * ROUNDED)) / ROUNDED;
}

/** The same design with its spacing entered as it is. */
export const withSpacing = (design: Design, { pitch, row, board }: Layout['spacing']): Design => ({
  ...design,
  build: { ...design.build, pitchMetres: pitch, rowMetres: row, boardMetres: board },
});
