import { quantityField, type FieldDescription } from '../quantity/field-description';
import { count, kindOf, quantity, saying, yes } from '../schema/fields';
import * as z from '../zod';

const DEGREES = 'degrees from 0 to 170, such as 60';
/** Angle after each zero crossing at which a dimmer lets the mains through; 0 without one. */
const dimmedDegrees = z
  .number({ error: saying(DEGREES) })
  .gte(0, { error: saying(DEGREES) })
  .lte(170, { error: saying(DEGREES) })
  .default(0);
const SETTING = 'a fraction from above 0 to 1.2, such as 1';
const setting = z
  .number({ error: saying(SETTING) })
  .gt(0, { error: saying(SETTING) })
  .lte(1.2, { error: saying(SETTING) })
  .default(1);

/** Where the energy comes from. */
export const supplySchema = z.discriminatedUnion(
  'kind',
  [
    z.strictObject({
      kind: z.literal('battery'),
      cells: count(200).default(4),
      voltsEach: quantity('V', '1.5', 'above zero').default(1.5),
      ohmsEach: quantity('Ω', '0.15', 'zero or more').default(0.15),
      ampHours: quantity('Ah', '2', 'above zero').nullable().default(null),
    }),
    z.strictObject({
      kind: z.literal('dc'),
      volts: quantity('V', '24', 'above zero'),
      seriesOhms: quantity('Ω', '0.1', 'zero or more').default(0),
      maxAmps: quantity('A', '5', 'above zero').nullable().default(null),
    }),
    z.strictObject({
      kind: z.literal('smoothed-mains'),
      hertz: quantity('Hz', '50', 'above zero').default(50),
      /** RMS of the winding before the bridge, at rated mains. */
      secondaryVolts: quantity('V', '18', 'above zero'),
      setting,
      dimmedDegrees,
      /** Whether a transformer stands between line and bridge. */
      isolated: yes.default(true),
      seriesOhms: quantity('Ω', '0.3', 'zero or more').default(0.3),
      smoothingFarads: quantity('F', '4700e-6', 'above zero').default(4700e-6),
      bridgeVolts: quantity('V', '2', 'zero or more').default(2),
      maxAmps: quantity('A', '3', 'above zero').nullable().default(null),
    }),
    z.strictObject({
      kind: z.literal('mains'),
      /** RMS. */
      volts: quantity('V', '230', 'above zero').default(230),
      hertz: quantity('Hz', '50', 'above zero').default(50),
      setting,
      dimmedDegrees,
      isolated: yes.default(true),
    }),
  ],
  { error: kindOf(['battery', 'dc', 'smoothed-mains', 'mains']) },
);
export type Supply = z.output<typeof supplySchema>;
export type SupplyKind = Supply['kind'];

export const SUPPLY_NAMES: Record<SupplyKind, string> = {
  battery: 'Battery',
  dc: 'Bench supply or adapter',
  'smoothed-mains': 'Mains, rectified and smoothed',
  mains: 'Mains',
};

const DIMMED_FIELD = quantityField('dimmedDegrees', 'Dimmer cuts', '°', {
  more: true,
  hint: 'Of each half period of 180°; 0 without one.',
});
const SETTING_FIELD = quantityField('setting', 'Variable transformer at', '%', { hint: '100 % without one.' });

export const SUPPLY_FIELDS: Record<SupplyKind, readonly FieldDescription[]> = {
  battery: [
    quantityField('cells', 'Cells in series', ''),
    quantityField('voltsEach', 'Each, dc', 'V'),
    quantityField('ohmsEach', 'Resistance of each', 'Ω'),
    quantityField('ampHours', 'Charge', 'Ah', { optional: true }),
  ],
  dc: [
    quantityField('volts', 'Voltage, dc', 'V'),
    quantityField('maxAmps', 'Current limit', 'A', { optional: true }),
    quantityField('seriesOhms', 'Resistance with leads', 'Ω'),
  ],
  'smoothed-mains': [
    quantityField('secondaryVolts', 'Winding before the bridge, RMS', 'V'),
    SETTING_FIELD,
    quantityField('smoothingFarads', 'Smoothing capacitor', 'F'),
    quantityField('seriesOhms', 'Winding resistance', 'Ω'),
    quantityField('maxAmps', 'Current limit', 'A', { optional: true }),
    quantityField('hertz', 'Mains frequency', 'Hz', { more: true }),
    quantityField('bridgeVolts', 'Bridge drops', 'V', { more: true }),
    DIMMED_FIELD,
    { as: 'yes', name: 'isolated', label: 'Winding isolated from the line', more: true },
  ],
  mains: [
    quantityField('volts', 'Mains, RMS', 'V'),
    quantityField('hertz', 'Mains frequency', 'Hz'),
    SETTING_FIELD,
    { as: 'yes', name: 'isolated', label: 'Isolated from the line' },
    DIMMED_FIELD,
  ],
};

/** The same supply turned down to a part of its voltage, without a limit of current. */
export function turnedDown(supply: Supply, part: number): Supply {
  switch (supply.kind) {
    case 'battery':
      return { ...supply, voltsEach: supply.voltsEach * part };
    case 'dc':
      return { ...supply, volts: supply.volts * part, maxAmps: null };
    case 'smoothed-mains':
      return { ...supply, setting: supply.setting * part, maxAmps: null };
    case 'mains':
      return { ...supply, setting: supply.setting * part };
  }
}

/** A supply of another kind, of about the same voltage where that can be said. */
export function supplyOfKind(kind: SupplyKind, volts: number): Supply {
  switch (kind) {
    case 'battery':
      return supplySchema.parse({ kind, cells: Math.max(1, Math.round(volts / 1.5)) });
    case 'dc':
      return supplySchema.parse({ kind, volts });
    case 'smoothed-mains':
      return supplySchema.parse({ kind, secondaryVolts: Number(((volts + 2) / Math.SQRT2).toPrecision(2)) });
    case 'mains':
      return supplySchema.parse({ kind });
  }
}
