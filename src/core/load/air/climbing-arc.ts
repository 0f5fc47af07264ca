import { quantity } from '../../schema/fields';
import * as z from '../../zod';
import type { Air } from './air';
import { breakdownVolts, type Band, type OutOfRange } from './air-gap';

/** A band both of whose ends are known. */
type Whole = { least: number; likely: number; most: number };

/** Two rods that stand apart further and further, with an arc that climbs between them. */
export const climbingArcSchema = z.strictObject({
  rodMetres: quantity('m', '0.004', 'above zero').default(0.004),
  /** Where they are nearest, and at their upper ends. */
  startGapMetres: quantity('m', '0.006', 'above zero').default(0.006),
  topGapMetres: quantity('m', '0.08', 'above zero').default(0.08),
});
export type ClimbingArc = z.output<typeof climbingArcSchema>;

/** A point of what a supply gives: A, and V that are left there; means, or RMS of what alternates. */
export type SupplyPoint = { amps: number; volts: number };

/**
 * Carbon in air: V = a + b L + (c + d L) / I, in V, V/m, W and W/m (Hertha Ayrton,
 * The Electric Arc, 1902: 38.88 + 2.074 l + (11.66 + 10.54 l) / A, l in mm; from memory).
 */
const AYRTON = { a: 38.88, b: 2.074e3, c: 11.66, d: 10.54e3 };
/** Currents that it is asked for, A: she measured arcs of 4 A and more, and longer ones are counted on along its line. */
const AYRTON_AMPS = [2, 30] as const;
const AYRTON_FACTOR = 1.4;

/** Under which an arc goes out as it grows longer: sparks, one after another (common practice, no source). */
export const LEAST_ARC_AMPS = 5e-3;
/** What a thin arc takes for each metre at the least current, V/m (common practice, no source). */
const THIN_ARC_FIELD = 130e3;
const THIN_ARC_FACTOR = 2;
/** What its ends take, V: as a glow does in air (handbook, from memory). */
const GLOW_ENDS = 300;
/** Of its path over the gap, as it bows upwards (common practice, no source). */
const BOW = 1.5;

/** What an arc takes at a current: of its ends, V, and for each metre, V/m; how far off that may be either way, as a factor, and who says so. */
export type ArcLaw = { endsVolts: number; voltsPerMetre: number; factor: number; by: 'Ayrton' | 'practice' };

/**
 * The law of an arc in still air at a current. From 2 A by Ayrton's constants;
 * under that, where hers would have it take far too much, along a straight line in
 * logarithms from 130 V/mm at 5 mA to hers at 2 A, within a factor of two (common
 * practice, no source).
 *
 * @param amps mean, or RMS, A
 * @returns null where there is no law: under 5 mA and over 30 A
 */
export function arcLaw(amps: number): ArcLaw | null {
  const [least, most] = AYRTON_AMPS;
  if (amps < LEAST_ARC_AMPS || amps > most) return null;
  const fieldAt = (current: number) => AYRTON.b + AYRTON.d / current;
  if (amps >= least)
    return {
      endsVolts: AYRTON.a + AYRTON.c / amps,
      voltsPerMetre: fieldAt(amps),
      factor: AYRTON_FACTOR,
      by: 'Ayrton',
    };
  const slope = Math.log(THIN_ARC_FIELD / fieldAt(least)) / Math.log(least / LEAST_ARC_AMPS);
  return {
    endsVolts: GLOW_ENDS,
    voltsPerMetre: THIN_ARC_FIELD * (amps / LEAST_ARC_AMPS) ** -slope,
    factor: THIN_ARC_FACTOR,
    by: 'practice',
  };
}

/** The longest arc that a supply keeps. */
export type LongestArc = {
  /** Along its path, m. */
  metres: Whole;
  amps: number;
  volts: number;
  /** In the arc, W. */
  watts: number;
  by: ArcLaw['by'];
  /** Whether the points end there, so that with more current it may be longer. */
  atEnd: boolean;
};

/** Why there is none. */
export type NoArc =
  { why: 'unknown' } | { why: 'current'; mostAmps: number } | { why: 'law'; leastAmps: number } | { why: 'volts' };

/**
 * The longest arc that a supply keeps: at each point of what it gives, the length
 * that takes all of the voltage left there; the longest of them.
 *
 * @param line what the supply gives, in rising current; nothing where that is not known
 */
export function longestArc(line: readonly SupplyPoint[]): LongestArc | NoArc {
  const kept = line.flatMap((point, at) => {
    const law = arcLaw(point.amps);
    return law && point.volts > law.endsVolts
      ? [{ ...point, law, at, metres: (point.volts - law.endsVolts) / law.voltsPerMetre }]
      : [];
  });
  if (kept.length === 0) {
    const last = line.at(-1);
    if (!last) return { why: 'unknown' };
    if (last.amps < LEAST_ARC_AMPS) return { why: 'current', mostAmps: last.amps };
    const given = line.filter(({ amps }) => amps > 0);
    return given.every(({ amps }) => amps > AYRTON_AMPS[1])
      ? { why: 'law', leastAmps: given[0].amps }
      : { why: 'volts' };
  }
  const best = kept.reduce((one, other) => (other.metres > one.metres ? other : one));
  const { amps, volts, law, metres, at } = best;
  return {
    metres: { least: metres / law.factor, likely: metres, most: metres * law.factor },
    amps,
    volts,
    watts: amps * volts,
    by: law.by,
    atEnd: at === line.length - 1 && at > 0,
  };
}

/** How two rods take it: whether it starts, how far up it climbs. */
export type Climbing = {
  /** Peak at which it starts where the rods are nearest, or what lies outside the law. */
  startVolts: Band | OutOfRange;
  starts: Chance | null;
  /** Gap at which it goes out, m; null where nothing keeps it. */
  outMetres: Whole | null;
  /** Whether it gets to the rods' upper ends and stays there; null where these are no further apart than below, too. */
  stays: Chance | null;
  /** What is wrong with the gap at the top. */
  topFault: string | null;
};

/**
 * An arc between two rods: it starts where they are nearest, and climbs until
 * its path, half as long again as the gap, is the longest that the supply keeps.
 *
 * @param peakVolts of the output without load
 */
export function climbing(arc: ClimbingArc, peakVolts: number, longest: LongestArc | NoArc, air: Air): Climbing {
  const startVolts = breakdownVolts(
    { electrodes: 'rods', sphereMetres: 0.025, rodMetres: arc.rodMetres, gapMetres: arc.startGapMetres },
    air,
  );
  const outMetres =
    'why' in longest
      ? null
      : {
          least: longest.metres.least / BOW,
          likely: longest.metres.likely / BOW,
          most: longest.metres.most / BOW,
        };
  const topFault =
    arc.topGapMetres > arc.startGapMetres
      ? null
      : 'Must be more than where they are nearest: an arc climbs where rods part.';
  return {
    startVolts,
    starts: 'at' in startVolts ? null : reaches(peakVolts, startVolts.least!, startVolts.most!),
    outMetres,
    stays: topFault === null && outMetres ? reachedBy(outMetres, arc.topGapMetres) : null,
    topFault,
  };
}

type Chance = 'yes' | 'perhaps' | 'no';
const reaches = (value: number, least: number, most: number): Chance =>
  value >= most ? 'yes' : value >= least ? 'perhaps' : 'no';
const reachedBy = ({ least, most }: Whole, value: number): Chance =>
  least >= value ? 'yes' : most >= value ? 'perhaps' : 'no';
