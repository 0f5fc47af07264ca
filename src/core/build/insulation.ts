import type { Design } from '../design/design-schema';
import type { Air } from '../load/air/air';
import { isMirrored } from '../operating/ladder-inputs';
import { bodiesOf } from './bodies';
import { clearanceFor, creepageFor, type Surrounded } from './distances';
import { roundingFor, type Rounding } from './onset';
import { potentialsOf, type Potentials } from './potentials';

/** What a node needs to ground and to what it stands next to. */
export type NodeInsulation = {
  id: string;
  /** The most against ground, V. */
  toGroundVolts: number;
  clearanceMetres: number | null;
  creepageMetres: number | null;
  /** The neighbour it is furthest from in potential, no part between them, and what that needs. */
  neighbour: { id: string; volts: number; clearanceMetres: number | null } | null;
  /** Null but in air. */
  rounding: Rounding | null;
};

/** A part's own body against what lies across it, in a place's string each one's share. */
export type PartInsulation = {
  id: string;
  kind: 'capacitor' | 'diode';
  volts: number;
  bodyMetres: number;
  creepageMetres: number | null;
  clearanceMetres: number | null;
};

export type Insulation = {
  around: Surrounded;
  potentials: Potentials;
  nodes: NodeInsulation[];
  parts: PartInsulation[];
  /** Whether the parts stand the other way than the network says: of a negative supply. */
  isTurned: boolean;
  /** The most against ground, and where, V. */
  highest: { id: string; volts: number };
  /** Whether some distance has no figure. */
  isBeyond: boolean;
  advice: InsulationAdvice[];
};

type InsulationAdvice = { code: string; text: string };

/** From where air and boards are commonly left for oil or potting, V (common practice, no source). */
const POTTING_VOLTS = 30e3;

/** Under this nothing tracks and there is no corona, V (common practice, no source). */
const TRACKING_VOLTS = 600;

/**
 * What insulation a design's ladder asks for: without load, the drive as high as its tolerance lets it be.
 *
 * @returns null for what does not rectify
 */
export function insulationOf(design: Design, air: Air): Insulation | null {
  const potentials = potentialsOf(design);
  if (!potentials) return null;
  const { build } = design;
  const around: Surrounded = { ...build, air };
  const { network, toGround, hertz } = potentials;
  const leads = { leadRadiusMetres: build.leadMetres / 2, jointRadiusMetres: build.jointRadiusMetres };
  const nodes = network.nodes
    .filter(({ column }) => column !== 'ground')
    .map(({ id }): NodeInsulation => {
      const volts = toGround(id);
      const clearanceMetres = clearanceFor(volts, around, hertz);
      return {
        id,
        toGroundVolts: volts,
        clearanceMetres,
        creepageMetres: creepageFor(potentials.rmsToGround(id), volts, around),
        neighbour: neighbourOf(potentials, around, id),
        rounding:
          build.medium === 'air'
            ? clearanceMetres === null
              ? { kind: 'immersed' }
              : roundingFor(volts, clearanceMetres, leads, air)
            : null,
      };
    });
  const parts = partsOf(design, around, potentials);
  const highest = nodes.reduce((most, one) => (one.toGroundVolts > most.toGroundVolts ? one : most));
  const found = {
    around,
    potentials,
    isTurned: isMirrored(design, network),
    nodes,
    parts,
    highest: { id: highest.id, volts: highest.toGroundVolts },
    isBeyond: [...nodes, ...parts].some(({ clearanceMetres, creepageMetres }) =>
      [clearanceMetres, creepageMetres].includes(null),
    ),
  };
  return { ...found, advice: adviceFor(design, found) };
}

/** How large the joint of each node is, rounded, or with a ring or ball, as it has to be to be free of corona, m. */
export function jointRadiiOf({ build }: Design, nodes: readonly NodeInsulation[]): (node: string) => number {
  const rounded = new Map(
    nodes.flatMap(({ id, rounding }) => (rounding && 'radiusMetres' in rounding ? [[id, rounding.radiusMetres]] : [])),
  );
  return (node) => Math.max(build.jointRadiusMetres, rounded.get(node) ?? 0);
}

/** Of the nodes of its own stage and the next to either side, on other columns or its own, that no part joins to it. */
function neighbourOf({ network, between, hertz }: Potentials, around: Surrounded, id: string) {
  const own = network.nodes.find((node) => node.id === id)!;
  const joined = new Set(
    [
      ...network.capacitors.map(({ lower, upper }) => [lower, upper]),
      ...network.diodes.map(({ anode, cathode }) => [anode, cathode]),
    ].flatMap(([one, other]) => (one === id ? [other] : other === id ? [one] : [])),
  );
  const near = network.nodes.filter(
    (node) => node.id !== id && !joined.has(node.id) && Math.abs(node.side * node.stage - own.side * own.stage) <= 1,
  );
  if (near.length === 0) return null;
  const furthest = near.reduce((most, node) => (between(id, node.id) > between(id, most.id) ? node : most));
  const volts = between(id, furthest.id);
  return { id: furthest.id, volts, clearanceMetres: clearanceFor(volts, around, hertz) };
}

function partsOf(
  design: Design,
  around: Surrounded,
  { network, between, rmsBetween, hertz }: Potentials,
): PartInsulation[] {
  const { ladder } = design;
  const { each } = bodiesOf(design);
  const part = (
    kind: 'capacitor' | 'diode',
    id: string,
    [one, other]: readonly [string, string],
    series: number,
  ): PartInsulation => {
    const volts = between(one, other) / series;
    return {
      id,
      kind,
      volts,
      bodyMetres: each[kind].lengthMetres,
      creepageMetres: creepageFor(rmsBetween(one, other) / series, volts, around),
      clearanceMetres: clearanceFor(volts, around, hertz),
    };
  };
  return [
    ...network.capacitors.map(({ id, lower, upper, atBothEnds }) =>
      part('capacitor', id, [lower, upper], ladder.capacitor.series * (atBothEnds ? 2 : 1)),
    ),
    ...network.diodes.map(({ id, anode, cathode }) => part('diode', id, [anode, cathode], ladder.diode.series)),
  ];
}

/** Whether a body is shorter than what lies across it asks for. */
export const isTooShort = ({ bodyMetres, creepageMetres, clearanceMetres }: PartInsulation): boolean =>
  (creepageMetres !== null && bodyMetres < creepageMetres) ||
  (clearanceMetres !== null && bodyMetres < clearanceMetres);

/** Warnings that these figures give reason for, then those of the medium; common practice, no source, but where it says. */
function adviceFor(
  { build, transformer }: Design,
  { nodes, parts, highest, isBeyond }: Omit<Insulation, 'advice'>,
): InsulationAdvice[] {
  const { medium } = build;
  const advice: InsulationAdvice[] = [];
  const say = (code: string, text: string) => advice.push({ code, text });
  const inAir = medium === 'air';
  if (medium === 'other')
    say(
      'no-figures',
      'There are no figures for this medium here: distances are those that its maker states, at the thickness you have.',
    );
  else if (isBeyond)
    say(
      'beyond',
      'Some distances are beyond what these figures go to; they are left out, and no layout is found. Oil or potting goes further than air.',
    );
  if (inAir && highest.volts > POTTING_VOLTS)
    say(
      'potting',
      'From some 30 kV on ladders in air are lost to creepage along boards that collect dust: oil or potting.',
    );
  const short = parts.filter(isTooShort);
  if (short.length > 0)
    say(
      'short-bodies',
      `The bodies of ${short.length === parts.length ? 'all parts' : `${short.length} of ${parts.length} parts`} are shorter than what lies across them asks for along their surface: ${inAir ? 'in this air they track in time; oil or potting, longer parts, or more in series' : 'longer parts, or more in series'}.`,
    );
  const withCorona = nodes.filter(({ rounding }) => rounding && rounding.kind !== 'none');
  if (withCorona.length > 0)
    say(
      'corona',
      'Corona at a node makes ozone and takes current: round the joint, or put a ring or ball over it, no wire end pointing away from it.',
    );
  // At low voltage nothing of this happens.
  if (highest.volts < TRACKING_VOLTS) return advice;
  if (inAir) {
    say(
      'boards',
      'No board between the two columns: it is the path along which they track. Slots, or free air between the rows.',
    );
    say(
      'tracks',
      'A track that has once carbonised stays a conductor: cut it out or change the board, cleaning is not enough.',
    );
  } else
    say(
      'trapped-air',
      `Trapped air breaks down first: warm the parts, pour ${medium === 'oil' ? 'slowly from below and let it stand' : 'slowly from one side, in layers or under vacuum'}, and tap until no bubble rises.`,
    );
  say('tape', 'Tape and sleeves puncture at an edge or a solder point; they count for nothing in these distances.');
  say('glue', 'Hot glue, flux and marker ink can conduct: try a drop at full voltage first, and wash the flux off.');
  say('proof-first', 'The low-voltage test before any of it is covered: nothing can be changed afterwards.');
  if (transformer)
    say(
      'winding-ends',
      'The ground end of the secondary and its hot end leave the winding on opposite sides, each with its own way to the ladder.',
    );
  return advice;
}
