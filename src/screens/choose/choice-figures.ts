import type { ChoiceRow } from '@/core/choose/row';
import { FIGURES, type FigureId } from '@/core/predict/figures';
import type { Unit } from '@/core/quantity/units';

/** A figure that choices are compared by: how it is called, read and shown. */
type ChoiceFigure = {
  label: string;
  unit: Unit;
  /** Whether more of it is better. */
  more: boolean;
  of: (row: ChoiceRow) => number | null;
};

/** A figure of the catalogue, read from a row. */
const figure = (id: FigureId, more: boolean, of: ChoiceFigure['of']): ChoiceFigure => ({
  label: FIGURES[id].label,
  unit: FIGURES[id].unit,
  more,
  of,
});

/** In the order of the table; the chart offers all of them for its axes. What only a thing to be built has stands here alone. */
export const CHOICE_FIGURES = {
  outputMeanVolts: figure('outputMeanVolts', true, (row) => row.meanVolts),
  rippleFraction: figure('rippleFraction', false, (row) => row.rippleFraction),
  parts: { label: 'Parts', unit: '', more: false, of: (row) => row.parts },
  price: { label: 'Price', unit: '', more: false, of: (row) => row.price },
  storedJoules: figure('storedJoules', false, (row) => row.joules),
  size: { label: 'Size of capacitors', unit: 'm³', more: false, of: (row) => row.cubicMetres },
  efficiency: figure('efficiency', true, (row) => row.efficiency),
  smallestMargin: figure('smallestMargin', true, (row) => row.margin),
} as const satisfies Record<string, ChoiceFigure>;

export type ChoiceFigureId = keyof typeof CHOICE_FIGURES;
export const CHOICE_FIGURE_IDS = Object.keys(CHOICE_FIGURES) as ChoiceFigureId[];
