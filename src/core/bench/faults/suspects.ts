import { finished } from '../proving';
import type { Fault } from './fault';
import { faultKind, singleFaults, withFault } from './faults';
import { isWithin, Judge, keyOf, type FaultReading, type Suspect } from './judge';
import type { Nuisance } from './nuisance';
import { KeptMeans } from './kept-means';
import { nextReadingOf, type NextReading } from './next-reading';
import type { SoundBench } from './read-through';

export type Suspects = {
  /** Whether a sound ladder explains the readings. */
  isSound: boolean;
  soundChiSquared: number;
  /** Those that these readings cannot tell apart stand together; groups by their weight, in each the weightiest first. */
  groups: Suspect[][];
  /** Single faults that these readings would not show. */
  hidden: Fault[];
  /** The reading that tells the leading ones apart best; null where none does. */
  next: NextReading | null;
};

/** What readings leave: single faults that explain them, of how many, and whether a sound ladder does. */
export type Left = { faults: number; of: number; isSoundLeft: boolean };

/** Which of so many equal shares of a list. */
export type Share = { at: number; of: number };
export const WHOLE: Share = { at: 0, of: 1 };
const shareOf = <T>(all: readonly T[], { at, of }: Share): T[] => all.filter((_, index) => index % of === at);

/** Suspects of which a degree is looked for, how far behind the first in the logarithm of odds, and those that the engine runs: so many readings in all. */
const REFINED = 30;
const FAR_BEHIND = 100;
const BY_ENGINE = { readings: 72, most: 10 };
const FAR_FOR_ENGINE = 25;
/** Readings of pairs of faults, of all degrees, that are computed where no single one explains the readings, and single ones at least to which each other one is added. */
const PAIR_READINGS = 18_000;
const LEAST_FIRSTS = 3;
/** Leading pairs of which those are looked for that cannot be told from them. */
const COMPLETED = 8;
/** Leading suspects that a next reading is to tell apart. */
const LEADING = 40;
/** A suspect so light does not count. */
const LIGHT = 1e-3;

/**
 * The search for what explains the readings of a low test, by the charge balance through the meter, part tolerances and
 * what was fitted as nuisance (Bayes' rule with even odds for every place and a normal law for what is off). In steps
 * of which the long ones can be shared: every single fault weighed, the best refined, two at once where no single one
 * explains the readings, the leading ones run by the engine, and what comes of it.
 */
export class FaultSearch {
  private readonly judge: Judge;
  /** From the foot up. */
  private readonly readings: readonly FaultReading[];
  private readonly soundSuspect: Suspect;

  /**
   * @param places nodes at which a further reading can be taken
   * @param kept of an earlier search of the same ladder, source and meter
   */
  constructor(
    private readonly sound: SoundBench,
    readings: readonly FaultReading[],
    private readonly nuisance: Nuisance,
    private readonly places: readonly string[],
    kept = KeptMeans.for(null),
  ) {
    const along = (one: FaultReading) =>
      one.kind === 'source' ? -1 : sound.bench.network.nodes.findIndex(({ id }) => id === one.node);
    this.readings = readings.toSorted((one, other) => along(one) - along(other));
    this.judge = new Judge(sound, this.readings, nuisance, kept);
    this.soundSuspect = this.judge.soundSuspect();
  }

  /** A share of all single faults. */
  *singles(share: Share): Generator<number, Suspect[]> {
    return yield* this.weighed(
      shareOf(singleFaults(this.sound.bench), share)
        .flat()
        .map((fault) => [fault]),
    );
  }

  /**
   * Those that may be one of two faults: none where a single one, or none, explains the readings. They explain the
   * readings best; or all but for one factor, which a drive or a probe may have; or those from the foot up to some tap,
   * above which there may be another.
   *
   * @param singles of all degrees
   * @param best of them, in the order of their odds
   */
  firsts(singles: readonly Suspect[], best: readonly Suspect[]): Suspect[] {
    if (this.isExplained(best)) return [];
    const all = this.readings.length;
    const counted = [
      { count: all, isScaled: true },
      ...Array.from({ length: Math.max(0, all - 2) }, (_, at) => ({ count: all - 1 - at, isScaled: false })),
    ];
    const orders = [best, ...counted.map((by) => inOrder(this.judge.bestDegrees(singles, by)))];
    const chosen: { suspect: Suspect; isLike: (other: Suspect) => boolean }[] = [];
    const most = Math.max(LEAST_FIRSTS, Math.floor(PAIR_READINGS / Math.max(1, singles.length * all)));
    for (let rank = 0; rank < most && chosen.length < most; rank += 1)
      for (const order of orders) {
        const one = order.at(rank);
        if (one && chosen.length < most && !chosen.some(({ isLike }) => isLike(one)))
          chosen.push({ suspect: one, isLike: this.judge.alikeTo(one) });
      }
    return chosen.map(({ suspect }) => suspect);
  }

  /** A share of these with each single fault besides. */
  *doubles(firsts: readonly Suspect[], share: Share): Generator<number, Suspect[]> {
    const { bench } = this.sound;
    const seen = new Set<string>();
    const isNew = (pair: readonly Fault[]) => {
      const key = keyOf(inOneOrder(pair));
      const was = seen.has(key);
      seen.add(key);
      return !was;
    };
    const pairs = firsts.flatMap(({ faults: [first] }) =>
      singleFaults(bench)
        .map((seconds) => seconds.map((second) => [first, second]))
        .filter(([pair]) => this.canBeBoth(pair) && isNew(pair)),
    );
    return yield* this.weighed(shareOf(pairs, share).flat());
  }

  private *weighed(all: readonly (readonly Fault[])[]): Generator<number, Suspect[]> {
    const found: Suspect[] = [];
    for (const [done, faults] of all.entries()) {
      const suspect = this.judge.suspect(faults);
      if (suspect) found.push(suspect);
      if (done % 8 === 7) yield (done + 1) / all.length;
    }
    return found;
  }

  /** Of all degrees the best, in the order of their odds. */
  ranked(found: readonly Suspect[]): Suspect[] {
    return inOrder(this.judge.bestDegrees(found));
  }

  /** A share of the leading ones, their degrees looked for more closely. */
  *refined(ranked: readonly Suspect[], share: Share): Generator<number, Suspect[]> {
    const near = ranked.filter(({ weight }) => weight > ranked[0].weight - FAR_BEHIND).slice(0, REFINED);
    const mine = shareOf(near, share);
    const refined: Suspect[] = [];
    for (const suspect of mine) {
      refined.push(this.judge.refined(suspect));
      yield refined.length / mine.length;
    }
    return refined;
  }

  /** Both, one after the other. */
  *best(found: readonly Suspect[]): Generator<number, Suspect[]> {
    const ranked = this.ranked(found);
    return withRefined(ranked, yield* this.refined(ranked, WHOLE));
  }

  /**
   * Single faults and pairs in the order of their odds, of the leading pairs also those in which another fault stands for
   * one that it cannot be told from.
   *
   * @param singles in the order of their odds
   * @param doubles of all degrees
   */
  *withPairs(singles: readonly Suspect[], doubles: readonly Suspect[]): Generator<number, Suspect[]> {
    const pairs = yield* this.best(doubles);
    const best = new Map(pairs.map((pair) => [keyOf(inOneOrder(pair.faults)), pair]));
    for (const { faults } of pairs.slice(0, COMPLETED)) {
      yield 1;
      for (const at of [0, 1]) {
        const own = singles.find((one) => keyOf(one.faults) === keyOf([faults[at]]));
        const isLike = own ? this.judge.alikeTo(own) : () => false;
        for (const other of singles.filter((one) => one !== own && isLike(one))) {
          const pair = faults.with(at, other.faults[0]);
          const suspect = this.canBeBoth(pair) ? this.judge.suspect(pair) : null;
          if (!suspect) continue;
          // It may have been weighed before, with a degree that is not its best.
          const key = keyOf(inOneOrder(pair));
          const known = best.get(key);
          if (!known || suspect.weight > known.weight) best.set(key, suspect);
        }
      }
    }
    return inOrder([...singles, ...best.values()]);
  }

  /** What is left of all single faults, at their best degrees. */
  left(best: readonly Suspect[]): Left {
    const fits = ({ chiSquared }: Suspect) => isWithin(chiSquared, this.readings.length);
    return { faults: best.filter(fits).length, of: best.length, isSoundLeft: fits(this.soundSuspect) };
  }

  /** Whether these readings would show a fault. */
  shows(fault: Fault): boolean {
    const suspect = this.judge.suspect([fault]);
    return suspect !== null && !this.judge.alikeTo(this.soundSuspect)(suspect);
  }

  /** Whether a fault explains them. */
  explains(fault: Fault): boolean {
    const suspect = this.judge.suspect([fault]);
    return suspect !== null && isWithin(suspect.chiSquared, this.readings.length);
  }

  /** Single faults that these readings cannot tell from one. */
  alikeTo(best: readonly Suspect[], { kind, place }: Fault): Fault[] {
    const isIt = ({ faults: [one] }: Suspect) => one.kind === kind && one.place === place;
    const it = best.find(isIt);
    const isLike = it ? this.judge.alikeTo(it) : () => false;
    return best.flatMap((one) => (!isIt(one) && isLike(one) ? one.faults : []));
  }

  /** Whether the second has a place where the first is. */
  private canBeBoth([first, { kind, place }]: readonly Fault[]): boolean {
    if (kind === first.kind && place === first.place) return false;
    return faultKind(kind).places(withFault(this.sound.bench, first)).includes(place);
  }

  /** Whether the first, or a sound ladder, explains the readings within what they may be off. */
  private isExplained(best: readonly Suspect[]): boolean {
    const count = this.readings.length;
    return this.isSound(best) || best.slice(0, 1).some(({ chiSquared }) => isWithin(chiSquared, count));
  }

  private isSound([first]: readonly Suspect[]): boolean {
    const { chiSquared, weight } = this.soundSuspect;
    return isWithin(chiSquared, this.readings.length) && (!first || weight >= first.weight);
  }

  /** How many of the first the engine is to run. */
  forEngine(best: readonly Suspect[]): number {
    if (this.isSound(best)) return 0;
    const near = best.filter(({ weight }) => weight > best[0].weight - FAR_FOR_ENGINE);
    return Math.min(near.length, BY_ENGINE.most, Math.ceil(BY_ENGINE.readings / this.readings.length));
  }

  /** A share of the first so many of them, as the engine has them; in their order. */
  *byEngine(best: readonly Suspect[], share: Share): Generator<number, Suspect[]> {
    const mine = shareOf(best.slice(0, this.forEngine(best)), share);
    const run: Suspect[] = [];
    for (const suspect of mine) {
      run.push(yield* finished(this.judge.byEngine(suspect)));
      yield run.length / mine.length;
    }
    return run;
  }

  /**
   * What comes of it.
   *
   * @param isLast whether nothing more will be known: only then is the next reading looked for
   */
  *concluded(found: readonly Suspect[], isLast: boolean): Generator<number, Suspects> {
    const best = inOrder(found);
    const { judge, soundSuspect } = this;
    const isSound = this.isSound(best);
    const isLikeSound = judge.alikeTo(soundSuspect);
    const hidden = best.flatMap((one) => (one.faults.length === 1 && isLikeSound(one) ? [one.faults[0]] : []));
    const shares = shared(isSound ? [soundSuspect, ...best] : best);
    const groups = isSound ? [] : this.grouped(shares).filter(([{ weight }], at) => at === 0 || weight >= LIGHT);
    const leading = (isSound ? shares : groups.flat()).slice(0, LEADING);
    const next = isLast ? yield* nextReadingOf(this.sound, this.readings, this.nuisance, leading, this.places) : null;
    return { isSound, soundChiSquared: soundSuspect.chiSquared, groups, hidden, next };
  }

  /** Each with what lies too near to be told from the weightiest of its group. */
  private grouped(suspects: readonly Suspect[]): Suspect[][] {
    const groups: { members: Suspect[]; isLike: (other: Suspect) => boolean }[] = [];
    for (const one of suspects) {
      const group = groups.find(({ isLike }) => isLike(one));
      if (group) group.members.push(one);
      else groups.push({ members: [one], isLike: this.judge.alikeTo(one) });
    }
    return groups.map(({ members }) => members);
  }
}

/** The whole search, one step after the other. */
export function* suspectsOf(search: FaultSearch): Generator<number, Suspects> {
  const all = yield* search.singles(WHOLE);
  const singles = yield* search.best(all);
  const doubles = yield* search.doubles(search.firsts(all, singles), WHOLE);
  const best = doubles.length > 0 ? yield* search.withPairs(singles, doubles) : singles;
  const run = yield* search.byEngine(best, WHOLE);
  return yield* search.concluded([...run, ...best.slice(run.length)], true);
}

const inOneOrder = (faults: readonly Fault[]): Fault[] =>
  faults.toSorted((one, other) => (keyOf([one]) < keyOf([other]) ? -1 : 1));

/** By their odds; what has the same stands in one order, whoever found it first. */
const inOrder = (suspects: readonly Suspect[]): Suspect[] =>
  suspects.toSorted((one, other) => other.weight - one.weight || (keyOf(one.faults) < keyOf(other.faults) ? -1 : 1));

/** Suspects of which some were refined, in the order of their odds. */
export function withRefined(ranked: readonly Suspect[], refined: readonly Suspect[]): Suspect[] {
  const own = new Map(refined.map((one) => [keyOf(one.faults), one]));
  return inOrder(ranked.map((one) => own.get(keyOf(one.faults)) ?? one));
}

/** Weights, which are logarithms of odds until here, as shares of one. */
export function shared(suspects: readonly Suspect[]): Suspect[] {
  const most = Math.max(...suspects.map(({ weight }) => weight));
  const odds = suspects.map(({ weight }) => Math.exp(weight - most));
  const sum = odds.reduce((total, one) => total + one, 0);
  return inOrder(suspects.map((one, at) => ({ ...one, weight: odds[at] / sum })));
}
