import type { Build } from '../design/build-schema';
import { sharedCoupling, type LadderNetwork, type LadderNode } from '../topology/network';
import type { PlaceBodies } from './bodies';
import { apart, between, type Point, type Rod } from './geometry';

/** Distances from stage to stage, column to column, board to board, m. */
export type Spacing = { pitch: number; row: number; board: number };

/** A body between the two ends of a part. */
export type PlacedBody = Rod & { id: string; kind: 'capacitor' | 'diode'; ends: readonly [string, string] };
/** What is bare: a lead or wire, or a joint, of a node. */
export type Conductor = Rod & { node: string; kind: 'lead' | 'joint' };

export type Arranged = {
  bodies: PlacedBody[];
  conductors: Conductor[];
  /** Where a node is: at several places where wires join boards. */
  places: Map<string, Point[]>;
  /** Parts for which there is no room between their ends, and how much is missing, m. */
  tight: { id: string; missing: number; way: 0 | 1 }[];
};

/** Lead left straight at each end of a body, m (common practice, no source). */
const LEAD_END = 3e-3;

/**
 * A ladder laid out: columns next to each other along the first way, boards one over the other; each part straight between its
 * two nodes, its body in the middle.
 *
 * @param jointRadius of each node, with the ring or ball that it is given, m
 */
export function arrangedBy(
  network: LadderNetwork,
  bodies: PlaceBodies,
  build: Pick<Build, 'arrangement' | 'boardStages' | 'leadMetres' | 'jointRadiusMetres'>,
  spacing: Spacing,
  jointRadius: (node: string) => number = () => build.jointRadiusMetres,
): Arranged {
  const places = new Map<string, Point[]>();
  const layout = new Layout(network, bodies, build, spacing);
  for (const node of network.nodes) places.set(node.id, layout.placesOf(node));
  const conductors: Conductor[] = [];
  const placed: PlacedBody[] = [];
  const tight: Arranged['tight'] = [];
  const radius = build.leadMetres / 2;
  for (const [node, points] of places)
    points.forEach((point, at) => {
      conductors.push({ node, kind: 'joint', from: point, to: point, radius: jointRadius(node) });
      // From board to board.
      if (at > 0) conductors.push({ node, kind: 'lead', from: points[at - 1], to: point, radius });
    });
  const join = (id: string, kind: PlacedBody['kind'], ends: readonly [string, string], along: boolean) => {
    const [from, to] = nearestPlaces(places.get(ends[0])!, places.get(ends[1])!);
    const size = bodies[kind];
    const room = apart(from, to);
    const missing = size.lengthMetres + 2 * LEAD_END - room;
    if (missing > 1e-9) tight.push({ id, missing, way: along ? 0 : 1 });
    const half = Math.min(0.5, size.lengthMetres / 2 / Math.max(room, 1e-6));
    const [start, end] = [between(from, to, 0.5 - half), between(from, to, 0.5 + half)];
    placed.push({ id, kind, ends, from: start, to: end, radius: size.diameterMetres / 2 });
    conductors.push({ node: ends[0], kind: 'lead', from, to: start, radius });
    conductors.push({ node: ends[1], kind: 'lead', from: end, to, radius });
  };
  const shared = sharedCoupling(network);
  for (const part of network.capacitors) join(part.id, 'capacitor', [part.lower, part.upper], part !== shared);
  for (const { id, anode, cathode } of network.diodes) join(id, 'diode', [anode, cathode], false);
  return { bodies: placed, conductors, places, tight };
}

function nearestPlaces(ones: readonly Point[], others: readonly Point[]): readonly [Point, Point] {
  let best: readonly [Point, Point] = [ones[0], others[0]];
  for (const one of ones) for (const other of others) if (apart(one, other) < apart(...best)) best = [one, other];
  return best;
}

/** By how many pitches two sides that come back over each other begin away from the middle. */
const OFF_MIDDLE = 1.5;

class Layout {
  private readonly isTwoSided: boolean;
  private readonly isCoupled: boolean;
  /** By how much of a pitch the smoothing column is set off. */
  private readonly offset: number;

  constructor(
    private readonly network: LadderNetwork,
    private readonly bodies: PlaceBodies,
    private readonly build: Pick<Build, 'arrangement' | 'boardStages'>,
    private readonly spacing: Spacing,
  ) {
    this.isTwoSided = network.nodes.some(({ side }) => side === -1);
    this.isCoupled = sharedCoupling(network) !== null;
    this.offset = build.arrangement === 'opposite' ? 0 : 1 / 2;
  }

  placesOf(node: LadderNode): Point[] {
    const { pitch, row } = this.spacing;
    const isFoot = node.column === 'ground' || node.column === 'source';
    if (node.column === 'ground') return [[this.isTwoSided ? 0 : this.offset * pitch, 0, 0]];
    // A coupling that both sides share stands across, before the column that it feeds.
    if (node.column === 'source' && this.isCoupled)
      return [
        [
          (1 + (this.build.arrangement === 'boards' ? OFF_MIDDLE : 0)) * pitch,
          row + Math.max(row, this.bodies.capacitor.lengthMetres + 2 * LEAD_END + 1e-6),
          0,
        ],
      ];
    const across = this.acrossOf(node) * row;
    if (isFoot) return [[0, across, 0]];
    return this.boardsOf(node).map((board) => this.onBoard(node, board, across));
  }

  private acrossOf({ id, column }: LadderNode): number {
    if (column === 'smoothing') return 0;
    const source = this.network.sources.find(({ node }) => node === id);
    return column === 'antiphase' || source?.sign === -1 ? -1 : 1;
  }

  private get stages(): number {
    return this.build.arrangement === 'boards' ? this.build.boardStages : Infinity;
  }

  /** A node at the end of a board begins the next one too, where there is a stage on that. */
  private boardsOf({ column, stage, side }: LadderNode): number[] {
    const own = Math.floor((stage - 1) / this.stages);
    const isLast = stage % this.stages === 0;
    const goesOn = this.network.nodes.some(
      (other) => other.column === column && other.side === side && other.stage === stage + 1,
    );
    return isLast && goesOn ? [own, own + 1] : [own];
  }

  private onBoard({ column, stage, side }: LadderNode, board: number, across: number): Point {
    const { pitch, board: up } = this.spacing;
    const local = stage - (board === 0 ? 0 : board * this.stages) + (column === 'smoothing' ? this.offset : 0);
    // Every other board goes back, as far as the middle: two sides that do so keep off it.
    const along = board % 2 === 1 ? this.stages - local : local;
    const off = this.isTwoSided && this.build.arrangement === 'boards' ? OFF_MIDDLE : 0;
    return [side * pitch * (along + off), across, board * up];
  }
}
