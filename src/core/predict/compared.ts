import type { Design } from '../design/design-schema';
import type { Prediction } from './prediction';
import { FIGURES, shownFigure, type FigureId } from './figures';
import { predict, WITHOUT_OPTIMUM } from './predict';

/** What two designs are compared by, in the order of the chain. */
const COMPARED: readonly FigureId[] = [
  'supplyAmps',
  'supplyWatts',
  'secondaryPeakVolts',
  'noLoadVolts',
  'noLoadPeakVolts',
  'outputMeanVolts',
  'outputRmsVolts',
  'droopVolts',
  'droopFraction',
  'rippleVolts',
  'rippleFraction',
  'outputAmps',
  'outputWatts',
  'inputWatts',
  'efficiency',
  'storedJoules',
  'terminalCoulombs',
  'mostBodyAmps',
  'bleedSeconds',
  'smallestMargin',
];

/** From so many times on a change is no help beside the two figures. */
const MOST_CHANGE = 10;

/** One figure of two designs; null where one has none. */
export type ComparedFigure = {
  id: FigureId;
  label: string;
  unit: (typeof FIGURES)[FigureId]['unit'];
  one: number | null;
  other: number | null;
  /** Change from the one to the other, as a fraction of the one's magnitude; null where there is none to tell: nothing to be a fraction of, another polarity, or many times as much. */
  change: number | null;
};

/** Parts of a ladder, one kind: how many, and each one's value and rating. */
type PartsOfKind = { kind: 'capacitor' | 'diode'; count: number; farads: number | null; ratedVolts: number | null };

/** Every figure that either of two designs has, as it is shown. */
export function comparedFigures(one: Prediction, other: Prediction): ComparedFigure[] {
  return COMPARED.flatMap((id) => {
    const [a, b] = [one, other].map((prediction) => shownFigure(id, prediction));
    if (a === null && b === null) return [];
    const { label, unit } = FIGURES[id];
    const change = a === null || b === null || a * b <= 0 ? null : (b - a) / Math.abs(a);
    return [
      { id, label, unit, one: a, other: b, change: change !== null && Math.abs(change) < MOST_CHANGE ? change : null },
    ];
  });
}

/** What a ladder is made of. */
export function partsOf({ ladder }: Design, { capacitors, diodes }: Prediction): PartsOfKind[] {
  const { capacitor, diode } = ladder;
  const places = capacitors.reduce((sum, { count }) => sum + count, 0);
  return [
    {
      kind: 'capacitor',
      count: places * capacitor.series * capacitor.parallel,
      // Listed or graded, they are not of one value.
      farads: capacitors.every(({ farads }) => farads === capacitors[0].farads) ? capacitor.farads : null,
      ratedVolts: capacitor.ratedVolts,
    },
    { kind: 'diode', count: diodes.length * diode.series, farads: null, ratedVolts: diode.peakInverseVolts },
  ];
}

/** A design as it is compared. */
export const comparedWith = (design: Design): Prediction => predict(design, WITHOUT_OPTIMUM);
