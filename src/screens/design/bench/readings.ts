import { before, readingAt, type Reading, type ReadingKind } from '@/core/bench/session';

/** Readings of one session by their places. */
export type Readings = {
  /** The one that stands there; null where nothing was read. */
  at: (kind: ReadingKind, place: string) => Reading | null;
  before: (reading: Reading) => Reading[];
  isWaiting: (reading: Reading) => boolean;
  /** Takes one, in the place of what stands there. */
  take: (kind: ReadingKind, place: string, value: number) => void;
};

export function readingsIn(
  readings: readonly Reading[],
  waiting: ReadonlySet<string>,
  onTake: (reading: Reading) => void,
): Readings {
  const at = (kind: ReadingKind, place: string) => readingAt(readings, kind, place);
  return {
    at,
    before: (reading) => before(readings, reading),
    isWaiting: ({ id }) => waiting.has(id),
    take: (kind, place, value) =>
      onTake({
        id: crypto.randomUUID(),
        takenAt: new Date().toISOString(),
        kind,
        at: place,
        value,
        remark: '',
        replaces: at(kind, place)?.id ?? null,
      }),
  };
}
