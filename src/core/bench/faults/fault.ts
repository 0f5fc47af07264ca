import type { Meter } from '../../drive/meter-sense';
import type { LadderNetwork } from '../../topology/network';
import type { Circuit } from '../../transient/circuit';

/** A ladder at its low test as it is put together and as it is read: what a fault changes. */
export type TestBench = {
  network: LadderNetwork;
  circuit: Circuit;
  /** Of the drive, V. */
  peaks: { positive: number; negative: number };
  meter: Meter;
  /** What the meter shows of what it should, and the most that it shows at all, V. */
  shows: { times: number; atMostVolts: number };
  /** What it shows of the source itself, of what it should. */
  sourceTimes: number;
};

/** How far a fault goes where that is a matter of degree: least and most, and what lies between in the same steps. */
type Degree = { least: number; most: number; unit: 'Ω' | '%'; isLogarithmic: boolean };

/** One kind of fault: what it does, where it can be, how it is said and confirmed. */
export type FaultKind = {
  id: string;
  /** "D3 open", "the ladder’s ground is missing". */
  said: (place: string) => string;
  /** Where it can be; one empty place for what is nowhere in particular. */
  places: (bench: TestBench) => readonly string[];
  /** Null where it is there or not. */
  degree: Degree | null;
  /** Its odds beside the others before any reading, where they are not the same: chosen here, by what is said to be common in the trade. */
  often?: number;
  /** @param degree of its range; 0 where it has none */
  apply: (bench: TestBench, place: string, degree: number) => TestBench;
  /** Why readings look as they do. */
  why: (place: string, bench: TestBench) => string;
  /** How to be sure of it, the ladder made dead first. */
  confirm: (place: string) => string;
  /** What it has probably killed besides, and what it would do at full drive. */
  besides: string;
  /** What shows it where taps do not. */
  shownBy: string;
};

/** A fault at its place, of a degree. */
export type Fault = { kind: string; place: string; degree: number };
