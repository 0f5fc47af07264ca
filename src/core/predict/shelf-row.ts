import type { Design } from '../design/design-schema';
import type { Polarity } from '../quantity/polarity';
import { FIGURES } from './figures';
import { predict, WITHOUT_OPTIMUM } from './predict';
import { reachedBy } from './reached';
import { voltsFor } from './target';

/** What the shelf tells of a design at a glance. */
export type ShelfRow = {
  name: string;
  polarity: Polarity;
  targetVolts: number | null;
  targetAmps: number | null;
  /** Whether nothing rectifies, so that the output has an RMS and no polarity. */
  alternating: boolean;
  /** Mean, or RMS of an output that alternates. */
  reachedVolts: number | null;
  targetMet: boolean | null;
  smallestMargin: number | null;
};

/** The row of one design, from the same prediction that its screen shows; volts, amperes, margin as a fraction. */
export function shelfRow(design: Design): ShelfRow {
  const prediction = predict(design, WITHOUT_OPTIMUM);
  return {
    name: design.name,
    polarity: prediction.output.polarity,
    targetVolts: design.target?.volts ?? null,
    targetAmps: design.target?.amps ?? null,
    alternating: prediction.output.alternating !== null,
    reachedVolts: voltsFor(design.target ?? { of: 'mean' }, reachedBy(prediction.output)),
    targetMet: prediction.target?.met ?? null,
    smallestMargin: FIGURES.smallestMargin.read(prediction),
  };
}
