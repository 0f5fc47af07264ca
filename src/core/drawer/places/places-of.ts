import type { Design } from '../../design/design-schema';
import { DRIVER_KINDS } from '../../drive/driver-kinds';
import { readingOf, type Place } from '../../parts/place';
import { capacitorPlace, diodePlace } from './ladder-places';
import { bleederPlace, dividerPlace, seriesPlace } from './output-places';
import { corePlace, primaryPlace, transformerPlace } from './transformer-places';

/** Every place where a design can take a part of the drawer: those of the ladder, the output, its driver's kind, its transformer. */
export function placesOf({ driver }: Pick<Design, 'driver'>): readonly Place[] {
  return [
    capacitorPlace,
    diodePlace,
    seriesPlace,
    bleederPlace,
    dividerPlace,
    ...DRIVER_KINDS[driver.kind].places,
    transformerPlace,
    corePlace,
    primaryPlace,
  ];
}

/** A place of a design by its id; null where the design has none of that id. */
export function placeOf(design: Pick<Design, 'driver'>, id: string): Place | null {
  return placesOf(design).find((place) => place.id === id) ?? null;
}

/** The part a design has in a place; null where its values were typed. */
export function partIdAt(design: Design, place: Place): string | null {
  return (readingOf(design)(place.partId) as string | null | undefined) ?? null;
}
