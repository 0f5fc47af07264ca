import type { Design } from '../design/design-schema';
import type { PartUse } from '../drawer/drawer-messages';
import { DRIVER_KINDS } from '../drive/driver-kinds';
import { stockOf } from '../drawer/parts-used';
import { partIdAt, placesOf } from '../drawer/places/places-of';
import { ladderInputs } from '../operating/ladder-inputs';
import { inShort } from '../parts/part-fields';
import type { Part } from '../parts/part-schema';
import { readingOf, type Place } from '../parts/place';
import { formatQuantity } from '../quantity/format-quantity';
import type { Unit } from '../quantity/units';
import { eachFarads, standingIn } from '../topology/network';

/** One line of what is to be on the table before one begins. */
type PartRow = {
  place: string;
  name: string;
  /** Of each: its main values, or what it is in the drawer. */
  each: string;
  count: number;
  /** How they stand in their places: strings and banks; empty where each stands alone. */
  standing: string;
  /** In the drawer, what other designs take left out; null for a part that is not of the drawer, or while it is not known. */
  free: number | null;
  /** To buy: that of the part in the drawer, for all that are missing; null where no price is known. */
  missing: number | null;
  cost: number | null;
};

export type PartsList = {
  rows: PartRow[];
  /** What to have besides, of what the ladder takes most of. */
  spares: { name: string; count: number }[];
  /** Of what is missing and has a price; and how many lines have something missing without one. */
  costOfMissing: number;
  withoutPrice: number;
};

/** What of the drawer is known: its parts, and what other designs take of them. */
export type DrawerStock = { parts: readonly Part[]; uses: readonly PartUse[] };

/** Of which parts to have spares, and one in how many: a low-voltage test finds some that are not what they are sold as (common practice, no source). */
const SPARED = ['capacitor', 'diode'];
const SPARE_IN = 10;

/**
 * What a design takes, part by part.
 *
 * @param stock null while the drawer is not known
 */
export function partsListOf(design: Design, stock: DrawerStock | null): PartsList {
  const read = readingOf(design);
  const left = new Map<string, number>();
  const rows = placesOf(design).flatMap((place): PartRow[] => {
    const count = place.count(read);
    if (count === 0) return [];
    const partId = partIdAt(design, place);
    const part = stock?.parts.find(({ id }) => id === partId) ?? null;
    const typed = typedRows(design, place.id);
    const lines = typed ?? [{ each: part ? inShort(part) : ownWords(design, place), count, standing: '' }];
    return lines.map((line) => {
      const free = part && stock ? Math.max(0, left.get(part.id) ?? stockOf(part, stock.uses).free) : null;
      const missing = free === null ? null : Math.max(0, line.count - free);
      if (part && free !== null) left.set(part.id, free - line.count);
      return {
        place: place.id,
        name: place.name,
        ...line,
        each: part ? `${part.name}${line.each && line.each !== inShort(part) ? `, ${line.each}` : ''}` : line.each,
        free,
        missing,
        cost: missing === null || !part || part.price === null ? null : missing * part.price,
      };
    });
  });
  return {
    rows,
    spares: SPARED.flatMap((place) => {
      const own = rows.filter((row) => row.place === place);
      const count = Math.ceil(own.reduce((sum, row) => sum + row.count, 0) / SPARE_IN);
      return count > 0 ? [{ name: own[0].name, count }] : [];
    }),
    costOfMissing: rows.reduce((sum, { cost }) => sum + (cost ?? 0), 0),
    withoutPrice: rows.filter(({ missing, cost }) => missing !== null && missing > 0 && cost === null).length,
  };
}

const words = (...of: readonly (readonly [number | null, Unit])[]): string =>
  of.flatMap(([value, unit]) => (value === null ? [] : [formatQuantity(value, unit)])).join(', ');

/** What the document itself says of what stands in a place of driver or transformer. */
function ownWords({ driver, transformer, winding }: Design, place: Place): string {
  if (place.id === 'transformer' && transformer)
    return `${transformer.primaryTurns} to ${transformer.secondaryTurns} turns`;
  if (place.id === 'core' && transformer)
    return words([transformer.coreSquareMetres, 'm²'], [transformer.saturationTesla, 'T']);
  if (place.id === 'primary' && winding) {
    const { wireMetres, strands } = winding.primary;
    return `${words([wireMetres, 'm'])}${strands > 1 ? `, ${strands} strands` : ''}`;
  }
  const values = driver as Readonly<Record<string, unknown>>;
  return place.fields
    .flatMap((path) => {
      const field = DRIVER_KINDS[driver.kind].fields.find(({ name }) => path === `driver.${name}`);
      const value = field && values[field.name];
      return field?.as === 'quantity' && typeof value === 'number' ? [formatQuantity(value, field.unit)] : [];
    })
    .join(', ');
}

const standingWords = (series: number, parallel = 1): string =>
  [
    ...(series > 1 ? [`${series} in series in each place`] : []),
    ...(parallel > 1 ? [`${parallel} ${series > 1 ? 'such strings ' : ''}in parallel in each place`] : []),
  ].join(', ');

/** What a document itself says of the parts in a place, one line for each value; null for places of which it says no more than the count. */
function typedRows(
  { ladder, output, resistors }: Design,
  place: string,
): Pick<PartRow, 'each' | 'count' | 'standing'>[] | null {
  const { capacitor, diode } = ladder;
  if (place === 'capacitor') return capacitorRows({ ladder });
  if (place === 'diode') {
    const { marked } = ladderInputs({ ladder });
    return [
      {
        each: words([diode.peakInverseVolts, 'V'], [diode.averageAmps, 'A']),
        count: diode.series * marked.diodes.length,
        standing: standingWords(diode.series),
      },
    ];
  }
  const string = (ohms: number, of: { count: number; watts: number | null; ratedVolts: number | null }) => [
    {
      each: words([ohms / of.count, 'Ω'], [of.watts, 'W'], [of.ratedVolts, 'V']),
      count: of.count,
      standing: of.count > 1 ? 'in series' : '',
    },
  ];
  if (place === 'series') return string(output.seriesOhms, resistors.series);
  if (place === 'bleeder' && output.bleederOhms !== null) return string(output.bleederOhms, resistors.bleeder);
  if (place === 'divider' && output.divider) {
    const { topOhms, topCount, topWatts, topRatedVolts } = output.divider;
    return string(topOhms, { count: topCount, watts: topWatts, ratedVolts: topRatedVolts });
  }
  return null;

  /** Places of one value together; more of it than one part has is made of several in parallel. */
  function capacitorRows(of: Pick<Design, 'ladder'>) {
    const { marked } = ladderInputs(of);
    const byCount = new Map<number, string[]>();
    const single = capacitor.farads;
    for (const one of marked.capacitors) {
      const times = Math.ceil((eachFarads(one) * capacitor.series) / capacitor.parallel / single - 1e-6);
      for (let each = 0; each < standingIn(one); each += 1) byCount.set(times, [...(byCount.get(times) ?? []), one.id]);
    }
    return [...byCount]
      .sort(([one], [other]) => other - one)
      .map(([times, ids]) => ({
        each: words([single, 'F'], [capacitor.ratedVolts, 'V']),
        count: ids.length * times * capacitor.series * capacitor.parallel,
        standing: [
          standingWords(capacitor.series, capacitor.parallel * times),
          ...(byCount.size > 1 ? [`for ${[...new Set(ids)].join(', ')}`] : []),
        ]
          .filter((part) => part !== '')
          .join('; '),
      }));
  }
}
