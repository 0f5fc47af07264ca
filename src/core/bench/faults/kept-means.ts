import type { Probing } from './read-through';

/** So many are kept at most: then all are forgotten. */
const MOST = 100_000;

/**
 * What nodes of a ladder on its low source stand at with faults in it, by the charge balance, V: kept from one search to
 * the next, so that one more reading costs no more than itself.
 */
export class KeptMeans {
  private readonly means = new Map<string, number | null>();

  private constructor(private readonly of: string) {}

  /**
   * @param of what they are of: ladder, source, meter
   * @param before those of an earlier search
   * @returns the same ones where they are of the same
   */
  static for(of: unknown, before: KeptMeans | null = null): KeptMeans {
    const own = JSON.stringify(of);
    return before?.of === own ? before : new KeptMeans(own);
  }

  /** @param bench what is wrong in it, in a word of its own */
  at(bench: string, { node, meter, sinceOnSeconds, heldSeconds }: Probing, compute: () => number | null) {
    const key = [bench, node, sinceOnSeconds, heldSeconds, meter.inputOhms, meter.inputFarads].join('|');
    const known = this.means.get(key);
    if (known !== undefined) return known;
    const mean = compute();
    if (this.means.size >= MOST) this.means.clear();
    this.means.set(key, mean);
    return mean;
  }
}
