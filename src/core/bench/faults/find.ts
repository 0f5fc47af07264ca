import type { Design } from '../../design/design-schema';
import type { Meter } from '../../drive/meter-sense';
import type { ProvingTest } from '../proving';
import type { LowSource } from '../low-source';
import { readingsByPlace, standing, type SessionReadings } from '../session';
import { isReading } from '../entries';
import type { Fault } from './fault';
import { faultKind } from './faults';
import { soundBenchOf } from './read-through';
import { isWithin, suspectsOf, type FaultReading, type NextReading, type Nuisance } from './suspects';

/** A fault with what is said of it. */
type SaidFault = Fault & { why: string; confirm: string; besides: string };

export type FoundFaults = {
  isSound: boolean;
  /** Whether the first of the suspects, or a sound ladder, explains the readings within what they may be off. */
  isExplained: boolean;
  groups: { weight: number; faults: SaidFault[] }[];
  hidden: Fault[];
  next: NextReading | null;
};
export type NoFaults = { why: 'too few' | 'no test' };

/** Groups that are told, and what a next reading is said to show at most. */
const MOST_GROUPS = 5;
const MOST_SHOWN = 4;

/**
 * Which single fault the readings of a low test speak of.
 *
 * @param meter the session's
 * @param test what it is to read where nothing is wrong
 * @yields how much of it is done, 0 to 1
 */
export function* faultsOf(
  design: Design,
  source: LowSource,
  meter: Meter,
  test: ProvingTest,
  readings: readonly FaultReading[],
): Generator<number, FoundFaults | NoFaults> {
  if (!readings.some(({ kind }) => kind === 'tap')) return { why: 'too few' };
  const sound = soundBenchOf(design, source, meter, test);
  if (!sound) return { why: 'no test' };
  const known = readings.filter(
    (one) =>
      (one.kind === 'source' && sound.sourceVolts !== null) ||
      (one.kind === 'tap' && sound.bench.circuit.place.has(one.node)),
  );
  const found = yield* suspectsOf(
    sound,
    known,
    nuisanceOf(design, source, meter),
    test.taps.map(({ node }) => node),
  );
  const groups = found.groups.slice(0, MOST_GROUPS).map((group) => ({
    weight: group.reduce((sum, { weight }) => sum + weight, 0),
    faults: group.map(({ fault }) => {
      const kind = faultKind(fault!.kind);
      const place = fault!.place;
      return { ...fault!, why: kind.why(place, sound.bench), confirm: kind.confirm(place), besides: kind.besides };
    }),
  }));
  const best = found.isSound ? found.soundChiSquared : (found.groups[0]?.[0]?.chiSquared ?? Infinity);
  return {
    isSound: found.isSound,
    isExplained: isWithin(best, known.length),
    groups,
    hidden: found.hidden,
    next: found.next && { ...found.next, shown: found.next.shown.slice(0, MOST_SHOWN) },
  };
}

/** What is no fault: a winding was measured, the design's own drive is as its spread says; tolerances taken as even within their limits (a / √3, JCGM 100:2008 4.3.7, from memory). */
const nuisanceOf = ({ spread, ladder }: Design, source: LowSource, { accuracy }: Meter): Nuisance => ({
  drive: (source.kind === 'winding' ? accuracy : spread.peaks) / Math.sqrt(3),
  forward: spread.forward / Math.sqrt(3),
  farads: ladder.capacitor.tolerance / Math.sqrt(3),
});

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
