import type { Expected } from '@/core/bench/agreement';
import { isReading, type Entry, type Reading, type ReadingKind } from '@/core/bench/entries';
import { before, readingsByPlace, standing, tapsRead, type Session, type SessionReadings } from '@/core/bench/session';
import { shallow } from 'zustand/shallow';
import type { Course } from './taps-chart';

/** What an entry says of itself, beside when it was taken. */
type Taken<E extends Entry = Entry> = E extends Entry ? Omit<E, 'id' | 'takenAt'> : never;

/** Entries of one session by their places. */
export type Readings = {
  /** Those that stand, in the order in which they were taken. */
  all: readonly Entry[];
  /** The one that stands there; null where nothing was read. */
  at: (kind: ReadingKind, place: string) => Reading | null;
  before: (reading: Reading) => Reading[];
  isWaiting: (entry: Entry) => boolean;
  /** Takes a reading through the session's meter, in the place of what stands there. */
  take: (
    kind: ReadingKind,
    place: string,
    value: number,
    expected: Expected | null,
    more?: ReadingMore,
    picture?: Blob | null,
  ) => void;
  /** Takes any entry, with its picture; answers its id. */
  add: (entry: Taken, picture?: Blob | null) => string;
};

/** Whole seconds since a moment, ms of the clock. */
export const secondsSince = (moment: number): number => Math.max(0, Math.round((Date.now() - moment) / 1000));

/** What one may say of a reading besides its value. */
type ReadingMore = Partial<
  Pick<Reading, 'remark' | 'heldSeconds' | 'sinceOnSeconds' | 'meter' | 'pictureId' | 'replaces'>
>;

/** What was read of the output at fractions of the drive, V. */
export const stepsReadOf = (entries: readonly Entry[]): ReadonlyMap<number, number> =>
  new Map(
    standing(entries)
      .filter(isReading)
      .flatMap(({ kind, at, value, meter }) =>
        kind === 'output' && meter === null ? [[Number(at), value] as const] : [],
      ),
  );

/** The same of other sessions of this revision through the same meter, which compare. */
export const otherSteps = (own: Session, alike: readonly SessionReadings[]): ReadonlyMap<number, number>[] =>
  alike
    .filter(({ session }) => session.id !== own.id && shallow(session.meter, own.meter))
    .map(({ readings }) => stepsReadOf(readings));

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

/**
 * @param switchedOnAt since when the source is on; null while that is not known
 */
export function readingsIn(
  entries: readonly Entry[],
  waiting: ReadonlySet<string>,
  switchedOnAt: string | null,
  onTake: (entry: Entry, picture: Blob | null) => void,
): Readings {
  // What was read through another meter is not to be compared with what is expected of the session's.
  const at = readingsByPlace(entries.filter((entry) => !isReading(entry) || entry.meter === null));
  const add: Readings['add'] = (entry, picture = null) => {
    const id = crypto.randomUUID();
    onTake({ ...entry, id, takenAt: new Date().toISOString() }, picture);
    return id;
  };
  return {
    all: standing(entries),
    at,
    before: (reading) => before(entries.filter(isReading), reading),
    isWaiting: ({ id }) => waiting.has(id),
    add,
    take: (kind, place, value, expected, more = {}, picture = null) =>
      add(
        {
          kind,
          at: place,
          value,
          expected,
          remark: '',
          meter: null,
          pictureId: null,
          sinceOnSeconds: switchedOnAt === null ? null : secondsSince(Date.parse(switchedOnAt)),
          heldSeconds: null,
          replaces: at(kind, place)?.id ?? null,
          ...more,
        },
        picture,
      ),
  };
}
