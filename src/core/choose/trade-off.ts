/** What one chooses by. */
const CHOSEN_BY = ['parts', 'price', 'energy', 'size', 'ripple', 'margin', 'output', 'efficiency'] as const;

/**
 * One cost for each thing one chooses by, in its order: the smaller the better,
 * above zero, Infinity where it is not known. Margins count as 1 / (1 + margin),
 * output as 1 / (1 + what it is over the target), efficiency as power in for
 * each power out.
 */
export type Costs = readonly number[];

/** A margin above this is no better: of the parts, of the output, and ripple under this fraction of what is allowed. */
const MARGIN_ENOUGH = 1;
const OUTPUT_ENOUGH = 0.15;
const RIPPLE_ENOUGH = 0.25;
/** Ripple that is taken as allowed where nothing is said. */
const USUAL_RIPPLE = 0.04;

/** Costs from the figures of a candidate. */
export function costsOf(figures: {
  parts: number;
  /** Of them, how many are not there: each counts twice. */
  missing: number;
  price: number | null;
  joules: number;
  cubicMetres: number | null;
  rippleFraction: number;
  /** What the target allows; null where it says nothing. */
  rippleAllowed: number | null;
  margin: number | null;
  excess: number;
  efficiency: number | null;
}): Costs {
  const { parts, missing, price, joules, cubicMetres, rippleFraction, rippleAllowed, margin, excess, efficiency } =
    figures;
  return [
    parts + missing,
    price === null ? Infinity : price + 0.01,
    joules + 1e-9,
    cubicMetres ?? Infinity,
    Math.max(rippleFraction, RIPPLE_ENOUGH * (rippleAllowed ?? USUAL_RIPPLE)),
    1 / (1 + Math.min(margin ?? 0, MARGIN_ENOUGH)),
    1 / (1 + Math.min(excess, OUTPUT_ENOUGH)),
    efficiency === null ? 1 : 1 / Math.max(efficiency, 1e-3),
  ];
}

/**
 * Whether one is nowhere worse than another and somewhere better; with a slack,
 * nowhere worse by more than that part and not as good in everything.
 */
export function beats(one: Costs, other: Costs, slack = 0): boolean {
  let better = false;
  for (let at = 0; at < one.length; at += 1) {
    if (one[at] > other[at] * (1 + slack)) return false;
    if (one[at] < other[at]) better = true;
  }
  return better;
}

type Costed = { costs: Costs };

/** What family something belongs to: those of one differ in little, and few of them need be shown. */
export type FamilyOf<T> = (one: T) => string;

/** Those that none of the others beats (V. Pareto). */
export function unbeaten<T extends Costed>(candidates: readonly T[]): T[] {
  return candidates.filter((one) => !candidates.some((other) => beats(other.costs, one.costs)));
}

/**
 * Keeps what is not beaten as candidates come; past a number it drops also what
 * is beaten but for a slack, and past twice the number what is not best in
 * anything, so that it stays small.
 */
export class TradeOff<T extends Costed> {
  readonly kept: T[] = [];

  constructor(
    private readonly roomy: number,
    private readonly slack: number,
    private readonly familyOf: FamilyOf<T>,
  ) {}

  add(candidate: T): boolean {
    const { kept } = this;
    const slack = kept.length < this.roomy ? 0 : this.slack;
    for (let at = 0; at < kept.length; at += 1) {
      if (!beats(kept[at].costs, candidate.costs, slack)) continue;
      // What has just beaten one is likely to beat the next, which is much like it.
      if (at > 0) [kept[0], kept[at]] = [kept[at], kept[0]];
      return false;
    }
    let left = 0;
    for (const one of kept) if (!beats(candidate.costs, one.costs)) kept[left++] = one;
    kept.length = left;
    kept.push(candidate);
    if (kept.length > 2 * this.roomy) kept.splice(0, kept.length, ...thinned(kept, this.roomy, this.familyOf));
    return true;
  }
}

/**
 * All in one: the sum of the logarithms of every cost, so that a tenth more of
 * one weighs as a tenth more of another. Lower is better; a heuristic of ours,
 * no source. Costs that are not known of all count for none.
 */
export function ranked<T extends Costed>(candidates: readonly T[]): T[] {
  const counted = CHOSEN_BY.map((_, at) => candidates.every(({ costs }) => costs[at] < Infinity));
  const score = ({ costs }: Costed) => costs.reduce((sum, cost, at) => (counted[at] ? sum + Math.log(cost) : sum), 0);
  return candidates
    .map((candidate) => ({ candidate, score: score(candidate) }))
    .sort((a, b) => a.score - b.score)
    .map(({ candidate }) => candidate);
}

const MOST_OF_A_FAMILY = 2;

/** At most so many: the best in each thing one chooses by, then the best all in one, few of each family. */
export function thinned<T extends Costed>(candidates: readonly T[], most: number, familyOf: FamilyOf<T>): T[] {
  const inOrder = ranked(candidates);
  if (inOrder.length <= most) return inOrder;
  const chosen = new Set<T>();
  CHOSEN_BY.forEach((_, at) => {
    const least = inOrder.reduce((a, b) => (b.costs[at] < a.costs[at] ? b : a));
    if (least.costs[at] < Infinity) chosen.add(least);
  });
  const families = new Map<string, number>();
  for (const candidate of inOrder) {
    if (chosen.size >= most) break;
    const family = familyOf(candidate);
    const already = families.get(family) ?? 0;
    if (already >= MOST_OF_A_FAMILY) continue;
    families.set(family, already + 1);
    chosen.add(candidate);
  }
  return inOrder.filter((candidate) => chosen.has(candidate));
}
