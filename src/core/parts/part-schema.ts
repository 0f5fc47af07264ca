import { choice, fraction, quantity, saying, text, yes } from '../schema/fields';
import * as z from '../zod';

export const DIELECTRICS = ['class-1-ceramic', 'class-2-ceramic', 'film', 'mica', 'paper', 'electrolytic'] as const;

const MOST_PARTS = 1_000_000;
const known = (...of: Parameters<typeof quantity>) =>
  quantity(...of)
    .nullable()
    .default(null);

/** What every part in the drawer has. */
const common = {
  id: z.uuid({ error: saying('an id as the drawer gives them') }),
  name: z
    .string({ error: saying('a name of 1 to 80 characters') })
    .trim()
    .min(1, { error: saying('a name of 1 to 80 characters') })
    .max(80, { error: () => 'is longer than 80 characters; must be a name of 1 to 80 characters' }),
  count: z
    .number({ error: saying('a whole number, zero or more') })
    .int({ error: saying('a whole number, zero or more') })
    .gte(0, { error: saying('a whole number, zero or more') })
    .lte(MOST_PARTS, { error: saying(`a whole number up to ${MOST_PARTS}`) })
    .default(1),
  /** Of one, in whatever money the user counts in. */
  price: quantity('', '0.35', 'zero or more').nullable().default(null),
  note: text(500),
};

/** Names that fields had before, for stored parts and tables made then: each with the name it has now. */
export const OLD_PART_FIELDS: Readonly<Record<string, string>> = {
  keptAtRating: 'dcBiasDerating',
  bodyVolts: 'ratedVolts',
};

/** A part one owns or can buy, by the fields that decide; types are generic. SI base units. */
export const partSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('capacitor'),
    ...common,
    farads: quantity('F', '100e-12', 'above zero'),
    /** Direct, and RMS of alternating voltage where that is stated. */
    ratedVolts: known('V', '15000', 'above zero'),
    ratedAcVolts: known('V', '5000', 'above zero'),
    /** RMS that it may carry, where that is stated. */
    ratedRmsAmps: known('A', '0.05', 'above zero'),
    dielectric: choice(DIELECTRICS).default('class-2-ceramic'),
    tolerance: fraction('0.1').default(0.1),
    lossTangent: known('', '0.02', 'zero or more'),
    /** Fraction of its capacitance that is left at its rated voltage. */
    dcBiasDerating: fraction('0.5').nullable().default(null),
    /** At its rated voltage. */
    leakageAmps: known('A', '1e-7', 'zero or more'),
    lengthMetres: known('m', '0.008', 'above zero'),
    diameterMetres: known('m', '0.012', 'above zero'),
  }),
  z.strictObject({
    kind: z.literal('diode'),
    ...common,
    peakInverseVolts: quantity('V', '20000', 'above zero'),
    averageAmps: known('A', '0.005', 'above zero'),
    surgeAmps: known('A', '0.5', 'above zero'),
    forwardVolts: quantity('V', '30', 'zero or more').default(1),
    /** At which it drops that. */
    forwardAmps: known('A', '0.005', 'above zero'),
    recoverySeconds: known('s', '100e-9', 'above zero'),
    junctionFarads: quantity('F', '1e-12', 'zero or more').default(0),
    /** Reverse, at which the junction has that capacitance. */
    junctionVolts: known('V', '4', 'zero or more'),
    leakageAmps: quantity('A', '1e-6', 'zero or more').default(0),
    /** At which the leakage is stated, °C. */
    leakageCelsius: quantity('°C', '25', 'zero or more').default(25),
  }),
  z.strictObject({
    kind: z.literal('resistor'),
    ...common,
    ohms: quantity('Ω', '1e6', 'above zero'),
    watts: known('W', '2', 'above zero'),
    ratedVolts: known('V', '3500', 'above zero'),
    /** Taken at once, without harm. */
    pulseJoules: known('J', '5', 'above zero'),
    tolerance: fraction('0.05').default(0.05),
  }),
  z.strictObject({
    kind: z.literal('transistor'),
    ...common,
    ratedVolts: quantity('V', '200', 'above zero'),
    averageAmps: known('A', '30', 'above zero'),
    onOhms: known('Ω', '0.03', 'zero or more'),
    gateThresholdVolts: known('V', '4', 'above zero'),
  }),
  z.strictObject({
    kind: z.literal('core'),
    ...common,
    squareMetres: quantity('m²', '110e-6', 'above zero'),
    pathMetres: known('m', '0.11', 'above zero'),
    inductanceFactor: known('H', '2e-6', 'above zero'),
    saturationTesla: quantity('T', '0.3', 'above zero').default(0.3),
    windowSquareMetres: known('m²', '150e-6', 'above zero'),
    material: text(80),
  }),
  z.strictObject({
    kind: z.literal('wire'),
    ...common,
    wireMetres: quantity('m', '0.1e-3', 'above zero'),
    lengthMetres: known('m', '50', 'above zero'),
  }),
  z.strictObject({
    kind: z.literal('insulation'),
    ...common,
    thicknessMetres: quantity('m', '50e-6', 'above zero'),
    breakdownVolts: known('V', '7000', 'above zero'),
    material: text(80),
  }),
  z.strictObject({
    kind: z.literal('transformer'),
    ...common,
    ratio: known('', '60', 'above zero'),
    primaryHenries: known('H', '70e-6', 'above zero'),
    /** RMS without load, where it is a mains transformer. */
    secondaryVolts: known('V', '2500', 'above zero'),
    secondaryOhms: known('Ω', '420', 'above zero'),
    shortAmps: known('A', '0.03', 'above zero'),
    rectifierInside: yes.default(false),
  }),
  z.strictObject({
    kind: z.literal('module'),
    ...common,
    /** Peak without load. */
    openVolts: quantity('V', '4000', 'above zero'),
    frequencyHertz: known('Hz', '30000', 'above zero'),
    maxAmps: known('A', '0.01', 'above zero'),
    maxWatts: known('W', '15', 'above zero'),
  }),
]);

export type Part = z.output<typeof partSchema>;
export type PartKind = Part['kind'];
