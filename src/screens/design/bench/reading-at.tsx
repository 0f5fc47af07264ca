import type { Expected } from '@/core/bench/agreement';
import { READING_KINDS, type ReadingKind } from '@/core/bench/entries';
import { ReadingField } from './reading-field';
import type { Readings } from './readings';

/** What was read at one place of a session, or the field for it. */
export function ReadingAt({
  readings,
  kind,
  place,
  name,
  expected,
  mostValue,
}: {
  readings: Readings;
  kind: ReadingKind;
  place: string;
  name: string;
  expected: Expected | null;
  mostValue: number | null;
}) {
  const reading = readings.at(kind, place);
  return (
    <ReadingField
      name={name}
      unit={READING_KINDS[kind].unit}
      reading={reading}
      earlier={reading ? readings.before(reading) : []}
      isWaiting={reading !== null && readings.isWaiting(reading)}
      expected={expected}
      mostValue={mostValue}
      onTake={(value) => readings.take(kind, place, value, expected)}
    />
  );
}
