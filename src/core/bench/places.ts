import type { Design } from '../design/design-schema';
import type { Prediction } from '../predict/prediction';
import type { DraftKind } from './draft';
import { READING_KINDS } from './entries';
import { resistancesOf } from './resistances';

/** What fails besides parts of the ladder. */
const BESIDE_THE_LADDER = ['transformer', 'driver', 'elsewhere'] as const;

/** Where an entry of a kind may be taken: nodes, or parts of the kind it is of; none where that is no matter of a list. */
export function placesOf(
  kind: DraftKind,
  design: Design,
  { capacitors, diodes, nodes, terminals }: Pick<Prediction, 'capacitors' | 'diodes' | 'nodes' | 'terminals'>,
): string[] {
  const parts = [...capacitors, ...diodes].map(({ id }) => id);
  const places = [...new Set([...nodes.map(({ id }) => id), terminals.output])].filter((id) => id !== 'ground');
  switch (kind) {
    case 'failure':
      return [...parts, ...BESIDE_THE_LADDER];
    case 'scope':
      return places;
    case 'note':
      return [];
    case 'resistance':
      return [...resistancesOf(design).map(({ id }) => id), ...parts];
    case 'capacitance':
      return capacitors.map(({ id }) => id);
    case 'drop':
      return diodes.map(({ id }) => id);
    default: {
      const { at } = READING_KINDS[kind];
      return at === 'node' ? places : [];
    }
  }
}
