import * as z from '../../zod';
import type { Fault, TestBench } from './fault';
import { formatQuantity } from '../../quantity/format-quantity';
import { withFaults } from './faults';
import { varianceOf, type FaultReading, type Suspect } from './judge';
import type { Nuisance } from './nuisance';
import { balanceOf, shownAt, type Probing, type SoundBench } from './read-through';

/** Where a further reading is taken: of the source itself, or at a node, at once or after the meter was held there. */
export const placeSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('source') }),
  z.strictObject({ kind: z.literal('tap'), node: z.string().max(40), heldSeconds: z.number().positive().nullable() }),
]);
export type Place = z.output<typeof placeSchema>;

/** One place as a word of its own: "source", "B2", "B2 300". */
export const placeKey = (place: Place): string =>
  place.kind === 'source' ? place.kind : `${place.node}${place.heldSeconds === null ? '' : ` ${place.heldSeconds}`}`;

/** The same as it is said. */
export const saidOfPlace = (place: Place): string =>
  place.kind === 'source'
    ? 'the source'
    : `${place.node}${place.heldSeconds === null ? '' : ` held for ${formatQuantity(place.heldSeconds, 's', 2)}`}`;

/** A reading to take. */
export type NextReading = Place & {
  /** What it would be with each of the suspects, V. */
  shown: { faults: readonly Fault[]; volts: number }[];
  /** How much of what is open between them it takes away, 0..1. */
  worth: number;
};

/** How much of the suspects' uncertainty a reading must take away to be worth its while. */
const WORTH = 0.02;
/** How long a probe is held where one watches a tap fall, s. */
const WATCHED_SECONDS = [60, 300];
/** Of the shorter of these, what the meter needs at least to take a ladder's charge away: what falls faster is read as it stands. */
const SLOW = 1 / 4;

/** How long a probe may be held on a ladder to see a tap fall, s: none where its capacitors hold nothing for so long. */
export function watchedSecondsOf({ circuit, meter }: TestBench): readonly number[] {
  const farads = circuit.capacitors.slice(0, circuit.ladderCapacitors).reduce((sum, one) => sum + one.farads, 0);
  return farads * meter.inputOhms > SLOW * WATCHED_SECONDS[0] ? WATCHED_SECONDS : [];
}

/** Leading suspects for which one waits. */
const WATCHED = 6;
/** A tap that a meter pulls down by less than this fraction is not worth watching: it stands where it was read. */
const FALLS = 0.02;

/**
 * The reading that takes away most of what is open between suspects (their overlap by Bhattacharyya's bound), at a place
 * where none of them, nor a sound ladder, puts more on the meter than it takes.
 *
 * @param readings taken already
 * @param suspects with their shares
 * @param places nodes at which a further reading can be taken
 */
export function* nextReadingOf(
  sound: SoundBench,
  readings: readonly FaultReading[],
  nuisance: Nuisance,
  suspects: readonly Suspect[],
  places: readonly string[],
): Generator<number, NextReading | null> {
  const { meter } = sound.bench;
  const standing = [sound.bench, ...suspects.map(({ faults }) => withFaults(sound.bench, faults))].map((bench) => {
    const balance = balanceOf(sound, bench);
    return { bench, balance, balanced: balance.balanced() };
  });
  const most = meter.limitVolts * meter.probeRatio;
  const bareAt = (node: string, { bench, balanced }: (typeof standing)[number]): number => {
    const at = bench.circuit.place.get(node);
    return balanced && at !== undefined ? Math.abs(balanced.means[at]) * (sound.corrections.get(node) ?? 1) : Infinity;
  };
  const shownAtPlace = (place: Place, count: number): number[] | null => {
    const shown = standing.slice(1, count + 1).map(({ bench, balance }) => {
      if (place.kind === 'source') return sound.sourceVolts === null ? null : sound.sourceVolts * bench.sourceTimes;
      const probing: Probing = { node: place.node, meter, sinceOnSeconds: null, heldSeconds: place.heldSeconds };
      return shownAt(sound, bench, probing, balance);
    });
    return shown.includes(null) ? null : (shown as number[]);
  };
  const worthOf = (volts: readonly number[]): number =>
    informationOf(suspects.slice(0, volts.length), volts, (one, other) => {
      const greater = Math.max(Math.abs(one), Math.abs(other));
      return (
        varianceOf({ meter }, greater, { peakVolts: sound.peakVolts, lost: 0, moved: 0, farads: 0 }) +
        (nuisance.drive * greater) ** 2
      );
    });
  const isRead = (node: string, heldSeconds: number | null) =>
    readings.some((one) => one.kind === 'tap' && one.node === node && one.heldSeconds === heldSeconds);
  const isSafe = (node: string) => standing.every((one) => bareAt(node, one) < most);
  const atOnce: Place[] = places.flatMap((node) =>
    isRead(node, null) ? [] : [{ kind: 'tap', node, heldSeconds: null }],
  );
  const sourcePeakVolts = Math.max(sound.bench.peaks.positive, sound.bench.peaks.negative);
  const isSourceRead = readings.some(({ kind }) => kind === 'source');
  const source: Place[] =
    isSourceRead || sound.sourceVolts === null || sourcePeakVolts >= most ? [] : [{ kind: 'source' }];
  let best: { place: Place; volts: number[]; worth: number } | null = null;
  for (const place of [...source, ...atOnce]) {
    yield 0;
    if (place.kind === 'tap' && !isSafe(place.node)) continue;
    const volts = shownAtPlace(place, suspects.length);
    const worth = volts ? worthOf(volts) : 0;
    if (volts && worth >= WORTH && (!best || worth > best.worth)) best = { place, volts, worth };
  }
  // What settles at once is read before one waits for what falls.
  for (const node of best ? [] : places) {
    yield 0;
    if (!isRead(node, null) || !isSafe(node)) continue;
    const settled = shownAtPlace({ kind: 'tap', node, heldSeconds: null }, WATCHED);
    const falls = settled?.some((volts, at) => {
      const bare = bareAt(node, standing[at + 1]);
      return Math.abs(volts) * meter.probeRatio < (1 - FALLS) * bare && bare > FALLS * sound.peakVolts;
    });
    for (const heldSeconds of falls ? watchedSecondsOf(sound.bench) : []) {
      if (isRead(node, heldSeconds)) continue;
      const place: Place = { kind: 'tap', node, heldSeconds };
      const volts = shownAtPlace(place, WATCHED);
      const worth = volts ? worthOf(volts) : 0;
      if (volts && worth >= WORTH && (!best || worth > best.worth)) best = { place, volts, worth };
    }
  }
  if (!best) return null;
  const { place, volts, worth } = best;
  const shown = suspects
    .slice(0, volts.length)
    .flatMap(({ faults }, at) => (faults.length > 0 ? [{ faults, volts: volts[at] }] : []));
  return { ...place, shown, worth };
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
