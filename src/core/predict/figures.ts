import { BODY_OHMS } from '../output/contact';
import { DRIVE_FIGURES, type DriveFigureId } from '../drive/figures';
import { signedVolts } from '../quantity/polarity';
import type { Unit } from '../quantity/units';
import type { Prediction } from './prediction';

/** A figure of a design at its working point. */
export type Figure = {
  /** What it is called, with the form of voltage or current that it is. */
  label: string;
  unit: Unit;
  /** SI base units, '%' a fraction; null where there is no figure. Voltages are magnitudes, with the output's polarity beside them. */
  read: (prediction: Prediction) => number | null;
  /** Whether it is a potential of the output, shown with the sign of its polarity; differences of it are not. */
  polar?: true;
};

/** Figures of ladder, output, input and energy. */
const LADDER_FIGURES = {
  idealNoLoadVolts: { label: 'No load, ideal', unit: 'V', polar: true, read: ({ output }) => output.idealNoLoadVolts },
  lostToDiodesVolts: { label: 'Lost to diode drops', unit: 'V', read: ({ output }) => output.lostToDiodesVolts },
  lostToStraysVolts: { label: 'Lost to strays', unit: 'V', read: ({ output }) => output.lostToStraysVolts },
  noLoadVolts: { label: 'No load', unit: 'V', polar: true, read: ({ output }) => output.noLoadVolts },
  outputMeanVolts: { label: 'Output, mean', unit: 'V', polar: true, read: ({ output }) => output.meanVolts },
  droopVolts: { label: 'Droop', unit: 'V', read: ({ output }) => output.droopVolts },
  droopFraction: { label: 'Droop, share of no load', unit: '%', read: ({ output }) => output.droopFraction },
  droopByCapacitorsVolts: {
    label: 'Droop by the capacitors',
    unit: 'V',
    read: ({ output }) => output.droopByCapacitorsVolts,
  },
  droopBySourceVolts: { label: 'Droop by the source', unit: 'V', read: ({ output }) => output.droopBySourceVolts },
  droopBySmoothingVolts: {
    label: 'Droop by the smoothing',
    unit: 'V',
    read: ({ output }) => output.droopBySmoothingVolts,
  },
  droopBySeriesResistorVolts: {
    label: 'Droop by the series resistor',
    unit: 'V',
    read: ({ output }) => output.droopBySeriesResistorVolts,
  },
  droopByDriveVolts: {
    label: 'Droop by the drive running out',
    unit: 'V',
    read: ({ output }) => output.droopByDriveVolts,
  },
  rippleVolts: { label: 'Ripple, peak to peak', unit: 'V', read: ({ output }) => output.ripplePeakToPeakVolts },
  rippleFraction: { label: 'Ripple, p-p', unit: '%', read: ({ output }) => output.ripplePeakToPeakFraction },
  noLoadPeakVolts: {
    label: 'No load, peak',
    unit: 'V',
    read: ({ output }) => output.noLoadPeakVolts,
  },
  noLoadRmsVolts: {
    label: 'No load, RMS',
    unit: 'V',
    read: ({ output }) => output.alternating?.noLoadRmsVolts ?? null,
  },
  outputRmsVolts: { label: 'Output, RMS', unit: 'V', read: ({ output }) => output.alternating?.rmsVolts ?? null },
  outputPeakVolts: {
    label: 'Output, peak',
    unit: 'V',
    polar: true,
    read: ({ output }) => (output.alternating ? output.alternating.peakVolts : output.maxVolts),
  },
  outputValleyVolts: {
    label: 'Output, valley of ripple',
    unit: 'V',
    polar: true,
    read: ({ output }) => output.minVolts,
  },
  outputRmsAmps: { label: 'Load current, RMS', unit: 'A', read: ({ output }) => output.alternating?.rmsAmps ?? null },
  outputAmps: { label: 'Load current', unit: 'A', read: ({ output }) => output.amps },
  outputWatts: { label: 'Output power', unit: 'W', read: ({ output }) => output.alternating?.watts ?? output.watts },
  inputWatts: { label: 'Power in', unit: 'W', read: ({ input }) => input.watts },
  inputRmsAmps: { label: 'Source, RMS', unit: 'A', read: ({ input }) => input.amps },
  efficiency: { label: 'Efficiency', unit: '%', read: ({ input }) => input.efficiency },
  optimumStages: { label: 'Best stage count', unit: '', read: ({ optimumStages }) => optimumStages },
  storedJoules: { label: 'Stored energy', unit: 'J', read: ({ energy }) => energy.joules },
  terminalCoulombs: { label: 'Charge at the terminal', unit: 'C', read: ({ energy }) => energy.terminalCoulombs },
  leastBodyAmps: {
    label: `Into a body of ${BODY_OHMS[1]} Ω, at first`,
    unit: 'A',
    read: ({ contact }) => contact.leastBodyAmps,
  },
  mostBodyAmps: {
    label: `Into a body of ${BODY_OHMS[0]} Ω, at first`,
    unit: 'A',
    read: ({ contact }) => contact.mostBodyAmps,
  },
  bodyJoules: { label: 'Of the stored energy into it, at most', unit: 'J', read: ({ contact }) => contact.bodyJoules },
  frontAmps: {
    label: 'First, from what stands in front',
    unit: 'A',
    read: ({ contact }) => contact.front?.amps ?? null,
  },
  frontSeconds: { label: 'It lasts at most', unit: 's', read: ({ contact }) => contact.front?.seconds ?? null },
  frontJoules: { label: 'Its energy', unit: 'J', read: ({ contact }) => contact.front?.joules ?? null },
  frontCoulombs: { label: 'Its charge', unit: 'C', read: ({ contact }) => contact.front?.coulombs ?? null },
  shortAmps: { label: 'Into a short, at first', unit: 'A', read: ({ contact }) => contact.shortAmps },
  bleedSeconds: { label: 'Bleeds to 60 V in', unit: 's', read: ({ energy }) => energy.bleedSeconds },
  smallestMargin: { label: 'Smallest margin', unit: '%', read: ({ smallestMargin }) => smallestMargin },
} as const satisfies Record<string, Figure>;

type LadderFigureId = keyof typeof LADDER_FIGURES;

/** Every figure that a design has by its id, whatever link of the chain it belongs to. */
export type FigureId = LadderFigureId | DriveFigureId;

const driveFigure = (id: DriveFigureId): Figure => ({
  label: DRIVE_FIGURES[id].label,
  unit: DRIVE_FIGURES[id].unit,
  read: ({ source }) => source.figures[id] ?? null,
});

/** The catalogue: how each figure is called, in which unit it is, and how it is read from a prediction. */
export const FIGURES: Readonly<Record<FigureId, Figure>> = {
  ...(Object.fromEntries((Object.keys(DRIVE_FIGURES) as DriveFigureId[]).map((id) => [id, driveFigure(id)])) as Record<
    DriveFigureId,
    Figure
  >),
  ...LADDER_FIGURES,
};

/**
 * A figure as it is shown: a potential with the sign of the output's polarity.
 *
 * @param value of it, where not the prediction's own
 */
export function shownFigure(id: FigureId, prediction: Prediction, value = FIGURES[id].read(prediction)): number | null {
  return value !== null && FIGURES[id].polar && !prediction.output.alternating
    ? signedVolts(value, prediction.output.polarity)
    : value;
}
