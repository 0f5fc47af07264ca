import { benchReading } from '../../../tests/reference/bench-reading';
import { agreementOf, isTurned, tallyOf } from './agreement';
import { entrySchema, type Reading } from './entries';
import { before, joined, readingsByPlace, standing, stoodAs, type Session } from './session';
import { lowSourceSchema } from './low-source';
import { meterSchema } from '../drive/meter-sense';

const idOf = (at: number) => `00000000-0000-4000-8000-${String(at).padStart(12, '0')}`;
const reading = (at: number, changes: Partial<Reading> = {}): Reading =>
  benchReading({
    id: idOf(at),
    takenAt: `2026-03-01T10:${String(at).padStart(2, '0')}:00.000Z`,
    value: at,
    ...changes,
  });
const session = (at: number): Session => ({
  id: idOf(100 + at),
  revision: 1,
  startedAt: `2026-03-0${at}T10:00:00.000Z`,
  source: lowSourceSchema.parse({ kind: 'winding' }),
  meter: meterSchema.parse({}),
  note: '',
});

describe('what stands at a place', () => {
  it('is the last that was not put right, in the order of taking, however they arrive', () => {
    const first = reading(1);
    const right = reading(2, { replaces: first.id });
    const again = reading(3);
    const elsewhere = reading(4, { at: 'B2' });
    for (const list of [
      [first, right, again, elsewhere],
      [elsewhere, again, right, first],
    ]) {
      expect(standing(list).map(({ value }) => value)).toEqual([2, 3, 4]);
      expect(readingsByPlace(list)('tap', 'B1')).toBe(again);
      expect(readingsByPlace(list)('output', 'B1')).toBeNull();
      expect(before(list, right)).toEqual([first]);
    }
  });

  it('two devices that put the same right leave both standing, and the later one counts', () => {
    const first = reading(1);
    const list = [first, reading(2, { replaces: first.id }), reading(3, { replaces: first.id })];
    expect(standing(list)).toHaveLength(2);
    expect(readingsByPlace(list)('tap', 'B1')!.value).toBe(3);
  });

  it('a chain that leads nowhere, or around, comes to an end', () => {
    const lost = reading(1, { replaces: idOf(99) });
    expect(before([lost], lost)).toEqual([]);
    const around = [reading(1, { replaces: idOf(2) }), reading(2, { replaces: idOf(1) })];
    expect(before(around, around[0]).length).toBeLessThanOrEqual(2);
    expect(standing(around)).toEqual([]);
  });
});

it('a session counts as it stood when it was taken, without what was put right', () => {
  const expected = { value: 10, low: 9, high: 11 };
  const first = reading(1, { value: 20, expected });
  const list = [first, reading(2, { value: 10, expected, replaces: first.id }), reading(3, { value: 11.5, expected })];
  expect(stoodAs([...list, reading(4, { value: 5 })])).toEqual({ agrees: 1, doubtful: 1, off: 0 });
});

it('sessions of two places join, each reading once, newest session first', () => {
  const [one, two, three] = [reading(1), reading(2), reading(3)];
  const merged = joined(
    [{ session: session(1), readings: [one, two] }],
    [
      { session: session(1), readings: [two, three] },
      { session: session(2), readings: [] },
    ],
  );
  expect(merged.map((each) => each.readings.length)).toEqual([0, 3]);
  expect(merged[1].readings).toEqual([one, two, three]);
});

it('agrees within its band, is doubtful up to twice as far, off beyond, on either side', () => {
  const expected = { value: 50, low: 49, high: 52 };
  const words = [47.9, 48, 48.9, 49, 50, 52, 52.1, 54, 54.1].map((value) => agreementOf(value, expected));
  expect(words).toEqual(['off', 'doubtful', 'doubtful', 'agrees', 'agrees', 'agrees', 'doubtful', 'doubtful', 'off']);
  expect(agreementOf(-50.5, { value: -50, low: -51, high: -49 })).toBe('agrees');
  expect(agreementOf(50, { value: -50, low: -51, high: -49 })).toBe('off');
  expect([50, -50, 30].map((value) => isTurned(value, { value: -50, low: -51, high: -49 }))).toEqual([
    true,
    false,
    false,
  ]);
});

it('a session is counted by what was expected at each place; what has no band is not', () => {
  const band = { value: 10, low: 9, high: 11 };
  const test = {
    source: band,
    taps: [
      { node: 'B1', reading: band },
      { node: 'B2', reading: null },
    ],
  };
  const steps = [
    { fraction: 0.25, shown: band },
    { fraction: 1, shown: band },
  ];
  const read: Record<string, number> = { 'source ': 10, 'tap B1': 12, 'tap B2': 7, 'output 0.25': -10 };
  const at = (kind: string, place: string) => {
    const value = read[`${kind} ${place}`];
    return value === undefined ? null : { value };
  };
  expect(tallyOf(test, steps, at)).toEqual({ agrees: 1, doubtful: 1, off: 1 });
});

it.each([
  ['value', 1e13],
  ['value', NaN],
  ['kind', 'weight'],
  ['id', 'x'],
  ['takenAt', 'yesterday'],
])('a reading whose %s is %s is refused', (field, value) => {
  expect(entrySchema.safeParse({ ...reading(1), [field]: value }).success).toBe(false);
});
