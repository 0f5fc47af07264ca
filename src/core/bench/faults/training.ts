import { seeded } from '../../numeric/chance';
import { finish } from '../../numeric/finish';
import { finished } from '../proving';
import type { Fault, TestBench } from './fault';
import { degreeAt, FAULT_KINDS, withFaults } from './faults';
import { saidOf, type FaultTask, type SaidFault } from './find';
import type { FaultReading } from './judge';
import { KeptMeans } from './kept-means';
import { nextReadingOf, placeKey, watchedSecondsOf, type Place } from './next-reading';
import { nuisanceOf, type Nuisance } from './nuisance';
import { shownByEngine, soundBenchOf, type SoundBench } from './read-through';
import { FaultSearch, shared, WHOLE, type Left } from './suspects';

/** A ladder to find faults in: at its low test, with one meter. */
export type TrainingLadder = Omit<FaultTask, 'readings'>;

/** A reading taken where it tells most, and what was left after it. */
export type BestStep = { place: Place; volts: number; left: Left };

/** How an answer stands to what is there. */
export type Verdict = {
  /** As it is; or a fault that no reading that can be taken tells from it. */
  isRight: boolean;
  /** What is there, with what is said of it; null where nothing is wrong. */
  hidden: SaidFault | null;
  /** Others that no reading tells from it. */
  alike: Fault[];
};

/** Of so many rounds one has nothing wrong: chosen here. */
const SOUND_EVERY = 12;
/** How much more often a kind of fault is sampled that can be at several parts, beside one of the whole ladder, its supply or its meter: chosen here. */
const OF_PARTS = 2;
/** How far a fault of some degree goes, of its range: not so little that it is hardly one. */
const DEGREES = { least: 0.4, most: 0.9 };
/** How often a fault is sampled until one is that readings can show. */
const SAMPLES = 60;
/** Readings of the best sequence at most. */
const MOST_STEPS = 6;
/** Digits that a display shows. */
const DIGITS = 4;

const tellsMore = (after: Left, before: Left): boolean =>
  after.faults < before.faults || (before.isSoundLeft && !after.isSoundLeft);

/** A ladder in which there is a fault, or none, sampled by a seed: what a meter shows of it, and how an answer stands to it. */
export class Training {
  private readonly sound: SoundBench;
  private readonly nuisance: Nuisance;
  private readonly nodes: string[];
  private readonly hidden: Fault | null;
  /** Those that no reading tells from what is there; null until that is looked for. */
  private alike: Fault[] | null = null;
  private readonly kept = KeptMeans.for(null);
  private readonly read = new Map<string, FaultReading | null>();
  /** Each capacitor off by chance within its tolerance. */
  private readonly own: TestBench;

  /**
   * @param seed a whole number; the same one gives the same fault
   * @returns null for a drive that cannot be turned down, or what does not rectify
   */
  static of(ladder: TrainingLadder, seed: number): Training | null {
    const sound = soundBenchOf(ladder.design, ladder.source, ladder.meter, ladder.test);
    return sound && new Training(ladder, sound, seed);
  }

  private constructor(
    ladder: TrainingLadder,
    sound: SoundBench,
    private readonly seed: number,
  ) {
    const { design, test } = ladder;
    this.sound = sound;
    this.nuisance = nuisanceOf(ladder);
    this.nodes = test.taps.flatMap(({ node, isOverMeter }) => (isOverMeter ? [] : [node]));
    const random = seeded(seed);
    const { circuit } = sound.bench;
    const { tolerance } = design.ladder.capacitor;
    const capacitors = circuit.capacitors.map((one, at) =>
      at < circuit.ladderCapacitors ? { ...one, farads: one.farads * (1 + tolerance * (2 * random() - 1)) } : one,
    );
    this.own = { ...sound.bench, circuit: { ...circuit, capacitors } };
    this.hidden = this.sampled(random);
  }

  /** Where it can be read: the source, and each tap at once or after the probe was held there. */
  places(): Place[] {
    const taps = (heldSeconds: number | null) => this.nodes.map((node): Place => ({ kind: 'tap', node, heldSeconds }));
    return [
      ...(this.sound.sourceVolts === null ? [] : [{ kind: 'source' as const }]),
      ...taps(null),
      ...watchedSecondsOf(this.sound.bench).flatMap(taps),
    ];
  }

  private sampled(random: () => number): Fault | null {
    if (random() * SOUND_EVERY < 1) return null;
    const { bench } = this.sound;
    const possible = FAULT_KINDS.flatMap((kind) => {
      const places = kind.places(bench);
      const times = places.length > 1 ? OF_PARTS : 1;
      return places.length > 0 ? Array.from({ length: times }, () => ({ kind, places })) : [];
    });
    const everything = this.searchWith(this.places().map((place) => this.readingAs(place, 0)));
    for (let sample = 0; sample < SAMPLES; sample += 1) {
      const { kind, places } = possible[Math.floor(random() * possible.length)];
      const place = places[Math.floor(random() * places.length)];
      const degree = degreeAt(kind, DEGREES.least + (DEGREES.most - DEGREES.least) * random());
      const fault = { kind: kind.id, place, degree };
      if (everything.shows(fault) && this.isFair(fault)) return fault;
    }
    return null;
  }

  private readingAs(place: Place, volts: number): FaultReading {
    const { meter } = this.sound.bench;
    if (place.kind === 'source') return { kind: 'source', meter, volts };
    return { kind: 'tap', node: place.node, meter, sinceOnSeconds: null, heldSeconds: place.heldSeconds, volts };
  }

  private searchWith(readings: readonly FaultReading[]): FaultSearch {
    return new FaultSearch(this.sound, readings, this.nuisance, this.nodes, this.kept);
  }

  /** Whether the engine has of a fault what the search would have of it: else none could find it. */
  private isFair(fault: Fault): boolean {
    const readings = this.places().flatMap((place) => finish(this.readingWith(fault, place)) ?? []);
    return this.searchWith(readings).explains(fault);
  }

  /** What the meter shows at a place, off by what it may be off; the same each time. */
  *reading(place: Place): Generator<unknown, FaultReading | null> {
    const key = placeKey(place);
    const known = this.read.get(key);
    if (known !== undefined) return known;
    const reading = yield* this.readingWith(this.hidden, place);
    this.read.set(key, reading);
    return reading;
  }

  private *readingWith(fault: Fault | null, place: Place): Generator<unknown, FaultReading | null> {
    if (!this.places().some((one) => placeKey(one) === placeKey(place))) return null;
    const bench = withFaults(this.own, fault ? [fault] : []);
    const { meter } = this.sound.bench;
    const probing = this.readingAs(place, 0);
    // The sampled capacitors are another ladder than that which the corrections are of.
    const exact = { ...this.sound, corrections: new Map<string, number>() };
    const volts =
      probing.kind === 'source'
        ? this.sound.sourceVolts! * bench.sourceTimes
        : yield* shownByEngine(exact, bench, probing);
    if (volts === null) return null;
    // A meter is off by the same at the same place, however often it is put on.
    const at = place.kind === 'source' ? -1 : this.nodes.indexOf(place.node);
    const off = 1 + meter.accuracy * (2 * seeded(this.seed + 7919 * (at + 2))() - 1);
    return this.readingAs(place, Number((volts * off).toPrecision(DIGITS)));
  }

  *left(readings: readonly FaultReading[]): Generator<number, Left> {
    const search = this.searchWith(readings);
    const all = yield* search.singles(WHOLE);
    return search.left(yield* search.best(all));
  }

  /** The readings that tell most, one after the other, until they tell or nothing more does. */
  *best(): Generator<number, BestStep[]> {
    const steps: BestStep[] = [];
    const readings: FaultReading[] = [];
    for (let step = 0; step < MOST_STEPS; step += 1) {
      const next = yield* this.nextAfter(readings);
      const reading = next && (yield* finished(this.reading(next)));
      if (!reading) break;
      readings.push(reading);
      steps.push({ place: next, volts: reading.volts, left: yield* this.left(readings) });
    }
    return steps.slice(0, steps.findLastIndex(({ left }, at) => at === 0 || tellsMore(left, steps[at - 1].left)) + 1);
  }

  private *nextAfter(readings: readonly FaultReading[]): Generator<number, Place | null> {
    const search = this.searchWith(readings);
    const all = yield* search.singles(WHOLE);
    // Before any reading every degree of every fault is as likely.
    if (readings.length === 0)
      return yield* nextReadingOf(this.sound, readings, this.nuisance, shared(all), this.nodes);
    const { next } = yield* search.concluded(yield* search.best(all), true);
    return next;
  }

  /** How an answer stands to what is there; null for one that says that nothing is wrong. */
  *verdict(answer: Pick<Fault, 'kind' | 'place'> | null): Generator<number, Verdict> {
    const { hidden } = this;
    this.alike ??= yield* this.alikeToHidden();
    const isOne = (one: Pick<Fault, 'kind' | 'place'> | null) =>
      answer === null || one === null ? answer === one : one.kind === answer.kind && one.place === answer.place;
    return {
      isRight: isOne(hidden) || this.alike.some(isOne),
      hidden: hidden && saidOf(hidden, this.sound.bench),
      alike: this.alike,
    };
  }

  /** Those that no reading tells from what is there. */
  private *alikeToHidden(): Generator<number, Fault[]> {
    const { hidden } = this;
    if (!hidden) return [];
    const readings: FaultReading[] = [];
    for (const place of this.places()) {
      const reading = yield* finished(this.reading(place));
      if (reading) readings.push(reading);
    }
    const search = this.searchWith(readings);
    const best = yield* search.best(yield* search.singles(WHOLE));
    return search.alikeTo(best, hidden);
  }
}
