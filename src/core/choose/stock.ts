import type { Design } from '../design/design-schema';
import { likelyKind, usualDiode } from '../parts/diode-kinds';
import { amplitudeVolts } from '../drive/drive';
import { unloadedContext } from '../drive/drive-result';
import { makeDrive } from '../drive/driver-kinds';
import type { Part } from '../parts/part-schema';
import { stockOf } from '../drawer/parts-used';
import type { Drawer } from '../drawer/drawer-messages';
import { preferredValues } from '../quantity/preferred-values';
import { formatQuantity } from '../quantity/format-quantity';
import { atHighest } from '../quantity/margin';
import type { Requirements } from './requirements';

export type CapacitorPart = Extract<Part, { kind: 'capacitor' }>;
export type DiodePart = Extract<Part, { kind: 'diode' }>;

/** What the search needs of a drawer. */
type Contents = Pick<Drawer, 'parts' | 'uses'>;

/** A part and how many of it may be taken. */
type Stock<P extends Part> = { part: P; free: number };

/** What a ladder may be built from. */
export type Stocks = {
  capacitors: Stock<CapacitorPart>[];
  diodes: Stock<DiodePart>[];
  /** Parts that no search can use, since their rating is not known. */
  unrated: string[];
};

/**
 * Capacitors and diodes of the drawer with what other designs leave of them.
 *
 * @param forDesign whose own parts count as free
 */
function stocksOf({ parts, uses }: Contents, forDesign: string | null): Stocks {
  const others = uses.filter((use) => use.designId !== forDesign);
  const free = (part: Part) => Math.max(0, stockOf(part, others).free);
  const capacitors = parts.filter((part) => part.kind === 'capacitor');
  return {
    capacitors: capacitors.filter((part) => part.ratedVolts !== null).map((part) => ({ part, free: free(part) })),
    diodes: parts.filter((part) => part.kind === 'diode').map((part) => ({ part, free: free(part) })),
    unrated: capacitors.filter((part) => part.ratedVolts === null).map((part) => part.name),
  };
}

/** What a ladder may be built from: the drawer, or values as they are sold. */
export function stocksFor(
  requirements: Requirements,
  base: Design,
  drawer: Contents,
  forDesign: string | null,
): Stocks {
  if (requirements.parts !== 'any') return stocksOf(drawer, forDesign);
  const { drive } = makeDrive(base, { ...unloadedContext(0), driveOnly: true });
  // Twice the peak stands across every place but the first.
  return anyStocks(
    2 * amplitudeVolts(drive) * atHighest(base.spread),
    requirements.target.amps,
    requirements.leastMargin,
  );
}

/** Voltages that high-voltage capacitors and diode sticks are commonly sold for (common practice, no source). */
const USUAL_RATINGS = [250, 400, 630, 1e3, 1.6e3, 2e3, 3e3, 4e3, 6e3, 8e3, 10e3, 12e3, 15e3, 20e3, 30e3, 40e3];
/** A diode for any driver there is recovers in (common practice, no source), s. */
const FAST_SECONDS = 100e-9;

/**
 * Values as they are sold, E6 from 22 pF to 2.2 uF at the smallest usual rating
 * that carries the stress, and a fast diode likewise; nothing is known of their
 * price. Ratings and drops are common practice, no source.
 *
 * @param stressVolts across one capacitor or diode
 * @param amps that the load takes on average
 */
export function anyStocks(stressVolts: number, amps: number, leastMargin: number): Stocks {
  // A tenth above, since strings and strays shift the stress a little.
  const wanted = 1.1 * stressVolts * (1 + leastMargin);
  const ratedVolts = USUAL_RATINGS.find((rating) => rating >= wanted) ?? USUAL_RATINGS[USUAL_RATINGS.length - 1];
  const averageAmps = [5e-3, 20e-3, 0.1, 1].find((rating) => rating >= 2 * amps) ?? 3;
  const diode = { peakInverseVolts: ratedVolts, averageAmps, recoverySeconds: FAST_SECONDS };
  const { forwardVolts, forwardAmps, junctionFarads, junctionVolts } = usualDiode(likelyKind(diode), ratedVolts);
  const common = { count: 0, price: null, note: '' };
  const id = (at: number) => `00000000-0000-4000-8000-${String(at).padStart(12, '0')}`;
  return {
    capacitors: preferredValues(6, 22e-12, 2.2e-6).map((farads, at) => ({
      free: Infinity,
      part: {
        ...common,
        kind: 'capacitor',
        id: id(at + 1),
        name: `${formatQuantity(farads, 'F')} ${formatQuantity(ratedVolts, 'V')}`,
        farads,
        ratedVolts,
        ratedAcVolts: null,
        ratedRmsAmps: null,
        dielectric: 'class-2-ceramic',
        tolerance: 0.1,
        lossTangent: null,
        dcBiasDerating: null,
        leakageAmps: 0,
        lengthMetres: null,
        diameterMetres: null,
      },
    })),
    diodes: [
      {
        free: Infinity,
        part: {
          ...common,
          kind: 'diode',
          id: id(0),
          name: `Fast ${formatQuantity(ratedVolts, 'V')} ${formatQuantity(averageAmps, 'A')}`,
          ...diode,
          surgeAmps: null,
          forwardVolts,
          forwardAmps,
          junctionFarads,
          junctionVolts,
          leakageAmps: 0,
          leakageCelsius: 25,
        },
      },
    ],
    unrated: [],
  };
}
