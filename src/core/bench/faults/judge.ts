import { cholesky, solveCholesky } from '../../numeric/cholesky';
import type { ChargeBalance } from './charge-balance';
import type { Meter } from '../../drive/meter-sense';
import type { Fault, TestBench } from './fault';
import { benchesOff, type Nuisance } from './nuisance';
import { degreeAt, faultKind, fractionOf, withFaults } from './faults';
import type { KeptMeans } from './kept-means';
import { balanceOf, shownByEngine, shownFrom, standsAt, type Probing, type SoundBench } from './read-through';

/** A reading of a session: at a tap, or of the source itself; as the meter showed it, V. */
export type FaultReading = { volts: number } & (({ kind: 'tap' } & Probing) | { kind: 'source'; meter: Meter });

/** Faults that are there together, or none, as readings speak of them. */
export type Suspect = {
  /** One after the other as they are put in; none for a sound ladder. */
  faults: readonly Fault[];
  /** What each reading would be, V. */
  shown: number[];
  /** Sum of squares of what is left, in standard deviations of meter and nuisance. */
  chiSquared: number;
  /** The logarithm of its odds; at the end its share of all suspects, 0..1. */
  weight: number;
};

/** Odds of a sound ladder against any one fault before any reading, and of one fault against any two: chosen here. */
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
/** Steps in which a degree is looked for. */
const DEGREE_STEPS = 4;
/** Degrees evaluated between two that were computed. */
const BETWEEN = 8;

/** How readily faults are thought of together before any reading, beside a sound ladder, as a logarithm. */
const oddsOf = (faults: readonly Fault[]): number =>
  faults.reduce((sum, { kind }) => {
    const { degree, often = 1 } = faultKind(kind);
    return sum + Math.log(often / SOUND_BEFORE) - (degree ? DEGREE_COST : 0);
  }, 0);

/** Whether so much may be left of so many readings by what they may be off. */
export const isWithin = (chiSquared: number, count: number): boolean => chiSquared <= mostOf(count);

/** The chi-square that so many readings stay under in 99 of 100 cases (Wilson and Hilferty, 1931; from memory). */
function mostOf(count: number): number {
  const ninth = 2 / (9 * Math.max(1, count));
  return Math.max(1, count) * (1 - ninth + 2.326 * Math.sqrt(ninth)) ** 3;
}

/** Of how many readings, from the first on, and whether all may be off by the same factor, whatever it is. */
type Counted = { count: number; isScaled: boolean };

const dot = (one: Float64Array, other: ArrayLike<number>): number =>
  one.reduce((sum, value, at) => sum + value * other[at], 0);

/** What readings say of faults. */
export class Judge {
  private readonly soundShown: number[];
  /** What each thing that is off where nothing is wrong does to each reading, V. */
  private readonly shifts: number[][];

  constructor(
    private readonly sound: SoundBench,
    private readonly readings: readonly FaultReading[],
    private readonly nuisance: Nuisance,
    private readonly kept: KeptMeans,
  ) {
    this.soundShown = this.shownWith(sound.bench, '') ?? readings.map(() => 0);
    this.shifts = benchesOff(sound.bench, nuisance).map((bench, at) => {
      const shown = this.shownWith(bench, `off ${at}`) ?? this.soundShown;
      return shown.map((volts, at) => volts - this.soundShown[at]);
    });
  }

  /** @param word of what is wrong in the bench, its own */
  private shownWith(bench: TestBench, word: string): number[] | null {
    let balance: ChargeBalance | null = null;
    const shown = this.readings.map((reading) => {
      if (reading.kind === 'source') return this.ofSource(bench);
      const volts = this.kept.at(word, reading, () => {
        balance ??= balanceOf(this.sound, bench);
        return standsAt(this.sound, bench, reading, balance);
      });
      return shownFrom(this.sound, bench, reading, volts);
    });
    return shown.includes(null) ? null : (shown as number[]);
  }

  private ofSource({ sourceTimes }: TestBench): number | null {
    return this.sound.sourceVolts === null ? null : this.sound.sourceVolts * sourceTimes;
  }

  /** A suspect as the engine has it; of one of some degree once more at that which does best by what the two differ by. */
  *byEngine(suspect: Suspect): Generator<unknown, Suspect> {
    const first = yield* this.run(suspect.faults);
    if (!first) return suspect;
    if (!suspect.faults.some(({ kind }) => faultKind(kind).degree)) return first;
    const offsets = first.shown.map((volts, at) => volts - suspect.shown[at]);
    const again = yield* this.run(this.refined(first, offsets).faults);
    return again && again.weight > first.weight ? again : first;
  }

  private *run(faults: readonly Fault[]): Generator<unknown, Suspect | null> {
    const bench = withFaults(this.sound.bench, faults);
    const shown: number[] = [];
    for (const reading of this.readings) {
      const volts = reading.kind === 'source' ? this.ofSource(bench) : yield* shownByEngine(this.sound, bench, reading);
      if (volts === null) return null;
      shown.push(volts);
    }
    return this.weighed(faults, shown);
  }

  readonly soundSuspect = (): Suspect => this.weighed([], this.soundShown);

  /**
   * Faults as the readings speak of them.
   *
   * @param offsets of what each reading would be, V, where something is known of them
   * @returns null where the charge balance has no solution
   */
  suspect(faults: readonly Fault[], offsets: readonly number[] | null = null): Suspect | null {
    const word = faults.map(({ kind, place, degree }) => `${kind} ${place} ${degree}`).join(', ');
    const shown = this.shownWith(withFaults(this.sound.bench, faults), word);
    if (!shown) return null;
    return this.weighed(faults, offsets ? shown.map((volts, at) => volts + offsets[at]) : shown);
  }

  private weighed(
    faults: readonly Fault[],
    shown: number[],
    { count, isScaled }: Counted = { count: shown.length, isScaled: false },
  ): Suspect {
    const factor = this.factorOf(shown, count);
    const away = Float64Array.from({ length: count }, (_, at) => this.readings[at].volts - shown[at]);
    let chiSquared = squareOf(factor, away);
    if (isScaled) {
      const by = solveCholesky(
        factor,
        count,
        Float64Array.from({ length: count }, (_, at) => shown[at]),
      );
      const [own, both] = [dot(by, shown), dot(by, away)];
      if (own > 0) chiSquared -= both ** 2 / own;
    }
    let spread = 0;
    for (let at = 0; at < count; at += 1) spread += 2 * Math.log(factor[at * count + at]);
    return { faults, shown, chiSquared, weight: oddsOf(faults) - (chiSquared + spread) / 2 };
  }

  /**
   * Of suspects that differ in the degree of their last fault alone the one that does best, between those that were
   * computed along straight lines.
   */
  bestDegrees(found: readonly Suspect[], counted?: Counted): Suspect[] {
    const alike = new Map<string, Suspect[]>();
    for (const one of found) {
      const key = keyOf(one.faults);
      alike.set(key, [...(alike.get(key) ?? []), one]);
    }
    return [...alike.values()].map((levels) => {
      const [first] = levels;
      const own = counted ? this.weighed(first.faults, first.shown, counted) : first;
      return levels.length === 1 ? own : this.between(levels, own, counted);
    });
  }

  private between(levels: readonly Suspect[], first: Suspect, counted?: Counted): Suspect {
    let best = first;
    for (let at = 1; at <= (levels.length - 1) * BETWEEN; at += 1) {
      const lower = Math.min(levels.length - 2, Math.floor(at / BETWEEN));
      const share = at / BETWEEN - lower;
      const shown = levels[lower].shown.map((volts, one) => volts + share * (levels[lower + 1].shown[one] - volts));
      const last = best.faults.at(-1)!;
      const degree = degreeAt(faultKind(last.kind), at / BETWEEN / (levels.length - 1));
      const one = this.weighed([...best.faults.slice(0, -1), { ...last, degree }], shown, counted);
      if (one.weight > best.weight) best = one;
    }
    return best;
  }

  /** The same at the degrees that do best, each by halving around it. */
  refined(suspect: Suspect, offsets: readonly number[] | null = null): Suspect {
    const withDegree = suspect.faults.flatMap(({ kind }, at) => (faultKind(kind).degree ? [at] : []));
    if (withDegree.length === 0) return suspect;
    let best = this.suspect(suspect.faults, offsets) ?? suspect;
    for (let [step, by] = [0, 1 / 24]; step < DEGREE_STEPS; step += 1, by /= 2) {
      for (const at of withDegree) {
        const kind = faultKind(best.faults[at].kind);
        const middle = fractionOf(kind, best.faults[at].degree);
        for (const fraction of [middle - by, middle + by]) {
          if (fraction < 0 || fraction > 1) continue;
          const faults = best.faults.with(at, { ...best.faults[at], degree: degreeAt(kind, fraction) });
          const other = this.suspect(faults, offsets);
          if (other && other.weight > best.weight) best = other;
        }
      }
    }
    return best;
  }

  /** Whether these readings cannot tell others from one. */
  alikeTo(one: Suspect): (other: Suspect) => boolean {
    const factor = this.factorOf(one.shown);
    return (other) =>
      squareOf(
        factor,
        Float64Array.from(one.shown, (volts, at) => volts - other.shown[at]),
      ) <= ALIKE;
  }

  /** Cholesky's factor of what readings may be off where so much is shown, meter and nuisance together. */
  private factorOf(shown: readonly number[], count = shown.length): Float64Array {
    const { peakVolts } = this.sound;
    const matrix = new Float64Array(count * count);
    // What is left of a reading is moved no more than in proportion.
    const left = Array.from({ length: count }, (_, at) =>
      this.soundShown[at] === 0 ? 0 : Math.min(1, Math.abs(shown[at] / this.soundShown[at])),
    );
    const moved = [
      Array.from({ length: count }, (_, at) => this.nuisance.drive * shown[at]),
      ...this.shifts.map((shift) => left.map((by, at) => by * shift[at])),
    ];
    for (let row = 0; row < count; row += 1) {
      for (let column = 0; column < count; column += 1)
        matrix[row * count + column] = moved.reduce((sum, by) => sum + by[row] * by[column], 0);
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

/** Which faults, whatever their degree. */
export const keyOf = (faults: readonly Fault[]): string =>
  faults.map(({ kind, place }) => `${kind} ${place}`).join(', ');

/** What one reading may be off by itself, V²: the meter, its digit, pick-up, the capacitors in what the meter takes, and the model in what a fault moves. */
export function varianceOf(
  { meter }: Pick<FaultReading, 'meter'>,
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
