import type { LadderCapacitor } from '../topology/network';
import { ladderParts } from '../stress/strings';
import { stagesFor, TOPOLOGY_KINDS } from '../topology/topologies';
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

/** What a part of the drawer says of a design: the field that names the part, and those taken from it. */
const FROM_PARTS: readonly { names: string; fields: readonly string[] }[] = [
  {
    names: 'ladder.capacitor.partId',
    fields: [
      'farads',
      'ratedVolts',
      'tolerance',
      'ratedAcVolts',
      'ratedRmsAmps',
      'lossTangent',
      'lengthMetres',
      'diameterMetres',
      'keptAtRating',
      'leakageAmps',
    ].map((field) => `ladder.capacitor.${field}`),
  },
  {
    names: 'ladder.diode.partId',
    fields: [
      'peakInverseVolts',
      'forwardVolts',
      'averageAmps',
      'surgeAmps',
      'recoverySeconds',
      'junctionFarads',
      'leakageAmps',
    ].map((field) => `ladder.diode.${field}`),
  },
  ...(['series', 'bleeder'] as const).map((which) => ({
    names: `resistors.${which}.partId`,
    fields: [
      `output.${which}Ohms`,
      ...['count', 'watts', 'bodyVolts', 'pulseJoules'].map((field) => `resistors.${which}.${field}`),
    ],
  })),
  {
    names: 'driver.partId',
    fields: ['openVolts', 'frequencyHertz', 'maxAmps', 'maxWatts', 'secondaryVolts', 'secondaryOhms', 'shortAmps'].map(
      (field) => `driver.${field}`,
    ),
  },
  {
    names: 'driver.transistorPartId',
    fields: ['ratedVolts', 'ratedAmps', 'transistorOhms', 'gateThresholdVolts'].map((field) => `driver.${field}`),
  },
  {
    names: 'driver.tankPartId',
    fields: ['tankFarads', 'tankRatedVolts', 'tankRatedAmps'].map((field) => `driver.${field}`),
  },
  { names: 'winding.primary.partId', fields: ['winding.primary.wireMetres'] },
  {
    names: 'transformer.partId',
    fields: ['primaryTurns', 'secondaryTurns', 'primaryHenries', 'secondaryOhms', 'rectifierInside'].map(
      (field) => `transformer.${field}`,
    ),
  },
  {
    names: 'transformer.corePartId',
    fields: ['coreSquareMetres', 'saturationTesla'].map((field) => `transformer.${field}`),
  },
];

/** The design without the name of a part whose value is about to be typed over. */
function leavingPart(design: Design, keys: readonly string[]): Design {
  const from = FROM_PARTS.find(({ fields }) => fields.includes(keys.join('.')));
  if (!from) return design;
  const names = from.names.split('.');
  const named = names.reduce<unknown>((node, key) => (node as Record<string, unknown> | null)?.[key], design);
  return typeof named === 'string' ? (withField(design, names, null) as Design) : design;
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
