import type { Design } from '../design/design-schema';
import { sourceRatings } from '../drive/driver-kinds';
import type { LoadedLadder } from '../ladder/loaded';
import { AMPS_PER_SQUARE_METRE, sectionOf } from '../magnetics/wire';
import type { StoredCharge } from '../output/discharge';
import { ladderParts, type LadderParts } from '../parts/bank';
import { isAlternating } from '../topology/network';
import { atHighest, marginOf } from '../quantity/margin';
import type { Condition, Margin, Rating, RatingId, Stress } from '../quantity/ratings';
import { MOST_RISE, ratedDiodeWatts } from './heat';
import type { DividerFigures } from '../output/divider';
import { shortedAmps } from '../output/contact';
import { limitingOhms } from '../output/elements';
import { surgeRating, switchOnAmps } from './surge';

/** A capacitor of the ladder as far as it is stressed; see the prediction's own. */
type StressedCapacitor = {
  id: string;
  workingVolts: number;
  margin: number | null;
  rmsAmps: number | null;
  temperatureRiseKelvin: number | null;
  ripplePeakToPeakVolts: number | null;
};

/** A diode of the ladder likewise. */
type StressedDiode = {
  id: string;
  reverseVolts: number;
  margin: number | null;
  averageAmps: number | null;
  watts: number | null;
};

/** What stresses are read from, beside the design. */
export type StressInput = {
  atFullDrive: LoadedLadder;
  capacitors: readonly StressedCapacitor[];
  diodes: readonly StressedDiode[];
  /** Highest at the output without load. */
  noLoadPeakVolts: number;
  /** RMS of the same, which is what heats. */
  noLoadRmsVolts: number;
  divider: DividerFigures | null;
  /** At the load, A. */
  loadAmps: number | null;
  /** RMS in the winding at the load, A. */
  windingAmps: number | null;
  stored: Pick<StoredCharge, 'joules' | 'terminalCoulombs'>;
  /** What supply, driver and transformer are asked. */
  source: readonly Stress[];
};

/**
 * Every part whose rating is known against its stress, weakest first: the join
 * of stresses and ratings by what is rated. Voltages are those without load, the
 * worst case, and of the ladder's parts also with the drive as high as its
 * spread; a shorted output puts all of it, and all that is stored, across the
 * series resistor; currents, powers and heating are those at the load, surges
 * upper bounds.
 */
export function marginsOf(design: Design, input: StressInput): Margin[] {
  const ratings = new Map<RatingId, Rating['rated']>(
    [...ladderRatings(design), ...outputRatings(design), ...sourceRatings(design), ...wireRatings(design)].map(
      ({ id, rated }) => [id, rated],
    ),
  );
  const stresses = [
    ...ladderStresses(design, input),
    ...outputStresses(design, input),
    ...input.source,
    ...(input.windingAmps === null ? [] : [stress('secondaryCurrent', 'loaded', input.windingAmps)]),
  ];
  return stresses.flatMap((one) => met(one, ratings.get(one.id) ?? null)).sort((a, b) => a.margin - b.margin);
}

/** A stress as the margin that a rating leaves it; nothing where either is not known. */
function met({ id, condition, value, part, seconds = 0, remedy }: Stress, rating: Rating['rated']): Margin[] {
  const rated = typeof rating === 'function' ? rating(seconds) : rating;
  const margin = marginOf(rated, value);
  return margin === null
    ? []
    : [{ id, condition, part, stress: value, rated: rated!, margin, ...(remedy ? { remedy } : {}) }];
}

const stress = (id: RatingId, condition: Condition, value: number, part: string | null = null): Stress => ({
  id,
  condition,
  value,
  part,
});

/** What capacitors and diodes are asked without load, with the drive at its highest, at the load, and for a moment. */
function ladderStresses({ spread, ladder, output }: Design, input: StressInput): Stress[] {
  const { capacitors, diodes, atFullDrive, noLoadPeakVolts, stored } = input;
  if (isAlternating(atFullDrive.network)) return [];
  const { currentShare, series }: LadderParts['capacitor'] = ladderParts(ladder).capacitor;
  const capacitor = weakest(capacitors);
  const diode = weakest(diodes);
  const high = atHighest(spread);
  const cases: [Condition, number][] = [
    ['noLoad', 1],
    ...(high > 1 ? [['driveHigh', high] as [Condition, number]] : []),
  ];
  /** The hardest pressed part in one respect, where that is known. */
  const most = <T extends { id: string }>(
    parts: readonly T[],
    id: RatingId,
    times: number,
    read: (part: T) => number | null,
  ): Stress[] => {
    const known = parts.flatMap((part) => {
      const value = read(part);
      return value === null ? [] : [{ part, value }];
    });
    if (known.length === 0) return [];
    const { part, value } = known.reduce((a, b) => (b.value > a.value ? b : a));
    return [stress(id, 'loaded', times * value, part.id)];
  };
  const shorted = shortedAmps(noLoadPeakVolts, limitingOhms(output));
  const switchedOn = switchOnAmps(atFullDrive, ladder.diode.onOhms * ladder.diode.series);
  const halfPeriod = 1 / (2 * atFullDrive.drive.frequencyHertz);
  return [
    ...cases.flatMap(([condition, times]) => [
      stress('capacitorVoltage', condition, times * capacitor.workingVolts, capacitor.id),
      stress('diodeReverseVoltage', condition, times * diode.reverseVolts, diode.id),
    ]),
    ...most(capacitors, 'capacitorCurrent', currentShare, ({ rmsAmps }) => rmsAmps),
    ...most(capacitors, 'capacitorTemperatureRise', 1, ({ temperatureRiseKelvin }) => temperatureRiseKelvin),
    // No waveform has more RMS than half its peak to peak.
    ...most(
      capacitors,
      'capacitorAlternatingVoltage',
      0.5 / series,
      ({ ripplePeakToPeakVolts }) => ripplePeakToPeakVolts,
    ),
    ...most(diodes, 'diodeAverageCurrent', 1, ({ averageAmps }) => averageAmps),
    ...most(diodes, 'diodeHeat', 1, ({ watts }) => watts),
    ...(switchedOn === null ? [] : [{ ...stress('diodeSurge', 'switchedOn', switchedOn), seconds: halfPeriod }]),
    // What a short draws at the terminal lasts about as long as its charge at the first current.
    ...(shorted === null
      ? []
      : [{ ...stress('diodeSurge', 'shortedOutput', shorted), seconds: stored.terminalCoulombs / shorted }]),
  ];
}

/** What the ladder's parts are rated for, strings and banks as wholes. */
function ladderRatings({ ladder }: Design): Rating[] {
  const { capacitor, diode } = ladder;
  const parts = ladderParts(ladder);
  const { surgeAmps } = diode;
  return [
    { id: 'capacitorVoltage', rated: parts.capacitor.ratedVolts },
    { id: 'capacitorAlternatingVoltage', rated: capacitor.ratedAcVolts },
    { id: 'capacitorCurrent', rated: capacitor.ratedRmsAmps },
    { id: 'capacitorTemperatureRise', rated: MOST_RISE },
    { id: 'diodeReverseVoltage', rated: parts.diode.peakInverseVolts },
    { id: 'diodeAverageCurrent', rated: diode.averageAmps },
    { id: 'diodeHeat', rated: ratedDiodeWatts(diode) },
    { id: 'diodeSurge', rated: surgeAmps === null ? null : (seconds) => surgeRating(surgeAmps, seconds) },
  ];
}

/** What the output's resistors take, each of a string. */
function outputStresses({ output, resistors }: Design, input: StressInput): Stress[] {
  const { noLoadPeakVolts, noLoadRmsVolts, loadAmps, stored } = input;
  const { seriesOhms, bleederOhms } = output;
  const stresses: Stress[] = [];
  if (output.smoothing.length > 0) stresses.push(stress('smoothingVoltage', 'noLoad', noLoadPeakVolts));
  if (seriesOhms > 0) {
    const { count } = resistors.series;
    if (loadAmps !== null) stresses.push(stress('seriesPower', 'loaded', (loadAmps ** 2 * seriesOhms) / count));
    stresses.push(stress('seriesVoltage', 'shortedOutput', noLoadPeakVolts / count));
    stresses.push(stress('seriesPulse', 'shortedOutput', stored.joules / count));
  }
  if (bleederOhms !== null) {
    const { count } = resistors.bleeder;
    stresses.push(stress('bleederPower', 'noLoad', noLoadRmsVolts ** 2 / bleederOhms / count));
    stresses.push(stress('bleederVoltage', 'noLoad', noLoadPeakVolts / count));
  }
  if (input.divider) {
    const { voltsEach, wattsEach, mostShownVolts } = input.divider;
    stresses.push(stress('dividerVoltage', 'noLoad', voltsEach));
    stresses.push(stress('dividerPower', 'noLoad', wattsEach));
    stresses.push(stress('dividerMeter', 'noLoad', mostShownVolts));
  }
  return stresses;
}

const outputRatings = ({ output: { divider, smoothing }, resistors: { series, bleeder } }: Design): Rating[] => [
  { id: 'smoothingVoltage', rated: leastRated(smoothing) },
  { id: 'seriesPower', rated: series.watts },
  { id: 'seriesVoltage', rated: series.ratedVolts },
  { id: 'seriesPulse', rated: series.pulseJoules },
  { id: 'bleederPower', rated: bleeder.watts },
  { id: 'bleederVoltage', rated: bleeder.ratedVolts },
  { id: 'dividerVoltage', rated: divider && divider.topRatedVolts },
  { id: 'dividerPower', rated: divider && divider.topWatts },
  { id: 'dividerMeter', rated: divider && divider.meterVolts },
];

/** Of the smoothing capacitors all of which stand all of the output: the least that is known. */
function leastRated(smoothing: Design['output']['smoothing']): number | null {
  const known = smoothing.flatMap(({ ratedVolts }) => ratedVolts ?? []);
  return known.length > 0 ? Math.min(...known) : null;
}

/** What the copper of a wound transformer is commonly given, where its wire is known. */
function wireRatings({ transformer, winding }: Design): Rating[] {
  if (!transformer || !winding) return [];
  const carries = (wireMetres: number | null, strands: number) =>
    wireMetres === null ? null : AMPS_PER_SQUARE_METRE * strands * sectionOf(wireMetres);
  return [
    { id: 'primaryCurrent', rated: carries(winding.primary.wireMetres, winding.primary.strands) },
    { id: 'secondaryCurrent', rated: carries(winding.secondary.wireMetres, 1) },
  ];
}

const weakest = <T extends { margin: number | null }>(parts: readonly T[]) =>
  parts.reduce((a, b) => ((b.margin ?? Infinity) < (a.margin ?? Infinity) ? b : a));
