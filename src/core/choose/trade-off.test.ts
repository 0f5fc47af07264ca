import { seeded } from '../numeric/chance';
import { beats, costsOf, ranked, thinned, TradeOff, unbeaten, type Costs } from './trade-off';

const costed = (...costs: number[]) => ({ costs });
const alone = () => 'each its own';

describe('one beats another', () => {
  it('where it is nowhere worse and somewhere better', () => {
    expect(beats([1, 2], [1, 3])).toBe(true);
    expect(beats([1, 2], [1, 2])).toBe(false);
    expect(beats([1, 2], [2, 1])).toBe(false);
    expect(beats([1, 2], [1, Infinity])).toBe(true);
  });
  it('with a slack also where it is worse by less than that', () => {
    expect(beats([1.02, 1], [1, 2])).toBe(false);
    expect(beats([1.02, 1], [1, 2], 0.03)).toBe(true);
    expect(beats([1.04, 1], [1, 2], 0.03)).toBe(false);
    expect(beats([1.02, 2], [1, 2], 0.03)).toBe(false);
  });
});

/** Candidates of as many costs as there are, drawn at random. */
function drawn(count: number, seed: number): { costs: Costs }[] {
  const chance = seeded(seed);
  return Array.from({ length: count }, () => costed(...Array.from({ length: 8 }, () => 1 + Math.floor(4 * chance()))));
}

describe('keeping what is not beaten', () => {
  it.each([1, 2, 3, 4])('as they come gives the same as comparing all with all, seed %d', (seed) => {
    const candidates = drawn(300, seed);
    const tradeOff = new TradeOff(1000, 0.05, alone);
    for (const candidate of candidates) tradeOff.add(candidate);
    const asCosts = (list: readonly { costs: Costs }[]) => list.map(({ costs }) => costs.join()).sort();
    expect(asCosts(tradeOff.kept)).toEqual(asCosts(unbeaten(candidates)));
  });
  it('none kept beats another kept, and what is left out is beaten by one kept', () => {
    const candidates = drawn(300, 9);
    const kept = unbeaten(candidates);
    for (const one of kept) expect(kept.some((other) => beats(other.costs, one.costs))).toBe(false);
    for (const one of candidates)
      if (!kept.includes(one)) expect(kept.some((other) => beats(other.costs, one.costs))).toBe(true);
  });
  it('stays small past its room, and keeps the best in each thing', () => {
    const chance = seeded(5);
    const roomy = 20;
    const tradeOff = new TradeOff(roomy, 0.03, alone);
    const candidates = Array.from({ length: 3000 }, () => costed(...Array.from({ length: 8 }, () => 1 + chance())));
    for (const candidate of candidates) tradeOff.add(candidate);
    expect(tradeOff.kept.length).toBeLessThanOrEqual(2 * roomy);
    for (let at = 0; at < 8; at += 1) {
      const least = Math.min(...candidates.map(({ costs }) => costs[at]));
      // Within the slack by which something may be dropped.
      expect(Math.min(...tradeOff.kept.map(({ costs }) => costs[at]))).toBeLessThan(least * 1.04);
    }
  });
});

describe('the order', () => {
  it('weighs a tenth of one thing as a tenth of another, and leaves out what is not known of all', () => {
    const [cheap, small] = [costed(1, 2, 1, 1, 1, 1, 1, 1), costed(1.5, 1, 1, 1, 1, 1, 1, 1)];
    expect(ranked([cheap, small])).toEqual([small, cheap]);
    const unknown = [costed(2, Infinity, 1, 1, 1, 1, 1, 1), costed(1, 3, 1, 1, 1, 1, 1, 1)];
    expect(ranked(unknown)[0]).toBe(unknown[1]);
  });
  it('thinned keeps it, few of each family, and the best of each thing', () => {
    const candidates = Array.from({ length: 40 }, (_, at) => ({ costs: [40 - at, 1 + at, 1, 1, 1, 1, 1, 1], at }));
    const few = thinned(candidates, 6, ({ at }) => `family ${at % 2}`);
    expect(few.length).toBeLessThanOrEqual(6);
    expect(few).toContain(candidates[0]);
    expect(few).toContain(candidates[39]);
    expect(ranked(candidates).filter((one) => few.includes(one))).toEqual(few);
    expect(thinned(candidates, 100, alone)).toHaveLength(40);
  });
});

describe('costs of a candidate', () => {
  const figures = {
    parts: 10,
    missing: 0,
    price: 5,
    joules: 0.1,
    cubicMetres: 1e-5,
    rippleFraction: 0.03,
    rippleAllowed: 0.04,
    margin: 0.5,
    excess: 0.05,
    efficiency: 0.8,
  };
  const better: [string, Partial<typeof figures>][] = [
    ['fewer parts', { parts: 9 }],
    ['a lower price', { price: 4 }],
    ['less energy', { joules: 0.05 }],
    ['less space', { cubicMetres: 0.5e-5 }],
    ['less ripple', { rippleFraction: 0.02 }],
    ['more margin', { margin: 0.8 }],
    ['more output', { excess: 0.1 }],
    ['better efficiency', { efficiency: 0.9 }],
  ];
  it.each(better)('%s beats, everything else equal', (_what, change) => {
    expect(beats(costsOf({ ...figures, ...change }), costsOf(figures))).toBe(true);
  });
  it('what is missing counts as parts once more, and what is enough counts no further', () => {
    expect(costsOf({ ...figures, missing: 2 })[0]).toBe(12);
    expect(costsOf({ ...figures, margin: 1 })).toEqual(costsOf({ ...figures, margin: 3 }));
    expect(costsOf({ ...figures, excess: 0.2 })).toEqual(costsOf({ ...figures, excess: 0.9 }));
    expect(costsOf({ ...figures, rippleFraction: 0.01 })).toEqual(costsOf({ ...figures, rippleFraction: 1e-6 }));
  });
  it('none is below zero or not a number, known or not', () => {
    const unknown = { ...figures, price: null, cubicMetres: null, rippleAllowed: null, margin: null, efficiency: null };
    for (const one of [figures, unknown, { ...figures, price: 0, joules: 0, margin: -0.9, efficiency: 0 }])
      for (const cost of costsOf(one)) expect(cost).toBeGreaterThan(0);
  });
});
