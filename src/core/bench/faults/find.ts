import type { Design } from '../../design/design-schema';
import type { Meter } from '../../drive/meter-sense';
import type { ProvingTest } from '../proving';
import type { LowSource } from '../low-source';
import { readingsByPlace, standing, type SessionReadings } from '../session';
import { isReading } from '../entries';
import type { Fault, TestBench } from './fault';
import { faultKind } from './faults';
import { KeptMeans } from './kept-means';
import { soundBenchOf } from './read-through';
import { isWithin, type FaultReading } from './judge';
import type { NextReading } from './next-reading';
import { nuisanceOf } from './nuisance';
import { FaultSearch, suspectsOf, type Suspects } from './suspects';

/** A fault with what is said of it. */
export type SaidFault = Fault & {
  why: string;
  confirm: string;
  besides: string;
  /** Whether it is in a part of the ladder, and so can be put into its picture. */
  isInPart: boolean;
};

/** A group of suspects that readings cannot tell apart: of each the faults that it is of, one or two. */
export type FoundGroup = { weight: number; suspects: SaidFault[][] };

export type FoundFaults = {
  isSound: boolean;
  /** Whether the first of the suspects, or a sound ladder, explains the readings within what they may be off. */
  isExplained: boolean;
  groups: FoundGroup[];
  hidden: Fault[];
  next: NextReading | null;
};
export type NoFaults = { why: 'too few' | 'no test' };

/** What a search is of: a low test, the session's meter, what it is to read where nothing is wrong, and what was read. */
export type FaultTask = {
  design: Design;
  source: LowSource;
  meter: Meter;
  test: ProvingTest;
  readings: readonly FaultReading[];
};

/** Groups that are told, and what a next reading is said to show at most. */
const MOST_GROUPS = 5;
const MOST_SHOWN = 4;

/** The search for which faults the readings of a low test speak of, and how what it finds is said. */
export type FaultFinding = { search: FaultSearch; kept: KeptMeans; said: (found: Suspects) => FoundFaults };

/** What is to be read where nothing is wrong is not known yet: a search can begin to compute all the same. */
export const NOT_PROVED: ProvingTest = { source: null, taps: [], findings: [] };

/** @param before an earlier one, of which is kept what is of the same ladder, source and meter */
export function findingOf(task: FaultTask, before: FaultFinding | null = null): FaultFinding | NoFaults {
  const { design, source, meter, test, readings } = task;
  if (!readings.some(({ kind }) => kind === 'tap')) return { why: 'too few' };
  const sound = soundBenchOf(design, source, meter, test);
  if (!sound) return { why: 'no test' };
  const known = readings.filter(
    (one) =>
      (one.kind === 'source' && sound.sourceVolts !== null) ||
      (one.kind === 'tap' && sound.bench.circuit.place.has(one.node)),
  );
  const kept = KeptMeans.for({ design, source, meter }, before?.kept);
  const places = test.taps.map(({ node }) => node);
  return {
    search: new FaultSearch(sound, known, nuisanceOf(task), places, kept),
    kept,
    said: (found) => foundOf(found, sound.bench, known.length),
  };
}

/** The whole of it, one step after the other. */
export function* faultsOf(task: FaultTask): Generator<number, FoundFaults | NoFaults> {
  const finding = findingOf(task);
  return 'why' in finding ? finding : finding.said(yield* suspectsOf(finding.search));
}

function foundOf(found: Suspects, bench: TestBench, readings: number): FoundFaults {
  const groups = found.groups.slice(0, MOST_GROUPS).map((group) => ({
    weight: group.reduce((sum, { weight }) => sum + weight, 0),
    suspects: group.map(({ faults }) => faults.map((fault) => saidOf(fault, bench))),
  }));
  const best = found.isSound ? found.soundChiSquared : (found.groups[0]?.[0]?.chiSquared ?? Infinity);
  return {
    isSound: found.isSound,
    isExplained: isWithin(best, readings),
    groups,
    hidden: found.hidden,
    next: found.next && { ...found.next, shown: found.next.shown.slice(0, MOST_SHOWN) },
  };
}

export function saidOf(fault: Fault, bench: TestBench): SaidFault {
  const kind = faultKind(fault.kind);
  const { capacitors, diodes } = bench.network;
  return {
    ...fault,
    why: kind.why(fault.place, bench),
    confirm: kind.confirm(fault.place),
    besides: kind.besides,
    isInPart: [...capacitors, ...diodes].some(({ id }) => id === fault.place),
  };
}

/** What a session has for the search: its source as read last, and every tap as it was read last, in its time. */
export function faultReadingsOf({ session, readings }: SessionReadings): FaultReading[] {
  const source = readingsByPlace(readings)('source', '');
  const taps = new Map(
    standing(readings).flatMap((one) =>
      isReading(one) && one.kind === 'tap' ? [[`${one.at} ${one.heldSeconds ?? ''}`, one] as const] : [],
    ),
  );
  return [
    ...(source ? [{ kind: 'source' as const, meter: session.meter, volts: source.value }] : []),
    ...[...taps.values()].map(({ at, value, meter, sinceOnSeconds, heldSeconds }) => ({
      kind: 'tap' as const,
      node: at,
      volts: value,
      meter: meter ?? session.meter,
      sinceOnSeconds,
      heldSeconds,
    })),
  ];
}
