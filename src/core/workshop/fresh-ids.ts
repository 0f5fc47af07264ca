import type { SessionReadings } from '../bench/session';
import type { DeadRun } from '../dead/run';

/** What belongs to one design and has an id of its own. */
export type DesignRecords = { sessions: SessionReadings[]; runs: DeadRun[] };

/**
 * Records of a design under new ids, so that a second design can have them as
 * well; what refers to another of them does so still.
 *
 * @param pictureIds from old to new, for pictures that come with them; a picture that does not come is left out
 */
export function withFreshIds(
  { sessions, runs }: DesignRecords,
  pictureIds: ReadonlyMap<string, string>,
  freshId: () => string,
): DesignRecords {
  const ids = new Map(sessions.flatMap(({ readings }) => readings.map(({ id }) => [id, freshId()] as const)));
  return {
    sessions: sessions.map(({ session, readings }) => ({
      session: { ...session, id: freshId() },
      readings: readings.map((entry) => ({
        ...entry,
        id: ids.get(entry.id)!,
        replaces: entry.replaces === null ? null : (ids.get(entry.replaces) ?? freshId()),
        pictureId: entry.pictureId === null ? null : (pictureIds.get(entry.pictureId) ?? null),
      })),
    })),
    runs: runs.map((run) => ({ ...run, id: freshId() })),
  };
}
