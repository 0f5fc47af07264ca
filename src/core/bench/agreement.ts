import * as z from '../zod';

/** How a reading stands to what was expected: within its band, within twice that, or further off (common practice, no source). */
export type Agreement = 'agrees' | 'doubtful' | 'off';

const AGREEMENTS = ['agrees', 'doubtful', 'off'] as const;

/** Times its band's half-width to which a reading is only doubtful. */
const DOUBTFUL = 2;

const value = z.number().gte(-1e12).lte(1e12);
/** What a meter is to show, in the unit of the reading, and within what where nothing is wrong. */
export const expectedSchema = z.strictObject({ value, low: value, high: value });
export type Expected = z.output<typeof expectedSchema>;

/** @param expected in the reading's own terms: what the meter would show, and within what */
export function agreementOf(read: number, { value, low, high }: Expected): Agreement {
  if (read >= low && read <= high) return 'agrees';
  const half = read < value ? value - low : high - value;
  return Math.abs(read - value) <= DOUBTFUL * half ? 'doubtful' : 'off';
}

/** Whether a reading would agree with the other sign: its leads, or all of the ladder, may be the wrong way round. */
export const isTurned = (read: number, expected: Expected): boolean =>
  agreementOf(read, expected) !== 'agrees' && agreementOf(-read, expected) === 'agrees';

/** How many stood how, in words: "5 agree, 1 off"; null of none. */
export function tallyWords(counts: Record<Agreement, number>): string | null {
  const words = AGREEMENTS.flatMap((one) =>
    counts[one] > 0 ? [`${counts[one]} ${one === 'agrees' && counts[one] > 1 ? 'agree' : one}`] : [],
  );
  return words.length > 0 ? words.join(', ') : null;
}

/** Readings that something is expected of. */
type ExpectedKind = 'source' | 'tap' | 'output';

/** What is expected at the places of a session: of a low test, and of the steps up. */
type Expecting = {
  test: { source: Expected | null; taps: readonly { node: string; reading: Expected | null }[] };
  steps: readonly { fraction: number; shown: Expected | null }[];
};

/**
 * How many readings of a session stand how; those without a band are not
 * counted.
 *
 * @param at what was read at a place
 */
export function tallyOf(
  test: Expecting['test'],
  steps: Expecting['steps'],
  at: (kind: ExpectedKind, place: string) => { value: number } | null,
): Record<Agreement, number> {
  const count = { agrees: 0, doubtful: 0, off: 0 };
  const add = (kind: ExpectedKind, place: string, expected: Expected | null) => {
    const reading = at(kind, place);
    if (reading && expected) count[agreementOf(reading.value, expected)] += 1;
  };
  add('source', '', test.source);
  for (const { node, reading } of test.taps) add('tap', node, reading);
  for (const { fraction, shown } of steps) add('output', String(fraction), shown);
  return count;
}
