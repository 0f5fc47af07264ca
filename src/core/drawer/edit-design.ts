import { changeDesign, withField } from '../design/change-design';
import type { Design } from '../design/design-schema';
import { partIdAt, placesOf } from './places/places-of';

/** The design with one field set by hand: a value typed over one that came from the drawer leaves the part there. */
export function editDesign(design: Design, change: { path: string; value: unknown }): Design {
  const field = change.path.slice('$.'.length);
  const place = placesOf(design).find(({ fields }) => fields.includes(field));
  const left =
    place && partIdAt(design, place) !== null ? (withField(design, place.partId.split('.'), null) as Design) : design;
  return changeDesign(left, change);
}
