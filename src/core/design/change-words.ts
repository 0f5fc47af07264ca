import { DRIVER_KINDS } from '../drive/driver-kinds';
import { SUPPLY_FIELDS, SUPPLY_NAMES } from '../drive/supply';
import { LOAD_KINDS } from '../load/load-kinds';
import { TRANSFORMER_FIELDS } from '../magnetics/transformer';
import type { FieldDescription } from '../quantity/field-description';
import { formatQuantity } from '../quantity/format-quantity';
import type { Unit } from '../quantity/units';
import { countOf, type Counting } from '../quantity/counting';
import { TOPOLOGY_KINDS } from '../topology/topologies';
import type { Design } from './design-schema';
import { differences, type Difference } from './differences';
import { sentence } from '../quantity/sentence';

/** Units by the ends of the names of fields, longest first. */
const UNITS_BY_NAME: readonly (readonly [RegExp, Unit])[] = [
  [/squareMetres$/i, 'm²'],
  [/(fraction|tolerance|derating|coupling|dutyCycle|spread\..*)$/i, '%'],
  [/volts$/i, 'V'],
  [/amps$/i, 'A'],
  [/ohms$/i, 'Ω'],
  [/farads$/i, 'F'],
  [/henries$/i, 'H'],
  [/hertz$/i, 'Hz'],
  [/watts$/i, 'W'],
  [/joules$/i, 'J'],
  [/seconds$/i, 's'],
  [/metres$/i, 'm'],
  [/tesla$/i, 'T'],
];

/** Fields that have no description of their own, as the cards call them. */
const NAMES: Readonly<Record<string, string>> = {
  name: 'Name',
  notes: 'Notes',
  target: 'Target',
  'target.volts': 'Target voltage',
  'target.amps': 'Target current',
  'target.ripplePeakToPeakFraction': 'Target ripple',
  'supply.kind': 'Supply',
  supply: 'Supply',
  transformer: 'Transformer',
  'driver.kind': 'Driver',
  'driver.waveform': 'Waveform',
  'driver.positivePeakVolts': 'Positive peak',
  'driver.negativePeakVolts': 'Negative peak',
  'driver.frequencyHertz': 'Frequency',
  'driver.seriesOhms': 'Source resistance',
  'ladder.topology': 'Topology',
  'ladder.stages': 'Stages',
  'ladder.grading': 'Grading',
  'ladder.capacitorFarads': 'Individual capacitors',
  'ladder.capacitor.farads': 'Each capacitor',
  'ladder.capacitor.ratedVolts': 'Capacitor rating',
  'ladder.capacitor.ratedAcVolts': 'Capacitor rating, AC RMS',
  'ladder.capacitor.series': 'Capacitors in series',
  'ladder.capacitor.parallel': 'Capacitors in parallel',
  'ladder.diode.series': 'Diodes in series',
  'ladder.diode.peakInverseVolts': 'Diode peak inverse',
  'ladder.diode.forwardVolts': 'Diode forward drop',
  'ladder.strayFarads': 'Stray, each diode',
  'output.seriesOhms': 'Series resistor',
  'output.bleederOhms': 'Bleeder',
  'output.electrodeFarads': 'Capacitance of what hangs on the output',
  'output.divider': 'Divider',
  'output.smoothing.ohms': 'Smoothing resistance',
  'output.smoothing.henries': 'Smoothing inductance',
  'output.smoothing.farads': 'Smoothing capacitor',
  'output.smoothing.ratedVolts': 'Smoothing capacitor rating',
  'load.kind': 'Load',
};

/** Where a field belongs, for those that are named by their own name alone. */
const HOLDERS: Readonly<Record<string, string>> = {
  capacitor: 'Capacitor',
  diode: 'Diode',
  series: 'Series resistor',
  bleeder: 'Bleeder',
  divider: 'Divider',
  spread: 'Tolerance',
  winding: 'Winding',
  supply: 'Supply',
  driver: 'Driver',
  transformer: 'Transformer',
  load: 'Load',
  output: 'Output',
  target: 'Target',
  build: 'Build',
};

const path = ({ path: whole }: Pick<Difference, 'path'>) => whole.replace(/^\$\.?/, '');

/** The description of a field by either of two designs: kinds of driver, supply and load have fields of their own. */
function described(at: string, designs: readonly Design[]): FieldDescription | undefined {
  const [link, name, deeper] = at.split('.');
  if (deeper !== undefined) return undefined;
  const fields = designs.flatMap(({ driver, supply, load }): readonly FieldDescription[] => {
    if (link === 'driver') return DRIVER_KINDS[driver.kind].fields;
    if (link === 'supply') return supply ? SUPPLY_FIELDS[supply.kind] : [];
    if (link === 'load') return LOAD_KINDS[load.kind].fields;
    return link === 'transformer' ? TRANSFORMER_FIELDS : [];
  });
  return fields.find((field) => field.name === name);
}

/** "ladder.capacitor.leakageAmps" as "Capacitor leakage". */
function nameOf(at: string): string {
  const parts = at.replace(/\[\d+\]/g, '').split('.');
  const own = parts[parts.length - 1]
    .replace(/(Square)?(Volts|Amps|Ohms|Farads|Henries|Hertz|Watts|Joules|Seconds|Metres|Tesla|Fraction)$/, '')
    .replace(/Id$/, ' from the drawer')
    .replace(/([A-Z])/g, ' $1')
    .toLowerCase()
    .trim();
  const holder = HOLDERS[parts[parts.length - 2] ?? ''] ?? HOLDERS[parts[0]] ?? '';
  return holder === '' ? sentence(own) : `${holder} ${own}`.trim();
}

/** What a field is called on its card, from its path in the document. */
export function fieldName(difference: Pick<Difference, 'path'>, one: Design, other: Design): string {
  const at = path(difference);
  const section = /^output\.smoothing\.(\d+)$/.exec(at);
  if (section) return `Smoothing section ${Number(section[1]) + 1}`;
  return described(at, [other, one])?.label ?? NAMES[at.replace(/\.\d+(?=\.)/g, '')] ?? nameOf(at);
}

const KIND_NAMES: Readonly<Record<string, (value: string) => string | undefined>> = {
  'supply.kind': (kind) => SUPPLY_NAMES[kind as keyof typeof SUPPLY_NAMES],
  'driver.kind': (kind) => DRIVER_KINDS[kind as keyof typeof DRIVER_KINDS]?.name,
  'load.kind': (kind) => LOAD_KINDS[kind as keyof typeof LOAD_KINDS]?.name,
  'ladder.topology': (kind) => TOPOLOGY_KINDS[kind as keyof typeof TOPOLOGY_KINDS]?.name.toLowerCase(),
};

/** A value as the field would show it, in few words, stages as they are counted. */
export function fieldValue(
  difference: Pick<Difference, 'path'>,
  value: unknown,
  one: Design,
  other: Design,
  counting: Counting,
): string {
  const at = path(difference);
  if (value === null || value === undefined) return 'none';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number') {
    if (at === 'ladder.stages') return String(countOf(value, counting));
    const field = described(at, [other, one]);
    const unit =
      field?.as === 'quantity' ? field.unit : (UNITS_BY_NAME.find(([pattern]) => pattern.test(at))?.[1] ?? '');
    return formatQuantity(value, at === 'spread.strays' ? '' : unit);
  }
  if (Array.isArray(value)) return `${value.length} values`;
  if (typeof value === 'object') {
    const { kind, volts } = value as { kind?: unknown; volts?: unknown };
    if (at === 'target' && typeof volts === 'number') return formatQuantity(volts, 'V');
    return typeof kind === 'string' ? (KIND_NAMES[`${at}.kind`]?.(kind) ?? kind) : 'given';
  }
  const field = described(at, [other, one]);
  const option = field && 'options' in field ? field.options.find((choice) => choice.value === value)?.name : undefined;
  const said = option ?? KIND_NAMES[at]?.(String(value)) ?? String(value);
  return said.length > 30 ? `${said.slice(0, 28)}…` : said;
}

/** Fields that only tell where values came from, or whose values say nothing in a line. */
const UNTOLD = /(partId|^notes$)$/;
/** So many changes are told one by one. */
const TOLD = 4;

/** One field in which two designs differ, as it is called and as either shows it. */
export type ToldDifference = { path: string; name: string; one: string; other: string };

/** The fields in which two designs differ, in words; what says nothing in a line is left out. */
export function toldDifferences(one: Design, other: Design, counting: Counting): ToldDifference[] {
  const told = differences(one, other).filter((difference) => !UNTOLD.test(path(difference)));
  // A driver of another kind has other fields altogether: that it is another says it.
  const kinds = told
    .map(path)
    .filter((at) => at.endsWith('.kind'))
    .map((at) => at.split('.')[0]);
  const plain = told.filter((difference) => {
    const [link, name] = path(difference).split('.');
    return !kinds.includes(link) || name === 'kind';
  });
  return plain.map((difference) => {
    const value = (of: unknown) => fieldValue(difference, of, one, other, counting);
    return {
      path: difference.path,
      name: fieldName(difference, one, other),
      one: value(difference.one),
      other: value(difference.other),
    };
  });
}

/** What changed from one design to the other, in words: "Stages 2 to 12". */
export function changeWords(one: Design, other: Design, counting: Counting): string {
  const found = differences(one, other);
  const words = toldDifferences(one, other, counting).map((told) => `${told.name} ${told.one} to ${told.other}`);
  if (found.some((difference) => path(difference) === 'notes')) words.push('Notes');
  if (words.length === 0) return found.length > 0 ? 'Parts from the drawer' : '';
  return words.length > TOLD ? `${words.slice(0, TOLD).join(', ')} and ${words.length - TOLD} more` : words.join(', ');
}
