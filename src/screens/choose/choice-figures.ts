import type { ChoiceRow } from '@/core/choose/row';
import type { Unit } from '@/core/quantity/units';

/** A figure that choices are compared by: how it is called, read and shown. */
export type ChoiceFigure = {
  id: string;
  name: string;
  unit: Unit;
  /** Whether more of it is better. */
  more: boolean;
  of: (row: ChoiceRow) => number | null;
};

/** In the order of the table; the chart offers all of them for its axes. */
export const CHOICE_FIGURES = [
  { id: 'output', name: 'Output, mean', unit: 'V', more: true, of: (row) => row.meanVolts },
  { id: 'ripple', name: 'Ripple, p-p', unit: '%', more: false, of: (row) => row.rippleFraction },
  { id: 'parts', name: 'Parts', unit: '', more: false, of: (row) => row.parts },
  { id: 'price', name: 'Price', unit: '', more: false, of: (row) => row.price },
  { id: 'energy', name: 'Energy', unit: 'J', more: false, of: (row) => row.joules },
  {
    id: 'size',
    name: 'Size, cm³',
    unit: '',
    more: false,
    of: (row) => (row.cubicMetres === null ? null : row.cubicMetres * 1e6),
  },
  { id: 'efficiency', name: 'Efficiency', unit: '%', more: true, of: (row) => row.efficiency },
  { id: 'margin', name: 'Margin', unit: '%', more: true, of: (row) => row.margin },
] as const satisfies readonly ChoiceFigure[];

export type FigureId = (typeof CHOICE_FIGURES)[number]['id'];

export const figureOf = (id: FigureId): ChoiceFigure => CHOICE_FIGURES.find((figure) => figure.id === id)!;
