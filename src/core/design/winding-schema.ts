import * as z from '../zod';
import { choice, count, listOf, partId, quantity, saying } from '../schema/fields';

const MOST_SECTIONS = 12;
const MOST_PIN_READINGS = 120;
const unknown = (unit: Parameters<typeof quantity>[0], example: string) =>
  quantity(unit, example, 'above zero').nullable().default(null);
const pin = z
  .string({ error: saying('the name of a pin') })
  .max(12, { error: () => 'is longer than 12 characters; must be the name of a pin, such as "7"' });

/** What was measured and is to be wound at the transformer bench; metres in the document, millimetres on screen. */
export const windingSchema = z.strictObject({
  /** A low-voltage test: RMS fed into the primary, RMS at each secondary section, and over all in series. */
  ratio: z
    .strictObject({
      fedVolts: unknown('V', '2'),
      readings: listOf(quantity('V', '40', 'zero or more'), 'readings', MOST_SECTIONS).default([]),
      seriesVolts: quantity('V', '120', 'zero or more').nullable().default(null),
      /** At which it was read. */
      hertz: unknown('Hz', '20000'),
    })
    .prefault({}),
  inductance: z
    .strictObject({
      primaryHenries: unknown('H', '30e-6'),
      secondaryHenries: unknown('H', '0.3'),
      /** Of the secondary with the primary shorted. */
      shortedHenries: unknown('H', '0.02'),
      /** Capacitor that the primary was made to ring with, and where it did. */
      resonanceFarads: unknown('F', '470e-9'),
      resonanceHertz: unknown('Hz', '40000'),
    })
    .prefault({}),
  core: z
    .strictObject({
      relativePermeability: quantity('', '2000', 'above zero').default(2000),
      gapMetres: quantity('m', '0.5e-3', 'zero or more').default(0),
      workingTesla: quantity('T', '0.2', 'above zero').default(0.2),
      windowSquareMetres: unknown('m²', '150e-6'),
    })
    .prefault({}),
  primary: z
    .strictObject({
      wireMetres: unknown('m', '0.5e-3'),
      strands: count(10_000).default(1),
      partId,
    })
    .prefault({}),
  secondary: z
    .strictObject({
      wireMetres: unknown('m', '0.1e-3'),
      /** Room for turns side by side in one pot. */
      widthMetres: quantity('m', '20e-3', 'above zero').default(20e-3),
      innerMetres: quantity('m', '16e-3', 'above zero').default(16e-3),
      pots: count(50).default(1),
      insulationMetres: quantity('m', '50e-6', 'zero or more').default(50e-6),
      relativePermittivity: quantity('', '3', 'above zero').default(3),
      turning: choice(['back-and-forth', 'same-way']).default('back-and-forth'),
      heightMetres: unknown('m', '6e-3'),
    })
    .prefault({}),
  pins: z
    .strictObject({
      lead: pin.default('HV'),
      readings: listOf(
        z.strictObject({
          from: pin,
          to: pin,
          /** Null: open, over the meter's range. */
          ohms: quantity('Ω', '0.6', 'zero or more').nullable(),
        }),
        'readings',
        MOST_PIN_READINGS,
      ).default([]),
      leadTest: choice(['not-done', 'one-way', 'both-ways', 'neither']).default('not-done'),
    })
    .prefault({}),
});

export type Winding = z.output<typeof windingSchema>;
