import { bankFarads } from '../parts/bank';
import type { LadderCapacitor } from '../topology/network';
import { stagesFor, TOPOLOGY_KINDS } from '../topology/topologies';
import type { Design } from './design-schema';

/**
 * The design with one field set, everything else shared.
 *
 * A change of topology or stages carries along what hangs on it: the stage
 * count is rounded up to one that the topology takes, and a list of
 * capacitances keeps each part's value by its place in the ladder, new parts
 * taking the value for each.
 *
 * @param change whose path is `$.` and field names, or places in a list, joined by points
 * @throws RangeError when the path leads through something that is not an object
 */
export function changeDesign(design: Design, change: { path: string; value: unknown }): Design {
  const keys = change.path.split('.').slice(1);
  const changed = withField(design, keys, change.value) as Design;
  return change.path === '$.ladder.stages' || change.path === '$.ladder.topology' ? inStep(design, changed) : changed;
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
  if (Array.isArray(node)) return node.map((one, at) => (String(at) === key ? withField(one, rest, value) : one));
  return { ...node, [key]: withField((node as Record<string, unknown>)[key], rest, value) };
}

function inStep(before: Design, after: Design): Design {
  const { topology, capacitorFarads, capacitor } = after.ladder;
  const { farads, series, parallel } = capacitor;
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
        .capacitors.map((part) => kept.get(key(part)) ?? bankFarads(farads, series, parallel)),
    },
  };
}
