import type { Design } from '../design/design-schema';
import { TOPOLOGY_KINDS } from '../topology/topologies';

/** What the foot of a ladder is joined to: the low end of a secondary, a conductor of the line, of another source, or nothing. */
export type GroundKind = 'secondary' | 'line' | 'source' | 'floating';

export function groundOf({ driver, transformer, ladder }: Design): GroundKind {
  if (TOPOLOGY_KINDS[ladder.topology].floats) return 'floating';
  if (transformer || driver.kind === 'mains') return 'secondary';
  return driver.kind === 'direct-mains' ? 'line' : 'source';
}
