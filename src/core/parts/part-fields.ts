import { quantityField, type FieldDescription } from '../quantity/field-description';
import { formatQuantity } from '../quantity/format-quantity';
import { METRE } from '../quantity/units';
import { DIELECTRICS, type Part, type PartKind } from './part-schema';

export const PART_NAMES: Record<PartKind, string> = {
  capacitor: 'Capacitor',
  diode: 'Diode',
  resistor: 'Resistor',
  transistor: 'Transistor',
  core: 'Core',
  wire: 'Wire',
  insulation: 'Insulation',
  transformer: 'Transformer',
  module: 'Module',
};

const DIELECTRIC_NAMES: Record<(typeof DIELECTRICS)[number], string> = {
  'class-1-ceramic': 'Ceramic, class 1',
  'class-2-ceramic': 'Ceramic, class 2',
  film: 'Film',
  mica: 'Mica',
  paper: 'Paper and oil',
  electrolytic: 'Electrolytic',
};

const q = quantityField;
const optional = { optional: true };

/** The fields of each kind beside name, count, price and note, in the order of a form. */
export const PART_FIELDS: Record<PartKind, readonly FieldDescription[]> = {
  capacitor: [
    q('farads', 'Capacitance', 'F'),
    q('ratedVolts', 'Rated, dc', 'V', optional),
    q('ratedAcVolts', 'Rated, ac RMS', 'V', optional),
    q('ratedRmsAmps', 'Rated current, RMS', 'A', optional),
    {
      as: 'pick',
      name: 'dielectric',
      label: 'Dielectric',
      options: DIELECTRICS.map((value) => ({ value, name: DIELECTRIC_NAMES[value] })),
    },
    q('tolerance', 'Tolerance', '%'),
    q('dcBiasDerating', 'DC-bias derating, left at rated voltage', '%', {
      optional: true,
      hint: 'Class-2 ceramic keeps perhaps 30 to 60 %.',
    }),
    q('leakageAmps', 'Leakage at rated voltage', 'A', optional),
    q('lossTangent', 'Loss tangent', '', optional),
    q('lengthMetres', 'Length', 'm', optional),
    q('diameterMetres', 'Diameter', 'm', optional),
  ],
  diode: [
    q('peakInverseVolts', 'Peak inverse', 'V'),
    q('averageAmps', 'Average current', 'A', optional),
    q('surgeAmps', 'Surge current', 'A', optional),
    q('forwardVolts', 'Forward drop', 'V'),
    q('forwardAmps', 'Drop rated at', 'A', optional),
    q('recoverySeconds', 'Recovery time', 's', optional),
    q('junctionFarads', 'Junction capacitance', 'F'),
    q('junctionVolts', 'Junction measured at, reverse', 'V', optional),
    q('leakageAmps', 'Leakage', 'A'),
    q('leakageCelsius', 'Leakage stated at', '°C'),
  ],
  resistor: [
    q('ohms', 'Resistance', 'Ω'),
    q('watts', 'Rated', 'W', optional),
    q('ratedVolts', 'Voltage rating', 'V', optional),
    q('pulseJoules', 'Pulse, at most', 'J', optional),
    q('tolerance', 'Tolerance', '%'),
  ],
  transistor: [
    q('ratedVolts', 'Rated', 'V'),
    q('averageAmps', 'Current', 'A', optional),
    q('onOhms', 'On-resistance', 'Ω', optional),
    q('gateThresholdVolts', 'Gate threshold', 'V', optional),
  ],
  core: [
    q('squareMetres', 'Area', 'm²'),
    q('pathMetres', 'Path', 'm', optional),
    q('inductanceFactor', 'AL', 'H', optional),
    q('saturationTesla', 'Saturates at', 'T'),
    q('windowSquareMetres', 'Window', 'm²', optional),
    { as: 'text', name: 'material', label: 'Material' },
  ],
  wire: [q('wireMetres', 'Bare diameter', 'm'), q('lengthMetres', 'Length', 'm', { ...optional, typedIn: METRE })],
  insulation: [
    q('thicknessMetres', 'Thickness', 'm'),
    q('breakdownVolts', 'Breaks down at, peak', 'V', optional),
    { as: 'text', name: 'material', label: 'Material' },
  ],
  transformer: [
    q('ratio', 'Turns ratio, 1 to', '', optional),
    q('primaryHenries', 'Primary inductance', 'H', optional),
    q('secondaryVolts', 'Secondary, RMS', 'V', optional),
    q('secondaryOhms', 'Secondary resistance', 'Ω', optional),
    q('shortAmps', 'Short-circuit current, RMS', 'A', optional),
    { as: 'yes', name: 'rectifierInside', label: 'Rectifier inside' },
  ],
  module: [
    q('openVolts', 'No load, peak', 'V'),
    q('frequencyHertz', 'Frequency', 'Hz', optional),
    q('maxAmps', 'Current limit, RMS', 'A', optional),
    q('maxWatts', 'Power limit', 'W', optional),
  ],
};

/** The value a part is looked for by, and sorted: its first field. */
export function mainValue(part: Part): number | null {
  return valueOf(part, PART_FIELDS[part.kind][0].name) as number | null;
}

/** A field of a part by its name. */
export function valueOf(part: Part, field: string): unknown {
  return (part as unknown as Record<string, unknown>)[field];
}

/** What a part is by its first fields that are known: "100 pF, 15 kV". */
export function inShort(part: Part): string {
  const words = PART_FIELDS[part.kind].flatMap((field) => {
    const value = valueOf(part, field.name);
    if (field.as !== 'quantity' || field.unit === '%' || typeof value !== 'number') return [];
    return [formatQuantity(value, field.unit)];
  });
  return words.slice(0, 2).join(', ');
}

/** A name for a part that was given none. */
export function usualName(part: Part): string {
  const what = part.kind === 'capacitor' ? DIELECTRIC_NAMES[part.dielectric] : PART_NAMES[part.kind];
  return `${what} ${inShort(part).replace(',', '').replaceAll('\u00a0', ' ')}`.trim();
}
