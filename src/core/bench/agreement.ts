import * as z from '../zod';

/** How a reading stands to what was expected: within its band, within twice that, or further off (common practice, no source). */
export type Agreement = 'agrees' | 'doubtful' | 'off';

export const AGREEMENTS = ['agrees', 'doubtful', 'off'] as const;

/** Times its band's half-width to which a reading is only doubtful. */
const DOUBTFUL = 2;

const volts = z.number().gte(-1e9).lte(1e9);
/** What a meter is to show, V, and within what where nothing is wrong. */
export const expectedSchema = z.strictObject({ volts, low: volts, high: volts });
export type Expected = z.output<typeof expectedSchema>;

/** @param expected in the reading's own terms: what the meter would show, and within what */
export function agreementOf(value: number, { volts, low, high }: Expected): Agreement {
  if (value >= low && value <= high) return 'agrees';
  const half = value < volts ? volts - low : high - volts;
  return Math.abs(value - volts) <= DOUBTFUL * half ? 'doubtful' : 'off';
}

/** Whether a reading would agree with the other sign: its leads, or all of the ladder, may be the wrong way round. */
export const isTurned = (value: number, expected: Expected): boolean =>
  agreementOf(value, expected) !== 'agrees' && agreementOf(-value, expected) === 'agrees';

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
