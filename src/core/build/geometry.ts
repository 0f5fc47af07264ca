/** A place in the room, m: along the ladder, across its columns, up from its board. */
export type Point = readonly [number, number, number];
/** Round, about a straight axis; of no length a ball. */
export type Rod = { from: Point; to: Point; radius: number };

const minus = ([a, b, c]: Point, [x, y, z]: Point): Point => [a - x, b - y, c - z];
const times = ([a, b, c]: Point, by: number): Point => [a * by, b * by, c * by];
const plus = ([a, b, c]: Point, [x, y, z]: Point): Point => [a + x, b + y, c + z];
const dot = ([a, b, c]: Point, [x, y, z]: Point): number => a * x + b * y + c * z;
const lengthOf = (vector: Point): number => Math.hypot(...vector);

export const apart = (one: Point, other: Point): number => lengthOf(minus(one, other));
export const between = (from: Point, to: Point, share: number): Point => plus(from, times(minus(to, from), share));

const within = (value: number): number => Math.min(1, Math.max(0, value));

/** Nearest points of two axes (D. Sunday's and others' closest point of segments; handbook). */
function nearest(one: Rod, other: Rod): readonly [Point, Point] {
  const [u, v] = [minus(one.to, one.from), minus(other.to, other.from)];
  const w = minus(one.from, other.from);
  const [a, b, c, d, e] = [dot(u, u), dot(u, v), dot(v, v), dot(u, w), dot(v, w)];
  const spread = a * c - b * b;
  let s = spread > 1e-18 * a * c ? within((b * e - c * d) / spread) : 0;
  let t = c > 0 ? (b * s + e) / c : -1;
  if (t < 0 || t > 1) {
    t = within(t);
    s = a > 0 ? within((b * t - d) / a) : 0;
  }
  return [between(one.from, one.to, s), between(other.from, other.to, t)];
}

/** What lies free between two rods, m, below zero where they overlap; and along which of the three ways it mostly lies. */
export function gapBetween(one: Rod, other: Rod): { metres: number; way: 0 | 1 | 2 } {
  const [near, far] = nearest(one, other);
  const away = minus(far, near).map(Math.abs);
  const way = away.indexOf(Math.max(...away)) as 0 | 1 | 2;
  return { metres: lengthOf(minus(far, near)) - one.radius - other.radius, way };
}

/** No more than what lies free between them, m, at little cost: that of the boxes around them. */
export function boxGap(one: Rod, other: Rod): number {
  let squares = 0;
  for (let way = 0; way < 3; way += 1) {
    const low = Math.max(Math.min(one.from[way], one.to[way]), Math.min(other.from[way], other.to[way]));
    const high = Math.min(Math.max(one.from[way], one.to[way]), Math.max(other.from[way], other.to[way]));
    if (low > high) squares += (low - high) ** 2;
  }
  return Math.sqrt(squares) - one.radius - other.radius;
}
