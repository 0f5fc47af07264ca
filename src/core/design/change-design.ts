import type { LadderCapacitor } from '../ladder/network';
import { stagesFor, TOPOLOGY_KINDS } from '../ladder/topologies';
import type { Design } from './design-schema';

/**
 * The design with one field set, everything else shared.
 *
 * A change of topology or stages carries along what hangs on it: the stage
 * count is rounded up to one that the topology takes, and a list of
 * capacitances keeps each part's value by its place in the ladder, new parts
 * taking the value for each.
 *
 * @param change whose path is `$.` and field names joined by points
 * @throws RangeError when the path leads through something that is not an object
 */
export function changeDesign(design: Design, change: { path: string; value: unknown }): Design {
  const keys = change.path.split('.').slice(1);
  const set = (node: unknown, depth: number): unknown => {
    if (depth === keys.length) return change.value;
    if (typeof node !== 'object' || node === null) throw new RangeError(`changeDesign: no object at ${change.path}`);
    return { ...node, [keys[depth]]: set((node as Record<string, unknown>)[keys[depth]], depth + 1) };
  };
  const changed = set(design, 0) as Design;
  return change.path === '$.ladder.stages' || change.path === '$.ladder.topology' ? inStep(design, changed) : changed;
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
        .capacitors.map((part) => kept.get(key(part)) ?? after.ladder.capacitor.farads),
    },
  };
}
