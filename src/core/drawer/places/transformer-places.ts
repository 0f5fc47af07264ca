import type { Design } from '../../design/design-schema';
import { windingSchema } from '../../design/winding-schema';
import type { Transformer } from '../../magnetics/transformer';
import { AMPS_PER_SQUARE_METRE, sectionOf } from '../../magnetics/wire';
import type { Place } from '../../parts/place';
import { formatQuantity } from '../../quantity/format-quantity';

/** Fields that are set where the drawer knows them, and stay as the design has them where it does not. */
const known = (values: Record<string, unknown>) =>
  Object.fromEntries(Object.entries(values).filter(([, value]) => value !== null));

export const transformerPlace: Place = {
  id: 'transformer',
  name: 'Transformer',
  takes: 'transformer',
  partId: 'transformer.partId',
  fields: ['primaryTurns', 'secondaryTurns', 'primaryHenries', 'secondaryOhms', 'rectifierInside'].map(
    (field) => `transformer.${field}`,
  ),
  count: (read) => (read('transformer') ? 1 : 0),
  fit: (read, part) => {
    const transformer = read('transformer') as Transformer | null;
    if (part.kind !== 'transformer' || !transformer || part.ratio === null) return null;
    return {
      words: '',
      values: {
        'transformer.secondaryTurns': Number((transformer.primaryTurns * part.ratio).toPrecision(12)),
        'transformer.rectifierInside': part.rectifierInside,
        ...known({
          'transformer.primaryHenries': part.primaryHenries,
          'transformer.secondaryOhms': part.secondaryOhms,
        }),
      },
    };
  },
};

/** Two halves make a core, and are counted as one pair. */
export const corePlace: Place = {
  id: 'core',
  name: 'Core',
  takes: 'core',
  partId: 'transformer.corePartId',
  fields: ['coreSquareMetres', 'corePathMetres', 'saturationTesla'].map((field) => `transformer.${field}`),
  count: (read) => (read('transformer') ? 1 : 0),
  fit: (read, part) =>
    part.kind !== 'core' || !read('transformer')
      ? null
      : {
          words: '',
          values: {
            'transformer.coreSquareMetres': part.squareMetres,
            'transformer.saturationTesla': part.saturationTesla,
            ...known({ 'transformer.corePathMetres': part.pathMetres }),
          },
        },
};

const MOST_STRANDS = 400;

/** A wire for the primary in as many strands as its current commonly asks for; a length is not told from a reel. */
export const primaryPlace: Place = {
  id: 'primary',
  name: 'Primary wire',
  takes: 'wire',
  partId: 'winding.primary.partId',
  fields: ['winding.primary.wireMetres'],
  count: (read) => (read('winding') ? 1 : 0),
  fit: (read, part, { primaryAmps }) => {
    if (part.kind !== 'wire' || !read('transformer') || primaryAmps === null) return null;
    const { wireMetres } = part;
    const strands = Math.max(1, Math.ceil(primaryAmps / (AMPS_PER_SQUARE_METRE * sectionOf(wireMetres))));
    if (strands > MOST_STRANDS) return null;
    const winding = (read('winding') as Design['winding']) ?? windingSchema.parse({});
    return {
      words: `${strands === 1 ? 'one strand' : `${strands} strands`} for ${formatQuantity(primaryAmps, 'A')}`,
      values: { winding: { ...winding, primary: { wireMetres, strands, partId: null } } },
    };
  },
};
