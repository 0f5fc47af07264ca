import { cholesky, solveCholesky } from '../../numeric/cholesky';
import type { Meter } from '../../drive/meter-sense';
import type { Fault, TestBench } from './fault';
import { degreeAt, faultKind, fractionOf, singleFaults, withFault } from './faults';
import { finished } from '../proving';
import { bareOf, shownAt, shownByEngine, type Probing, type SoundBench } from './read-through';

/** A reading of a session: at a tap, or of the source itself; as the meter showed it, V. */
export type FaultReading = { volts: number } & (({ kind: 'tap' } & Probing) | { kind: 'source'; meter: Meter });

/** How far things may be off that are no fault, as fractions: the drive, a diode's drop, a capacitor. */
export type Nuisance = { drive: number; forward: number; farads: number };

/** A fault, or none, as readings speak of it. */
type Suspect = {
  /** Null for a sound ladder. */
  fault: Fault | null;
  /** What each reading would be, V. */
  shown: number[];
  /** Sum of squares of what is left, in standard deviations of meter and nuisance. */
  chiSquared: number;
  /** Share of all suspects, 0..1. */
  weight: number;
};

export type Suspects = {
  /** Whether a sound ladder explains the readings. */
  isSound: boolean;
  soundChiSquared: number;
  /** Faults that these readings cannot tell apart stand together; groups by their weight, in each the weightiest first. */
  groups: Suspect[][];
  /** Faults that these readings would not show. */
  hidden: Fault[];
  /** The reading that tells the leading ones apart best; null where none does. */
  next: NextReading | null;
};

/** A reading to take: at a node, at once or after the meter was held there. */
export type NextReading = {
  node: string;
  heldSeconds: number | null;
  /** What it would be with the weightiest of the leading groups, V. */
  shown: { fault: Fault; volts: number }[];
};

/** Odds of a sound ladder against any one fault before any reading: chosen here. */
const SOUND_BEFORE = 15;
/** What a fault of some degree must gain beyond one that is there or not. */
const DEGREE_COST = 1;
/** A meter's last digit and what one reads off, as a fraction (common practice, no source). */
const DIGIT = 5e-4;
/** What a reading next to nothing may be off, of the drive's amplitude: pick-up, and what boards leak. */
const PICK_UP = 0.02;
/** How far off the charge balance may be of what a fault moves. */
const MODEL = 0.02;
/** Distance, squared, in standard deviations under which two are not told apart. */
const ALIKE = 9;
/** Suspects of which a degree is looked for, how far behind the first in the logarithm of odds, and those that the engine runs: so many readings in all. */
const REFINED = 30;
const FAR_BEHIND = 100;
const BY_ENGINE = { readings: 72, most: 10 };
const FAR_FOR_ENGINE = 25;
/** Steps in which a degree is looked for. */
const DEGREE_STEPS = 4;
/** Degrees evaluated between two that were computed. */
const BETWEEN = 8;
/** Leading suspects that a next reading is to tell apart. */
const LEADING = 12;
/** How much of the leading suspects' uncertainty a reading must take away to be worth its while. */
const WORTH = 0.02;
/** How long a probe is held where one watches a tap fall, s. */
const WATCHED_SECONDS = [60, 300];
/** A suspect so light does not count. */
const LIGHT = 1e-3;

/**
 * Which single fault explains the readings of a low test, by the charge balance through the meter, part tolerances and
 * the fitted unknowns as nuisance (Bayes' rule with even odds for every place and a normal law for what is off).
 *
 * @param places nodes at which a further reading can be taken
 * @yields how much of it is done, 0 to 1
 */
export function* suspectsOf(
  sound: SoundBench,
  readings: readonly FaultReading[],
  nuisance: Nuisance,
  places: readonly string[],
): Generator<number, Suspects> {
  const judge = new Judge(sound, readings, nuisance);
  const soundSuspect = judge.suspect(null)!;
  const all = singleFaults(sound.bench);
  const found: Suspect[] = [];
  for (const [done, fault] of all.entries()) {
    const suspect = judge.suspect(fault);
    if (suspect) found.push(suspect);
    if (done % 8 === 7) yield (0.5 * (done + 1)) / all.length;
  }
  const best = judge.bestDegrees(found).toSorted((one, other) => other.weight - one.weight);
  const near = best.filter(({ weight }) => weight > best[0].weight - FAR_BEHIND).slice(0, REFINED);
  for (const [at, suspect] of near.entries()) {
    best[at] = judge.refined(suspect);
    yield 0.5 + (0.1 * (at + 1)) / near.length;
  }
  best.sort((one, other) => other.weight - one.weight);
  const isSound = isWithin(soundSuspect.chiSquared, readings.length) && soundSuspect.weight >= best[0].weight;
  const closer = isSound
    ? []
    : best
        .filter(({ weight }) => weight > best[0].weight - FAR_FOR_ENGINE)
        .slice(0, Math.min(BY_ENGINE.most, Math.ceil(BY_ENGINE.readings / readings.length)));
  for (const [at, suspect] of closer.entries()) {
    best[at] = yield* finished(judge.byEngine(suspect));
    yield 0.6 + (0.3 * (at + 1)) / closer.length;
  }
  const hidden = best.flatMap((one) => (one.fault && judge.distance(soundSuspect, one) <= ALIKE ? [one.fault] : []));
  const shares = shared(isSound ? [soundSuspect, ...best] : best);
  const groups = isSound ? [] : grouped(shares, judge);
  const leading = (isSound ? shares : groups.flat()).slice(0, LEADING);
  const next = yield* nextReading(sound, readings, nuisance, leading, places);
  yield 1;
  return { isSound, soundChiSquared: soundSuspect.chiSquared, groups, hidden, next };
}

/** Weights, which are logarithms of odds until here, as shares of one. */
function shared(suspects: readonly Suspect[]): Suspect[] {
  const most = Math.max(...suspects.map(({ weight }) => weight));
  const odds = suspects.map(({ weight }) => Math.exp(weight - most));
  const sum = odds.reduce((total, one) => total + one, 0);
  return suspects
    .map((one, at) => ({ ...one, weight: odds[at] / sum }))
    .toSorted((one, other) => other.weight - one.weight);
}

/** Those that count, each with what lies too near to be told from the weightiest of its group. */
function grouped(suspects: readonly Suspect[], judge: Judge): Suspect[][] {
  const groups: Suspect[][] = [];
  for (const one of suspects) {
    const group = groups.find(([first]) => judge.distance(first, one) <= ALIKE);
    if (group) group.push(one);
    else if (one.weight >= LIGHT || groups.length === 0) groups.push([one]);
  }
  return groups;
}

/** How readily a fault is thought of before any reading, as a logarithm. */
function oddsOf({ kind }: Fault): number {
  const { degree, often = 1 } = faultKind(kind);
  return Math.log(often) - (degree ? DEGREE_COST : 0);
}

/** Whether so much may be left of so many readings by what they may be off. */
export const isWithin = (chiSquared: number, count: number): boolean => chiSquared <= mostOf(count);

/** The chi-square that so many readings stay under in 99 of 100 cases (Wilson and Hilferty, 1931; from memory). */
function mostOf(count: number): number {
  const ninth = 2 / (9 * Math.max(1, count));
  return Math.max(1, count) * (1 - ninth + 2.326 * Math.sqrt(ninth)) ** 3;
}

/** What readings say of faults. */
class Judge {
  private readonly soundShown: number[];
  private readonly dropShifts: number[];

  constructor(
    private readonly sound: SoundBench,
    private readonly readings: readonly FaultReading[],
    private readonly nuisance: Nuisance,
  ) {
    this.soundShown = this.shownWith(sound.bench) ?? readings.map(() => 0);
    const { circuit } = sound.bench;
    const more = circuit.diodes.map((one) => ({ ...one, forwardVolts: one.forwardVolts * (1 + nuisance.forward) }));
    const moreDrop = this.shownWith({ ...sound.bench, circuit: { ...circuit, diodes: more } }) ?? this.soundShown;
    this.dropShifts = moreDrop.map((volts, at) => volts - this.soundShown[at]);
  }

  private shownWith(bench: TestBench): number[] | null {
    const bare = bareOf(this.sound, bench);
    const shown = this.readings.map((reading) =>
      reading.kind === 'source' ? this.ofSource(bench) : shownAt(this.sound, bench, reading, bare),
    );
    return shown.includes(null) ? null : (shown as number[]);
  }

  private ofSource({ sourceTimes }: TestBench): number | null {
    return this.sound.sourceVolts === null ? null : this.sound.sourceVolts * sourceTimes;
  }

  /** A suspect as the engine has it; of one of some degree once more at that which does best by what the two differ by. */
  *byEngine(suspect: Suspect): Generator<unknown, Suspect> {
    const first = yield* this.run(suspect.fault!);
    if (!first) return suspect;
    if (!faultKind(suspect.fault!.kind).degree) return first;
    const offsets = first.shown.map((volts, at) => volts - suspect.shown[at]);
    const { fault } = this.refined({ ...first, fault: suspect.fault }, offsets);
    const again = yield* this.run(fault!);
    return again && again.weight > first.weight ? again : first;
  }

  private *run(fault: Fault): Generator<unknown, Suspect | null> {
    const bench = withFault(this.sound.bench, fault);
    const shown: number[] = [];
    for (const reading of this.readings) {
      const volts = reading.kind === 'source' ? this.ofSource(bench) : yield* shownByEngine(this.sound, bench, reading);
      if (volts === null) return null;
      shown.push(volts);
    }
    return this.weighed(fault, shown);
  }

  /** A fault with its chi-square; its weight is still the logarithm of its odds. */
  suspect(fault: Fault | null, offsets: readonly number[] | null = null): Suspect | null {
    const shown = fault ? this.shownWith(withFault(this.sound.bench, fault)) : this.soundShown;
    if (!shown) return null;
    return this.weighed(fault, offsets ? shown.map((volts, at) => volts + offsets[at]) : shown);
  }

  private weighed(fault: Fault | null, shown: number[]): Suspect {
    const factor = this.factorOf(shown);
    const away = Float64Array.from(this.readings, ({ volts }, at) => volts - shown[at]);
    const chiSquared = squareOf(factor, away);
    const spread = shown.reduce((sum, _, at) => sum + 2 * Math.log(factor[at * shown.length + at]), 0);
    const before = fault ? oddsOf(fault) : Math.log(SOUND_BEFORE);
    return { fault, shown, chiSquared, weight: before - (chiSquared + spread) / 2 };
  }

  /** Of each kind and place the degree that does best, between those that were tried along straight lines. */
  bestDegrees(found: readonly Suspect[]): Suspect[] {
    const tried = new Map<string, Suspect[]>();
    for (const one of found) {
      const key = `${one.fault!.kind} ${one.fault!.place}`;
      tried.set(key, [...(tried.get(key) ?? []), one]);
    }
    return [...tried.values()].map((levels) => (levels.length === 1 ? levels[0] : this.between(levels)));
  }

  private between(levels: readonly Suspect[]): Suspect {
    let best = levels[0];
    for (let at = 1; at <= (levels.length - 1) * BETWEEN; at += 1) {
      const lower = Math.min(levels.length - 2, Math.floor(at / BETWEEN));
      const share = at / BETWEEN - lower;
      const shown = levels[lower].shown.map((volts, one) => volts + share * (levels[lower + 1].shown[one] - volts));
      const fraction = at / BETWEEN / (levels.length - 1);
      const fault = { ...best.fault!, degree: degreeAt(faultKind(best.fault!.kind), fraction) };
      const one = this.weighed(fault, shown);
      if (one.weight > best.weight) best = one;
    }
    return best;
  }

  /** The same at the degree that does best, by halving around it. */
  refined(suspect: Suspect, offsets: readonly number[] | null = null): Suspect {
    const kind = suspect.fault && faultKind(suspect.fault.kind);
    if (!kind?.degree) return suspect;
    let best = this.suspect(suspect.fault, offsets) ?? suspect;
    for (let [step, by] = [0, 1 / 24]; step < DEGREE_STEPS; step += 1, by /= 2) {
      const middle = fractionOf(kind, best.fault!.degree);
      for (const fraction of [middle - by, middle + by]) {
        if (fraction < 0 || fraction > 1) continue;
        const tried = this.suspect({ ...suspect.fault!, degree: degreeAt(kind, fraction) }, offsets);
        if (tried && tried.weight > best.weight) best = tried;
      }
    }
    return best;
  }

  /** How far two are apart by these readings, squared, in standard deviations of the first. */
  distance(one: Suspect, other: Suspect): number {
    return squareOf(
      this.factorOf(one.shown),
      Float64Array.from(one.shown, (volts, at) => volts - other.shown[at]),
    );
  }

  /** Cholesky's factor of what readings may be off where so much is shown, meter and nuisance together. */
  private factorOf(shown: readonly number[]): Float64Array {
    const count = shown.length;
    const { peakVolts } = this.sound;
    const matrix = new Float64Array(count * count);
    const drop = shown.map((volts, at) =>
      this.soundShown[at] === 0 ? 0 : this.dropShifts[at] * Math.min(1, Math.abs(volts / this.soundShown[at])),
    );
    for (let row = 0; row < count; row += 1) {
      for (let column = 0; column < count; column += 1)
        matrix[row * count + column] = this.nuisance.drive ** 2 * shown[row] * shown[column] + drop[row] * drop[column];
      const reading = this.readings[row];
      matrix[row * count + row] += varianceOf(reading, shown[row], {
        peakVolts,
        lost: reading.kind === 'tap' ? this.lostOf(row) : 0,
        moved: shown[row] - this.soundShown[row],
        farads: this.nuisance.farads,
      });
    }
    return cholesky(matrix, count)!;
  }

  /** Fraction of a tap that the meter takes where nothing is wrong. */
  private lostOf(row: number): number {
    const reading = this.readings[row];
    if (reading.kind !== 'tap') return 0;
    const { bench, balanced, corrections } = this.sound;
    const at = bench.circuit.place.get(reading.node);
    const bare = at === undefined ? 0 : Math.abs(balanced.means[at] * (corrections.get(reading.node) ?? 1));
    const shown = Math.abs(this.soundShown[row]) * reading.meter.probeRatio;
    return bare > 0 ? Math.max(0, 1 - shown / bare) : 0;
  }
}

/** What one reading may be off by itself, V²: the meter, its digit, pick-up, the capacitors in what the meter takes, and the model in what a fault moves. */
function varianceOf(
  { meter }: FaultReading,
  shown: number,
  { peakVolts, lost, moved, farads }: { peakVolts: number; lost: number; moved: number; farads: number },
): number {
  return (
    (shown * (meter.accuracy / Math.sqrt(3))) ** 2 +
    (shown * DIGIT) ** 2 +
    ((PICK_UP * peakVolts) / meter.probeRatio) ** 2 +
    (shown * lost * farads) ** 2 +
    (MODEL * moved) ** 2
  );
}

/** A difference in standard deviations, squared: b' inverse(L L') b. */
function squareOf(factor: Float64Array, away: Float64Array): number {
  const solved = solveCholesky(factor, away.length, away.slice());
  return away.reduce((sum, one, at) => sum + one * solved[at], 0);
}

/**
 * The reading that takes away most of what is open between the leading suspects (their overlap by Bhattacharyya's
 * bound), at a place where none of them, nor a sound ladder, puts more on the meter than it takes.
 */
function* nextReading(
  sound: SoundBench,
  readings: readonly FaultReading[],
  nuisance: Nuisance,
  leading: readonly Suspect[],
  places: readonly string[],
): Generator<number, NextReading | null> {
  const { meter } = sound.bench;
  const benches = leading.map(({ fault }) => (fault ? withFault(sound.bench, fault) : sound.bench));
  const bare = [sound.bench, ...benches].map((bench) => ({ bench, balanced: bareOf(sound, bench) }));
  const most = meter.limitVolts * meter.probeRatio;
  const isSafe = (node: string) =>
    bare.every(({ bench, balanced }) => {
      const at = bench.circuit.place.get(node);
      return (
        balanced !== null &&
        at !== undefined &&
        Math.abs(balanced.means[at]) * (sound.corrections.get(node) ?? 1) < most
      );
    });
  const read = new Set(readings.flatMap((one) => (one.kind === 'tap' ? [one.node] : [])));
  let best: { worth: number; reading: NextReading } | null = null;
  for (const node of places) {
    yield 0.95;
    if (!isSafe(node)) continue;
    // What settles at once is read before one waits for what falls.
    for (const heldSeconds of read.has(node) ? WATCHED_SECONDS : [null]) {
      const probing: Probing = { node, meter, sinceOnSeconds: null, heldSeconds };
      const shown = benches.map((bench, at) => shownAt(sound, bench, probing, bare[at + 1].balanced));
      if (shown.some((volts) => volts === null)) continue;
      const volts = shown as number[];
      const worth = informationOf(leading, volts, (one, other) => {
        const middle = Math.max(Math.abs(one), Math.abs(other));
        return (
          varianceOf({ kind: 'tap', volts: 0, ...probing }, middle, {
            peakVolts: sound.peakVolts,
            lost: 0,
            moved: 0,
            farads: 0,
          }) +
          (nuisance.drive * middle) ** 2
        );
      });
      if (worth < WORTH || (best && worth <= best.worth)) continue;
      const shows = leading.flatMap(({ fault }, at) => (fault ? [{ fault, volts: volts[at] }] : []));
      best = { worth, reading: { node, heldSeconds, shown: shows } };
    }
  }
  return best?.reading ?? null;
}

/** How much a reading tells between suspects of which it would show so many volts, 0..1. */
function informationOf(
  leading: readonly Suspect[],
  volts: readonly number[],
  varianceBetween: (one: number, other: number) => number,
): number {
  let sum = 0;
  const total = leading.reduce((all, { weight }) => all + weight, 0);
  for (let one = 0; one < leading.length; one += 1)
    for (let other = 0; other < one; other += 1) {
      const apart = (volts[one] - volts[other]) ** 2 / (8 * varianceBetween(volts[one], volts[other]));
      sum += (2 * leading[one].weight * leading[other].weight * (1 - Math.exp(-apart))) / total ** 2;
    }
  return sum;
}
