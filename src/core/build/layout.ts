import type { Design } from '../design/design-schema';
import { arrangedBy, type Arranged, type Conductor, type PlacedBody, type Spacing } from './arranged';
import { bodiesOf, type PlaceBodies } from './bodies';
import { clearanceFor } from './distances';
import { boxGap, gapBetween } from './geometry';
import { jointRadiiOf, type Insulation } from './insulation';
import { neededBetween, type Needed } from './needed';
import type { Potentials } from './potentials';

/** Less than what is needed between two things, m; `needed` is null where there is no figure. */
type Breach = { between: readonly [string, string]; metres: number; neededMetres: number; way: 0 | 1 | 2 };

/** A box whose walls keep their distance from every node, m. */
type Enclosure = {
  lengthMetres: number;
  widthMetres: number;
  heightMetres: number;
  low: readonly [number, number, number];
};

export type Layout = {
  arranged: Arranged;
  bodies: PlaceBodies;
  spacing: Spacing;
  breaches: Breach[];
  /** Null where some node has no figure to ground. */
  enclosure: Enclosure | null;
  /** Of what fills the enclosure, kg; null in air. */
  mediumKilograms: number | null;
  /** Of a standoff under the highest node: its height, and the way along its surface, m. */
  standoffMetres: number | null;
  standoffPathMetres: number | null;
  boards: number;
  /** Inside diameter of a tube around bodies and joints, m; null where there is none. */
  tubeMetres: number | null;
};

/** Left between bodies, and between a body and another part's lead, m (common practice, no source). */
const BODY_GAP = 1e-3;
/** Rounds in which spacings grow by what is missing, then all of them by the same factor; and how often one is halved back. */
const GROWING_ROUNDS = 30;
const SCALING_ROUNDS = 40;
const SCALED_BY = 1.15;
const SHRINKING_STEPS = 8;
const LEAST_STEP = 0.2e-3;
const ORIGIN = [0, 0, 0] as const;
/** kg/m³ (handbook, round figures). */
const DENSITY = { oil: 870, wax: 900, resin: 1150 } as const;

/**
 * The ladder of a design to scale: by the spacing that is entered, or the least at which no two bodies touch and every two
 * bare conductors keep their clearance, and their creepage where a surface holds both. What lies along a part's own body is the part's and no matter of spacing.
 *
 * @returns null where a clearance has no figure
 */
export function layoutOf(design: Design, { around, potentials, nodes, highest }: Insulation): Layout | null {
  const { build } = design;
  const { network } = potentials;
  if (clearanceFor(highest.volts, around, potentials.hertz) === null) return null;
  const needed = neededBetween(potentials, around, build.held);
  const bodies = bodiesOf(design);
  const entered = {
    pitch: build.pitchMetres !== null,
    row: build.rowMetres !== null,
    board: build.boardMetres !== null,
  };
  const spacing: Spacing = {
    pitch: build.pitchMetres ?? bodies.capacitor.lengthMetres,
    row: build.rowMetres ?? Math.max(bodies.capacitor.diameterMetres, bodies.diode.diameterMetres),
    board: build.boardMetres ?? Math.max(bodies.capacitor.diameterMetres, bodies.diode.diameterMetres) + BODY_GAP,
  };
  const free = (['pitch', 'row', 'board'] as const).filter(
    (way) => !entered[way] && (way !== 'board' || build.arrangement === 'boards'),
  );
  const jointRadius = jointRadiiOf(design, nodes);
  const placed = (at: Spacing) => arrangedBy(network, bodies, build, at, jointRadius);
  const tried = (at: Spacing) => {
    const arranged = placed(at);
    return { arranged, breaches: breachesOf(arranged, needed) };
  };
  // One of each node is enough to see whether all have a figure: all of them lie on one board, or on several.
  const each = [...new Map(placed(spacing).conductors.map((one) => [one.node, one])).values()];
  const onOne = each.map((one) => ({ ...one, from: ORIGIN, to: ORIGIN }));
  if (onOne.some((one) => onOne.some((other) => one.node !== other.node && needed(one, other) === null))) return null;
  const found = leastSpacing(
    spacing,
    free,
    (at) => tried(at).breaches,
    (at) => breachesOf(placed(at), needed, 1).length === 0,
  );
  return laidOut({ design, potentials, nodes, bodies, spacing: found, ...tried(found) });
}

const WAYS = ['pitch', 'row', 'board'] as const;
type Way = (typeof WAYS)[number];

/** From a spacing on the least at which there are no breaches; where what is free to grow does not help, the one with fewest. */
function leastSpacing(
  first: Spacing,
  free: readonly Way[],
  breachesAt: (spacing: Spacing) => Breach[],
  isKept: (spacing: Spacing) => boolean,
): Spacing {
  let spacing = { ...first };
  let breaches = breachesAt(spacing);
  let fewest = { spacing, count: breaches.length };
  for (let round = 0; breaches.length > 0 && free.length > 0; round += 1) {
    if (round === GROWING_ROUNDS + SCALING_ROUNDS) return fewest.spacing;
    const missing = { pitch: 0, row: 0, board: 0 };
    for (const { way, metres, neededMetres } of breaches)
      missing[WAYS[way]] = Math.max(missing[WAYS[way]], neededMetres - metres);
    const next = { ...spacing };
    for (const way of free)
      if (round >= GROWING_ROUNDS) next[way] *= SCALED_BY;
      else if (missing[way] > 0) next[way] += Math.max(LEAST_STEP, missing[way] / 2);
    spacing = next;
    breaches = breachesAt(spacing);
    if (breaches.length < fewest.count) fewest = { spacing, count: breaches.length };
  }
  // What grew for something that another way has met since goes back.
  for (const way of free) {
    let low = first[way];
    for (let step = 0; step < SHRINKING_STEPS; step += 1) {
      const less = { ...spacing, [way]: step === 0 ? low : (low + spacing[way]) / 2 };
      if (isKept(less)) spacing = less;
      else low = less[way];
    }
  }
  return spacing;
}

/** Joined by a part of which neither moves: its own body lies between them. */
const isOwn = (one: PlacedBody, node: string) => one.ends.includes(node);

/** @param most after which no further one is looked for */
function breachesOf({ bodies, conductors, tight }: Arranged, needed: Needed, most = Infinity): Breach[] {
  const found = new Map<string, Breach>();
  const note = (one: string, other: string, gap: { metres: number; way: 0 | 1 | 2 }, neededMetres: number) => {
    if (gap.metres >= neededMetres - 1e-9) return;
    const key = [one, other].sort().join(' ');
    const known = found.get(key);
    if (!known || known.metres > gap.metres)
      found.set(key, { between: [one, other], metres: gap.metres, neededMetres, way: gap.way });
  };
  for (const { id, missing, way } of tight)
    found.set(`room ${id}`, { between: [id, id], metres: -missing, neededMetres: 0, way });
  if (found.size >= most) return [...found.values()];
  for (let at = 0; at < conductors.length && found.size < most; at += 1)
    for (let other = 0; other < at; other += 1) {
      const [one, two] = [conductors[at], conductors[other]];
      if (one.node === two.node) continue;
      const least = needed(one, two)!;
      if (boxGap(one, two) < least && !isAcrossOnePart(one, two, bodies))
        note(one.node, two.node, gapBetween(one, two), least);
    }
  for (let at = 0; at < bodies.length && found.size < most; at += 1) {
    const body = bodies[at];
    for (let other = 0; other < at; other += 1)
      if (boxGap(body, bodies[other]) < BODY_GAP)
        note(body.id, bodies[other].id, gapBetween(body, bodies[other]), BODY_GAP);
    for (const lead of conductors)
      if (!isOwn(body, lead.node) && boxGap(body, lead) < BODY_GAP)
        note(body.id, lead.node, gapBetween(body, lead), BODY_GAP);
  }
  return [...found.values()];
}

/** Whether they are the two leads, or joints, of one part, between which its body lies. */
function isAcrossOnePart(one: Conductor, other: Conductor, bodies: readonly PlacedBody[]): boolean {
  return bodies.some(({ ends, from, to }) => {
    if (!(ends.includes(one.node) && ends.includes(other.node))) return false;
    const [first, last] = one.node === ends[0] ? [one, other] : [other, one];
    const isAt = (conductor: Conductor, end: readonly number[]) =>
      conductor.kind === 'joint' ||
      conductor.from.every((value, at) => value === end[at]) ||
      conductor.to.every((value, at) => value === end[at]);
    return isAt(first, from) && isAt(last, to);
  });
}

/** Of all that is laid out, seen from its end, about the middle. */
function tubeAround({ bodies, conductors }: Arranged): number {
  const all = [...bodies, ...conductors].flatMap(({ from, to, radius }) =>
    [from, to].map((point) => ({ point, radius })),
  );
  const low = Math.min(...all.map(({ point, radius }) => point[1] - radius));
  const high = Math.max(...all.map(({ point, radius }) => point[1] + radius));
  const middle = (low + high) / 2;
  return (
    2 * Math.max(...all.map(({ point, radius }) => Math.hypot(point[1] - middle, point[2]) + radius)) + 2 * BODY_GAP
  );
}

/** The greatest; null where one is not known. */
const mostOf = (values: readonly (number | null)[]): number | null =>
  values.includes(null) ? null : Math.max(...(values as number[]));

function laidOut({
  design: { build },
  potentials,
  nodes,
  ...found
}: Pick<Layout, 'bodies' | 'spacing' | 'arranged' | 'breaches'> & {
  design: Design;
  potentials: Potentials;
  nodes: Insulation['nodes'];
}): Layout {
  const { arranged } = found;
  const toGround = new Map(nodes.map(({ id, clearanceMetres }) => [id, clearanceMetres]));
  const enclosure = enclosureOf(arranged, (node) => (node === 'ground' ? 0 : (toGround.get(node) ?? null)));
  const bodyVolume = arranged.bodies.reduce(
    (sum, { from, to, radius }) => sum + Math.PI * radius ** 2 * Math.hypot(...from.map((value, at) => value - to[at])),
    0,
  );
  const volume = enclosure && enclosure.lengthMetres * enclosure.widthMetres * enclosure.heightMetres - bodyVolume;
  const { medium } = build;
  const stages = Math.max(...potentials.network.nodes.map(({ stage }) => stage));
  return {
    ...found,
    enclosure,
    mediumKilograms: volume === null || medium === 'air' || medium === 'other' ? null : volume * DENSITY[medium],
    standoffMetres: mostOf(nodes.map(({ clearanceMetres }) => clearanceMetres)),
    standoffPathMetres: mostOf(nodes.map(({ creepageMetres }) => creepageMetres)),
    tubeMetres: build.arrangement === 'tube' ? tubeAround(arranged) : null,
    boards: build.arrangement === 'boards' ? Math.ceil(stages / build.boardStages) : 1,
  };
}

/** The least box of which every wall keeps each conductor's distance to ground, and clears each body. */
function enclosureOf({ conductors, bodies }: Arranged, toGround: (node: string) => number | null): Enclosure | null {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  const take = ({ from, to, radius }: PlacedBody | Conductor, metres: number) => {
    for (let way = 0; way < 3; way += 1) {
      low[way] = Math.min(low[way], Math.min(from[way], to[way]) - radius - metres);
      high[way] = Math.max(high[way], Math.max(from[way], to[way]) + radius + metres);
    }
  };
  for (const one of conductors) {
    const metres = toGround(one.node);
    if (metres === null) return null;
    take(one, metres);
  }
  for (const one of bodies) take(one, BODY_GAP);
  return {
    lengthMetres: high[0] - low[0],
    widthMetres: high[1] - low[1],
    heightMetres: high[2] - low[2],
    low: [low[0], low[1], low[2]],
  };
}
