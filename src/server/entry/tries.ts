/** Wrong pass phrases that cost nothing; each further one doubles the wait, s. */
const FREE_TRIES = 5;
const LONGEST_WAIT_SECONDS = 300;
/** After this long without a try the count begins anew, ms. */
const FORGOTTEN_MILLISECONDS = 3_600_000;
const MOST_SOURCES = 1000;

type Count = { wrong: number; lastAt: number };

/**
 * Slows down whoever enters wrong pass phrases, by where they come from. A try
 * counts as wrong from its start until it has shown itself right, so that many
 * at once gain nothing.
 */
export class Tries {
  private readonly counts = new Map<string, Count>();

  constructor(private readonly now: () => number = Date.now) {}

  /** How long this source has to wait before its next try, whole s; 0 where it may try at once. */
  waitSeconds(source: string): number {
    const count = this.counts.get(source);
    if (!count || count.wrong < FREE_TRIES) return 0;
    const wait = Math.min(LONGEST_WAIT_SECONDS, 2 ** (count.wrong - FREE_TRIES + 1));
    return Math.max(0, Math.ceil(wait - (this.now() - count.lastAt) / 1000));
  }

  begin(source: string): void {
    const now = this.now();
    for (const [other, { lastAt }] of this.counts) if (now - lastAt > FORGOTTEN_MILLISECONDS) this.counts.delete(other);
    const wrong = (this.counts.get(source)?.wrong ?? 0) + 1;
    // Set anew, it stands last: the first is the one longest without a try.
    this.counts.delete(source);
    this.counts.set(source, { wrong, lastAt: now });
    if (this.counts.size > MOST_SOURCES) this.counts.delete(this.counts.keys().next().value!);
  }

  /** How many places are counted at the moment. */
  get sources(): number {
    return this.counts.size;
  }

  right(source: string): void {
    this.counts.delete(source);
  }
}
