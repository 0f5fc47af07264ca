import type { Expected } from '@/core/bench/agreement';
import {
  before,
  readingAt,
  tapsRead,
  type Reading,
  type ReadingKind,
  type Session,
  type SessionReadings,
} from '@/core/bench/session';
import { shallow } from 'zustand/shallow';
import type { Course } from './taps-chart';

/** Readings of one session by their places. */
export type Readings = {
  /** The one that stands there; null where nothing was read. */
  at: (kind: ReadingKind, place: string) => Reading | null;
  before: (reading: Reading) => Reading[];
  isWaiting: (reading: Reading) => boolean;
  /** Takes one, in the place of what stands there. */
  take: (kind: ReadingKind, place: string, value: number, expected: Expected | null) => void;
};

/** What was read along the ladder: in one session, and in others on the same source through the same meter. */
export type Courses = { own: Course; others: Course[] };

export function coursesOf(own: Session, sessions: readonly SessionReadings[]): Courses {
  const courseOf = ({ readings }: SessionReadings): Course =>
    new Map(tapsRead(readings).map(({ node, volts }) => [node, volts]));
  const isAlike = ({ session }: SessionReadings) =>
    shallow(session.source, own.source) && shallow(session.meter, own.meter);
  const present = sessions.find(({ session }) => session.id === own.id);
  return {
    own: present ? courseOf(present) : new Map(),
    others: sessions.filter((one) => one !== present && isAlike(one)).map(courseOf),
  };
}

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
    take: (kind, place, value, expected) =>
      onTake({
        id: crypto.randomUUID(),
        takenAt: new Date().toISOString(),
        kind,
        at: place,
        value,
        expected,
        remark: '',
        replaces: at(kind, place)?.id ?? null,
      }),
  };
}
