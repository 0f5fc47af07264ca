import type { Design } from '../design/design-schema';
import { sayQuantity } from '../quantity/format-quantity';
import { atHighest, CHOSEN_MARGIN } from '../quantity/margin';
import { seriesFor } from '../stress/strings';
import { mainValue } from '../parts/part-fields';
import { capacitorValues, diodeValues } from '../parts/part-values';
import type { Part, PartKind } from '../parts/part-schema';
import { partsUsed, stockOf, type PartUse } from './parts-used';
import { placedPrimary, placedTank, placedTransistor, type Placed, type Stresses } from './place-in-driver';

/** Where a design can take a part of the drawer. */
export type PartPlace =
  | 'capacitor'
  | 'diode'
  | 'series'
  | 'bleeder'
  | 'module'
  | 'mains'
  | 'transistor'
  | 'tank'
  | 'transformer'
  | 'core'
  | 'primary';

/** What each place is called, and what kind of part it takes. */
export const PLACES: Record<PartPlace, { name: string; kind: PartKind }> = {
  capacitor: { name: 'Capacitors', kind: 'capacitor' },
  diode: { name: 'Diodes', kind: 'diode' },
  series: { name: 'Series resistor', kind: 'resistor' },
  bleeder: { name: 'Bleeder', kind: 'resistor' },
  module: { name: 'Module', kind: 'module' },
  mains: { name: 'Transformer', kind: 'transformer' },
  transistor: { name: 'Transistors', kind: 'transistor' },
  tank: { name: 'Tank capacitors', kind: 'capacitor' },
  transformer: { name: 'Transformer', kind: 'transformer' },
  core: { name: 'Core', kind: 'core' },
  primary: { name: 'Primary wire', kind: 'wire' },
};

/** The part a design has in a place; null where its values were typed. */
export function partIdAt({ ladder, resistors, driver, transformer, winding }: Design, place: PartPlace): string | null {
  switch (place) {
    case 'capacitor':
    case 'diode':
      return ladder[place].partId;
    case 'series':
    case 'bleeder':
      return resistors[place].partId;
    case 'module':
    case 'mains':
      return 'partId' in driver ? driver.partId : null;
    case 'transistor':
      return 'transistorPartId' in driver ? driver.transistorPartId : null;
    case 'tank':
      return driver.kind === 'resonant-push-pull' ? driver.tankPartId : null;
    case 'primary':
      return winding?.primary.partId ?? null;
    case 'transformer':
      return transformer?.partId ?? null;
    case 'core':
      return transformer?.corePartId ?? null;
  }
}

const SAFETY = 1 + CHOSEN_MARGIN;
const MOST_RESISTORS = 100;
/** How many times another resistance than there is may be offered in its place. */
const MOST_AWAY = 5;

/**
 * A part put into a place of a design, as many in series as carry the stress.
 * What the drawer does not know of a part stays as the design has it.
 *
 * @returns null where the place cannot take it: another kind, no such place, or
 *   the one figure that matters is not known
 */
export function placed(design: Design, place: PartPlace, part: Part, stresses: Stresses): Placed | null {
  const { ladder, driver, transformer } = design;
  const high = atHighest(design.spread);
  switch (part.kind) {
    case 'capacitor': {
      if (place === 'tank') return placedTank(design, part, stresses);
      if (place !== 'capacitor') return null;
      const across = high * Math.max(...stresses.capacitors.map((one) => one.workingVolts));
      const series = seriesFor('capacitor', part, across);
      const capacitor = { ...capacitorValues(part), series: series ?? 1, parallel: 1, partId: part.id };
      return {
        count: series ?? 1,
        words: stringWords(series),
        design: { ...design, ladder: { ...ladder, capacitorFarads: null, capacitor } },
      };
    }
    case 'diode': {
      if (place !== 'diode') return null;
      const across = high * Math.max(...stresses.diodes.map((one) => one.reverseVolts));
      const series = seriesFor('diode', { ratedVolts: part.peakInverseVolts, tolerance: 0 }, across);
      const diode = { ...ladder.diode, ...diodeValues(part), series: series ?? 1, partId: part.id };
      return { count: series ?? 1, words: stringWords(series), design: { ...design, ladder: { ...ladder, diode } } };
    }
    case 'resistor':
      return place === 'series' || place === 'bleeder' ? placedResistor(design, place, part, stresses.output) : null;
    case 'transistor':
      return place === 'transistor' ? placedTransistor(design, part, stresses) : null;
    case 'wire':
      return place === 'primary' ? placedPrimary(design, part, stresses) : null;
    case 'module': {
      if (place !== 'module' || driver.kind !== 'module') return null;
      const { openVolts, maxAmps, maxWatts, id } = part;
      const frequencyHertz = part.frequencyHertz ?? driver.frequencyHertz;
      return one({ ...design, driver: { ...driver, openVolts, frequencyHertz, maxAmps, maxWatts, partId: id } });
    }
    case 'transformer': {
      const secondaryOhms = (of: { secondaryOhms: number }) => part.secondaryOhms ?? of.secondaryOhms;
      if (place === 'mains' && driver.kind === 'mains' && part.secondaryVolts !== null) {
        const { secondaryVolts, shortAmps, id } = part;
        const known = { secondaryVolts, shortAmps, secondaryOhms: secondaryOhms(driver) };
        return one({ ...design, driver: { ...driver, ...known, partId: id } });
      }
      if (place !== 'transformer' || !transformer || part.ratio === null) return null;
      const known = {
        secondaryTurns: Number((transformer.primaryTurns * part.ratio).toPrecision(12)),
        primaryHenries: part.primaryHenries ?? transformer.primaryHenries,
        secondaryOhms: secondaryOhms(transformer),
        rectifierInside: part.rectifierInside,
      };
      return one({ ...design, transformer: { ...transformer, ...known, partId: part.id } });
    }
    case 'core': {
      if (place !== 'core' || !transformer) return null;
      const { squareMetres, saturationTesla, id } = part;
      const known = { coreSquareMetres: squareMetres, saturationTesla, corePartId: id };
      return one({ ...design, transformer: { ...transformer, ...known } });
    }
    default:
      return null;
  }
}

const one = (design: Design): Placed => ({ count: 1, words: '', design });

const stringWords = (series: number | null) =>
  series === null ? '' : series === 1 ? 'one carries it' : `${series} in series carry it`;

/**
 * As many resistors in series as come nearest the resistance there is, and carry
 * voltage and power with margin; null where not even a hundred do, or where they
 * come to quite another resistance.
 */
function placedResistor(
  design: Design,
  place: 'series' | 'bleeder',
  part: Extract<Part, { kind: 'resistor' }>,
  { noLoadVolts }: Stresses['output'],
): Placed | null {
  const { ohms, watts, bodyVolts, pulseJoules, id } = part;
  const wantedOhms = place === 'series' ? design.output.seriesOhms : (design.output.bleederOhms ?? 0);
  const byVolts = bodyVolts === null ? 1 : (SAFETY * noLoadVolts) / bodyVolts;
  // Each of n takes V^2 / (n^2 R) across a bleeder; in series with the output power hangs on the load alone.
  const byWatts = place === 'series' || watts === null ? 1 : Math.sqrt((SAFETY * noLoadVolts ** 2) / (ohms * watts));
  const fewest = Math.ceil(Math.max(1, byVolts, byWatts) - 1e-9);
  const count = Math.max(fewest, Math.round(wantedOhms / ohms));
  const total = Number((count * ohms).toPrecision(12));
  const away = wantedOhms > 0 ? Math.max(total / wantedOhms, wantedOhms / total) : 1;
  if (count > MOST_RESISTORS || away > MOST_AWAY) return null;
  return {
    count,
    words: `${count === 1 ? 'one' : `${count} in series`}, ${sayQuantity(total, 'Ω')}`,
    design: {
      ...design,
      output: { ...design.output, [place === 'series' ? 'seriesOhms' : 'bleederOhms']: total },
      resistors: { ...design.resistors, [place]: { count, watts, bodyVolts, pulseJoules, partId: id } },
    },
  };
}

export type PlaceChoice = Placed & { part: Part; wanted: number; free: number };

/** Every part that a place can take: what is there in number first, then what takes the fewest. */
export function choicesFor(
  design: Design,
  place: PartPlace,
  stresses: Stresses,
  parts: readonly Part[],
  others: readonly PartUse[],
): PlaceChoice[] {
  return parts
    .flatMap((part) => {
      const made = placed(design, place, part, stresses);
      if (!made) return [];
      const wanted = partsUsed(made.design).get(part.id) ?? made.count;
      return [{ ...made, part, wanted, free: Math.max(0, stockOf(part, others).free) }];
    })
    .sort(
      (a, b) =>
        Number(a.wanted > a.free) - Number(b.wanted > b.free) ||
        a.wanted - b.wanted ||
        (mainValue(a.part) ?? 0) - (mainValue(b.part) ?? 0),
    );
}
