/** A saved state: its number, and a digest of its document. */
export type State = { revision: number; digest: string };

/** How the history of an archived design stands to that of the design with the same id here. */
export type HistoryStanding =
  /** All of it is here, or here it has gone on since. */
  | 'same'
  /** It goes on where this one ends. */
  | 'later'
  /** Both went on, each its own way. */
  | 'apart';

/**
 * How two histories of one design stand to each other. Saved states are thinned
 * as they age, so that either may lack some: those that both have decide.
 *
 * @param here and
 * @param archived oldest first, each with one state at least
 */
export function standingOf(here: readonly State[], archived: readonly State[]): HistoryStanding {
  const own = new Map(here.map(({ revision, digest }) => [revision, digest]));
  const common = archived.filter(({ revision }) => own.has(revision));
  if (common.length === 0 || common.some(({ revision, digest }) => own.get(revision) !== digest)) return 'apart';
  return archived.at(-1)!.revision > here.at(-1)!.revision ? 'later' : 'same';
}
