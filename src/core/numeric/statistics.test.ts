import { seeded } from './chance';
import { bandOf, histogramOf, variance } from './statistics';

describe('variance', () => {
  // The usual worked example of a population of eight: mean 5, standard deviation 2 (textbooks, from memory).
  it('of the textbooks’ eight is four', () => expect(variance([2, 4, 4, 4, 5, 5, 7, 9])).toBeCloseTo(4, 12));
  it('of equal values, of one and of none is nothing', () => {
    expect([variance([3, 3, 3]), variance([7]), variance([])]).toEqual([0, 0, 0]);
  });
  it('does not lose small spreads beside a great mean', () =>
    expect(variance([1e6, 1e6 + 1, 1e6 + 2])).toBeCloseTo(2 / 3, 6));
});

describe('a band', () => {
  const hundred = Array.from({ length: 100 }, (_, at) => at);
  it('has 5, 50 and 95 of a hundred below it, in whatever order they come', () => {
    expect(bandOf(hundred)).toEqual({ low: 5, median: 50, high: 95 });
    expect(bandOf([...hundred].reverse())).toEqual(bandOf(hundred));
  });
  it('of one value is that value', () => expect(bandOf([3])).toEqual({ low: 3, median: 3, high: 3 }));
});

describe('a histogram', () => {
  it('covers all values, each once', () => {
    const rising = Array.from({ length: 977 }, (_, at) => Math.sqrt(at));
    const bars = histogramOf(rising, 20);
    expect(bars).toHaveLength(20);
    expect(bars.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 12);
    expect([bars[0].from, bars[19].to]).toEqual([0, expect.closeTo(Math.sqrt(976), 9)]);
    // Square roots crowd upwards.
    expect(bars[18].share).toBeGreaterThan(5 * bars[1].share);
  });
  it('of equal values is one bar', () => {
    const bars = histogramOf([4, 4, 4], 5);
    expect(bars.map(({ share }) => share)).toEqual([1, 0, 0, 0, 0]);
  });
});

describe('seeded chance', () => {
  const stream = (seed: number, count: number) => {
    const chance = seeded(seed);
    return Array.from({ length: count }, chance);
  };
  it('is the same for a seed and another for another', () => {
    expect(stream(1, 50)).toEqual(stream(1, 50));
    expect(stream(1, 50)).not.toEqual(stream(2, 50));
  });
  it.each([0, 1, 12345, 2 ** 32 - 1, 2 ** 33])('seed %d is spread evenly over 0..1', (seed) => {
    const values = stream(seed, 20_000);
    expect(Math.min(...values)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...values)).toBeLessThan(1);
    // Of a uniform stream: mean 1/2, variance 1/12; four standard errors of 20,000 draws.
    expect(Math.abs(values.reduce((sum, value) => sum + value, 0) / 20_000 - 0.5)).toBeLessThan(0.0082);
    expect(variance(values)).toBeCloseTo(1 / 12, 2);
    // Chi-squared over sixteen bars, fifteen degrees of freedom: 37.7 is passed once in a thousand.
    const bars = histogramOf(Float64Array.from(values).sort(), 16);
    const squared = bars.reduce((sum, { share }) => sum + (share - 1 / 16) ** 2 * 16 * 20_000, 0);
    expect(squared).toBeLessThan(37.7);
  });
});
