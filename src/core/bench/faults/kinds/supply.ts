import { rectified, withoutWinding } from '../circuit-changes';
import type { FaultKind, TestBench } from '../fault';

const NOWHERE = [''] as const;
/** Of a source behind a branch of its own, which can come apart. */
const isFed = ({ circuit }: TestBench) => circuit.inductors.length > 0;

export const driveWeak: FaultKind = {
  id: 'drive-weak',
  said: () => 'the drive is weak: low, or a winding with a shorted turn',
  places: () => NOWHERE,
  degree: { least: 0.1, most: 0.9, unit: '%', isLogarithmic: false },
  apply: (bench, _, degree) => ({
    ...bench,
    peaks: { positive: degree * bench.peaks.positive, negative: degree * bench.peaks.negative },
    sourceTimes: degree * bench.sourceTimes,
  }),
  why: () => 'Every tap is low by the same fraction, and so is the source where it was read.',
  confirm: () => 'The source at low voltage without the ladder; then its winding’s resistance and ratio.',
  besides: 'A shorted turn heats, and the driver with it.',
  shownBy: 'the source itself',
};

export const oneHalfMissing: FaultKind = {
  id: 'one-polarity',
  said: () => 'the drive gives one polarity alone',
  places: () => NOWHERE,
  degree: null,
  apply: (bench) => ({
    ...bench,
    peaks: { positive: bench.peaks.positive, negative: 0 },
    sourceTimes: 0.5 * bench.sourceTimes,
  }),
  why: () => 'Each stage adds one peak of the drive instead of both: all taps are near half.',
  confirm: () => 'The winding at low voltage with an oscilloscope, or on the meter’s ac and dc ranges in turn.',
  besides: 'A core that is driven one way may saturate, and the driver’s other half may have failed.',
  shownBy: 'the source’s waveform: on a half-wave ladder it makes no difference which half is missing',
};

export const rectifierInside: FaultKind = {
  id: 'rectifier-inside',
  said: () => 'a rectifier inside the winding, or in its lead',
  places: (bench) => (isFed(bench) && bench.circuit.sources.count === 1 ? NOWHERE : []),
  degree: null,
  apply: (bench) => ({ ...bench, circuit: rectified(bench.circuit), sourceTimes: 0.5 * bench.sourceTimes }),
  why: () => 'The first capacitor charges once and nothing takes that charge back: after that nothing moves.',
  confirm: () => 'The winding’s resistance both ways with a meter that gives enough volts for a stick of diodes.',
  besides: 'Nothing; such a transformer drives a single rectifier, not a ladder.',
  shownBy: 'the winding’s resistance both ways',
};

export const windingOpen: FaultKind = {
  id: 'winding-open',
  said: () => 'the winding or its lead is open, or gives way under load',
  places: (bench) => (isFed(bench) ? NOWHERE : []),
  degree: null,
  apply: (bench) => ({ ...bench, circuit: withoutWinding(bench.circuit), sourceTimes: 0 }),
  why: () => 'No drive reaches the ladder: nothing stands at any tap.',
  confirm: () => 'The winding’s resistance with its leads, and both joints under a light pull.',
  besides: 'A break inside a winding arcs at full drive and burns through the next layers.',
  shownBy: 'the source at the ladder’s input',
};
