import type { LadderCapacitor } from '../ladder/network';
import { ladderParts } from '../stress/strings';
import { stagesFor, TOPOLOGY_KINDS } from '../ladder/topologies';
import type { Design } from './design-schema';

/**
 * The design with one field set, everything else shared.
 *
 * A change of topology or stages carries along what hangs on it: the stage
 * count is rounded up to one that the topology takes, and a list of
 * capacitances keeps each part's value by its place in the ladder, new parts
 * taking the value for each. A value typed over one that came from the drawer
 * leaves the part there.
 *
 * @param change whose path is `$.` and field names joined by points
 * @throws RangeError when the path leads through something that is not an object
 */
export function changeDesign(design: Design, change: { path: string; value: unknown }): Design {
  const keys = change.path.split('.').slice(1);
  const changed = withField(leavingPart(design, keys), keys, change.value) as Design;
  return change.path === '$.ladder.stages' || change.path === '$.ladder.topology' ? inStep(design, changed) : changed;
}

/** Fields that say how many of a part are used, and which, but not what it is. */
const HOW_MANY = new Set(['partId', 'series', 'parallel']);

/** The design without the name of a part whose value is about to be typed over. */
function leavingPart(design: Design, [link, part, field]: readonly string[]): Design {
  if (link !== 'ladder' || (part !== 'capacitor' && part !== 'diode')) return design;
  if (!field || HOW_MANY.has(field)) return design;
  return design.ladder[part].partId === null
    ? design
    : { ...design, ladder: { ...design.ladder, [part]: { ...design.ladder[part], partId: null } } };
}

/**
 * An object with one field set, however deep, everything else shared.
 *
 * @throws RangeError when the keys lead through something that is not an object
 */
export function withField(node: unknown, keys: readonly string[], value: unknown): unknown {
  if (keys.length === 0) return value;
  if (typeof node !== 'object' || node === null) throw new RangeError(`withField: no object to set ${keys[0]} of`);
  const [key, ...rest] = keys;
  return { ...node, [key]: withField((node as Record<string, unknown>)[key], rest, value) };
}

function inStep(before: Design, after: Design): Design {
  const { topology, capacitorFarads } = after.ladder;
  // A value that the schema will refuse stays as it is, for the schema to say so.
  if (!(topology in TOPOLOGY_KINDS) || !(after.ladder.stages * 2 >= 1 && Number.isInteger(after.ladder.stages * 2)))
    return after;
  const stages = topology === before.ladder.topology ? after.ladder.stages : stagesFor(topology, after.ladder.stages);
  if (!capacitorFarads)
    return stages === after.ladder.stages ? after : { ...after, ladder: { ...after.ladder, stages } };
  if (TOPOLOGY_KINDS[topology].stages === 'whole' && !Number.isInteger(stages)) return after;
  const key = ({ column, stage, side }: LadderCapacitor) => `${column} ${stage} ${side}`;
  const kept = new Map(
    TOPOLOGY_KINDS[before.ladder.topology]
      .build(before.ladder.stages, 1)
      .capacitors.map((part, index) => [key(part), capacitorFarads[index]]),
  );
  return {
    ...after,
    ladder: {
      ...after.ladder,
      stages,
      capacitorFarads: TOPOLOGY_KINDS[topology]
        .build(stages, 1)
        .capacitors.map((part) => kept.get(key(part)) ?? ladderParts(after.ladder).capacitor.farads),
    },
  };
}
