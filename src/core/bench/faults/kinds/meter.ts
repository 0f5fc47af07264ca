import type { FaultKind } from '../fault';

const NOWHERE = [''] as const;

export const meterLoads: FaultKind = {
  id: 'meter-loads',
  said: () => 'the meter draws more than it is said to',
  places: () => NOWHERE,
  degree: { least: 0.01, most: 0.5, unit: '%', isLogarithmic: true },
  apply: (bench, _, degree) => ({
    ...bench,
    meter: { ...bench.meter, inputOhms: bench.meter.inputOhms * degree },
  }),
  why: () => 'The higher the tap, the more of it is missing: the ladder droops under the meter’s current.',
  confirm: () => 'The meter’s resistance on that range with a second meter, or the same tap through 10 MΩ in series.',
  besides: 'Nothing: the ladder is as it was.',
  shownBy: 'another meter',
};

export const meterAlternating: FaultKind = {
  id: 'meter-ac-range',
  said: () => 'the meter is on its ac range',
  places: () => NOWHERE,
  degree: null,
  apply: (bench) => ({ ...bench, shows: { ...bench.shows, times: 0 } }),
  why: () => 'A tap of a smoothing column is nearly all dc: on an ac range it reads next to nothing.',
  confirm: () => 'The range of the meter.',
  besides: 'Nothing.',
  shownBy: 'the meter’s own display',
};

/** By how much readings are off where a probe’s ratio is not what was taken for it. */
const rangeOff = (id: string, times: number, words: string): FaultKind => ({
  id,
  said: () => words,
  places: () => NOWHERE,
  degree: null,
  apply: (bench) => ({ ...bench, shows: { ...bench.shows, times: times * bench.shows.times } }),
  why: () => 'Every reading is off by the same factor of ten.',
  confirm: () => 'The switch of the probe and the meter’s setting, on a battery.',
  besides: 'Nothing.',
  shownBy: 'a battery whose voltage is known',
});

export const probeHigh = rangeOff('probe-not-dividing', 10, 'the probe divides by ten less than is counted');
export const probeLow = rangeOff('probe-dividing', 0.1, 'the probe divides by ten more than is counted');

/** What an average-responding meter still follows of what it is rated for (common practice, no source). */
const PAST_BAND = 0.3;

export const meterOverBand: FaultKind = {
  id: 'meter-over-band',
  said: () => 'the source is over the band of the meter: its reading is low, and the taps are not',
  places: () => NOWHERE,
  degree: null,
  apply: (bench) => ({ ...bench, sourceTimes: PAST_BAND * bench.sourceTimes }),
  why: () => 'The source reads low while every tap is right: the meter does not follow so fast a voltage.',
  confirm: () => 'The band of the meter’s ac range against the frequency of the drive.',
  besides: 'Nothing: believe the taps.',
  shownBy: 'a peak-reading probe at the source',
};

export const meterOverLimit: FaultKind = {
  id: 'meter-over-limit',
  said: () => 'the meter is at the end of its range',
  places: () => NOWHERE,
  degree: { least: 0.1, most: 0.95, unit: '%', isLogarithmic: false },
  apply: (bench, _, degree) => ({
    ...bench,
    shows: { ...bench.shows, atMostVolts: degree * bench.meter.limitVolts },
  }),
  why: () => 'High taps all read the same: the meter shows no more than that.',
  confirm: () => 'The next range of the meter.',
  besides: 'The meter’s input, where it was far over.',
  shownBy: 'another range',
};
