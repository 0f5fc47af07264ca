import type { PartUse } from '../drawer/drawer-messages';
import { stockOf } from '../drawer/parts-used';
import type { Part } from '../parts/part-schema';
import { MOST_IN_SERIES, ORDINARY } from '../transient/discharge-resistor';
import type { Stick } from './stick';

/** A stick made of resistors that are free in the drawer, all in series. */
export type StickOnHand = { partId: string; name: string; count: number; ohms: number };

const MOST_SHOWN = 3;

/**
 * Sticks that can be made of one kind of resistor on hand, the fewest first: at
 * least the resistance wanted, and each within its voltage and pulse; a pulse that
 * is not known counts as an ordinary one's. A resistor whose voltage is not known
 * is passed over.
 *
 * @param uses what other designs take of the drawer
 */
export function sticksOnHand(
  parts: readonly Part[],
  uses: readonly PartUse[],
  { ohms, volts, joules }: Pick<Stick, 'ohms' | 'volts' | 'joules'>,
): StickOnHand[] {
  return parts
    .flatMap((part): StickOnHand[] => {
      if (part.kind !== 'resistor' || part.ratedVolts === null) return [];
      const count = Math.max(
        Math.ceil(ohms / part.ohms),
        Math.ceil(volts / part.ratedVolts),
        Math.ceil(joules / (part.pulseJoules ?? ORDINARY.joules)),
      );
      if (count > Math.min(MOST_IN_SERIES, stockOf(part, uses).free)) return [];
      return [{ partId: part.id, name: part.name, count, ohms: count * part.ohms }];
    })
    .sort((one, other) => one.count - other.count || one.ohms - other.ohms)
    .slice(0, MOST_SHOWN);
}
