import { quantityField, type FieldDescription } from '../quantity/field-description';
import { partId, quantity, saying, yes } from '../schema/fields';
import * as z from '../zod';

const COUPLING = 'a fraction from above 0 to 1, such as 0.97';

/** What steps the driver's voltage up. */
export const transformerSchema = z.strictObject({
  /** Whole primary; of a centre-tapped one, end to end. */
  primaryTurns: quantity('', '10', 'above zero'),
  secondaryTurns: quantity('', '1000', 'above zero'),
  coupling: z
    .number({ error: saying(COUPLING) })
    .gt(0, { error: saying(COUPLING) })
    .lte(1, { error: saying(COUPLING) })
    .default(0.97),
  primaryHenries: quantity('H', '30e-6', 'above zero').nullable().default(null),
  secondaryOhms: quantity('Ω', '300', 'zero or more').default(0),
  /** Its own winding capacitance. */
  secondaryFarads: quantity('F', '15e-12', 'zero or more').default(0),
  coreSquareMetres: quantity('m²', '1.2e-4', 'above zero').nullable().default(null),
  /** Length of the flux’s path. */
  corePathMetres: quantity('m', '0.11', 'above zero').nullable().default(null),
  saturationTesla: quantity('T', '0.3', 'above zero').default(0.3),
  /** A diode inside, as in many flyback transformers. */
  rectifierInside: yes.default(false),
  partId,
  /** Of the core, where that is from the drawer by itself. */
  corePartId: partId,
});

export type Transformer = z.output<typeof transformerSchema>;

export const TRANSFORMER_FIELDS: readonly FieldDescription[] = [
  quantityField('primaryTurns', 'Primary turns, end to end', ''),
  quantityField('secondaryTurns', 'Secondary turns', ''),
  quantityField('primaryHenries', 'Primary inductance, end to end', 'H', { optional: true }),
  quantityField('secondaryOhms', 'Secondary resistance', 'Ω'),
  quantityField('coreSquareMetres', 'Core area', 'm²', { optional: true }),
  quantityField('saturationTesla', 'Core saturates at', 'T'),
  quantityField('corePathMetres', 'Core, path of the flux', 'm', { optional: true, more: true }),
  quantityField('coupling', 'Coupling', '%', { more: true }),
  quantityField('secondaryFarads', 'Secondary capacitance', 'F', {
    more: true,
    hint: 'Of the winding itself: usually 5p to 50p.',
  }),
  { as: 'yes', name: 'rectifierInside', label: 'Rectifier inside', more: true },
];

/** Turns that a usual ferrite or bobbin carries, and what its primary then has: to start a design from. */
const USUAL_PRIMARY = { primaryTurns: 10, primaryHenries: 30e-6, coreSquareMetres: 1.2e-4 };
const USUAL_COUPLING = 0.97;

/** A usual transformer that makes about this secondary peak of this primary one, V; turns rounded to two digits. */
export function usualTransformer(
  secondaryPeakVolts: number,
  primaryPeakVolts: number,
  changes: Partial<z.input<typeof transformerSchema>> = {},
): Transformer {
  const turns = (USUAL_PRIMARY.primaryTurns * secondaryPeakVolts) / (primaryPeakVolts * USUAL_COUPLING);
  return transformerSchema.parse({
    ...USUAL_PRIMARY,
    secondaryTurns: Math.max(1, Number(turns.toPrecision(2))),
    ...changes,
  });
}

/**
 * Of leakage inductance ringing with the capacitances at its ends, between where the driver holds its end and where it
 * does not: skin and proximity take what dc resistance does not (common practice, no source).
 */
export const LEAKAGE_QUALITY = 10;
/** What half a swing of such a ring leaves of its amplitude (handbook). */
export const HALF_SWING = Math.exp(-Math.PI / (2 * LEAKAGE_QUALITY));

/** Secondary over whole primary. */
export const ratioOf = ({ primaryTurns, secondaryTurns }: Transformer) => secondaryTurns / primaryTurns;

/**
 * Leakage inductance of a transformer seen from its secondary with the primary
 * shorted, H: (1 - k^2) L2 with L2 = L1 (N2 / N1)^2 (handbook); 0 where the
 * primary's inductance is not known.
 */
export function leakageHenries(transformer: Transformer): number {
  const { primaryHenries, coupling } = transformer;
  return primaryHenries === null ? 0 : (1 - coupling ** 2) * primaryHenries * ratioOf(transformer) ** 2;
}
