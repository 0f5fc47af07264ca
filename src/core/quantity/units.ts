/** The units a quantity can be entered or shown in; '' is a bare count or factor. Values are SI base units, '%' a fraction. */
export type Unit =
  | 'V'
  | 'A'
  | 's'
  | 'F'
  | 'H'
  | 'Ω'
  | 'S'
  | 'Hz'
  | 'W'
  | 'J'
  | 'C'
  | 'm'
  | 'm²'
  | 'm³'
  | 'T'
  | 'K'
  | '°C'
  | '°'
  | 'VA'
  | 'V·s'
  | 'V/s'
  | 'A/V²'
  | 'Ah'
  | '%'
  | '';

/** How a unit is written where the trade does not use its engineering prefixes: its name, and what one of it is in the unit. */
export type WrittenUnit = { name: string; per: number };

const MILLIMETRE: WrittenUnit = { name: 'mm', per: 1e-3 };
const SQUARE_MILLIMETRE: WrittenUnit = { name: 'mm²', per: 1e-6 };
export const METRE: WrittenUnit = { name: 'm', per: 1 };

/** Lengths and areas are written in millimetres, volumes in cubic centimetres, slopes per microsecond; temperatures and angles take no prefix. */
export function writtenUnit(unit: Unit, value: number): WrittenUnit | null {
  switch (unit) {
    case 'm':
      return Math.abs(value) >= 1 ? METRE : MILLIMETRE;
    case 'm²':
      return Math.abs(value) >= 0.1 ? { name: 'm²', per: 1 } : SQUARE_MILLIMETRE;
    case 'm³':
      return { name: 'cm³', per: 1e-6 };
    case 'V/s':
      return { name: 'V/µs', per: 1e6 };
    case 'K':
    case '°C':
    case '°':
      return { name: unit, per: 1 };
    case '%':
      return { name: unit, per: 0.01 };
    default:
      return null;
  }
}

/** What a bare number typed into a field of a unit stands for, and what is written behind the field. */
export function typedUnit(unit: Unit): WrittenUnit {
  if (unit === 'm') return MILLIMETRE;
  if (unit === 'm²') return SQUARE_MILLIMETRE;
  if (unit === 'T') return { name: 'mT', per: 1e-3 };
  return { name: unit, per: unit === '%' ? 0.01 : 1 };
}

/** Power of ten for each engineering prefix that is printed (SI Brochure, 9th edition, table 7). */
export const PREFIX_EXPONENTS: ReadonlyMap<string, number> = new Map([
  ['f', -15],
  ['p', -12],
  ['n', -9],
  ['u', -6],
  ['m', -3],
  ['', 0],
  ['k', 3],
  ['M', 6],
  ['G', 9],
  ['T', 12],
]);

/** The same table read the other way: which prefix stands for an exponent. */
export const PREFIX_FOR_EXPONENT: ReadonlyMap<number, string> = new Map(
  [...PREFIX_EXPONENTS].map(([prefix, exponent]) => [exponent, prefix]),
);

/** Ways people write each unit; compared without regard to case except for one-letter symbols. */
export const UNIT_SPELLINGS: ReadonlyMap<Unit, readonly string[]> = new Map([
  ['V', ['V', 'v', 'volt', 'volts']],
  ['A', ['A', 'a', 'amp', 'amps', 'ampere', 'amperes']],
  ['s', ['s', 'S', 'sec', 'second', 'seconds']],
  ['F', ['F', 'farad', 'farads']],
  ['H', ['H', 'henry', 'henries']],
  ['Ω', ['Ω', 'Ω', 'R', 'r', 'ohm', 'ohms']],
  ['Hz', ['Hz', 'hz', 'HZ', 'hertz']],
  ['W', ['W', 'w', 'watt', 'watts']],
  ['J', ['J', 'j', 'joule', 'joules']],
  ['C', ['C', 'coulomb', 'coulombs']],
  ['m', ['m', 'metre', 'metres', 'meter', 'meters']],
  ['m²', ['m²', 'm2']],
  ['m³', ['m³', 'm3']],
  ['T', ['T', 'tesla']],
  ['K', ['K', 'kelvin']],
  ['°C', ['°C', 'C']],
  ['°', ['°', 'deg', 'degrees']],
  ['VA', ['VA', 'va']],
  ['V·s', ['V·s', 'Vs', 'V s']],
  ['V/s', ['V/s']],
  ['A/V²', ['A/V²', 'A/V2']],
  ['Ah', ['Ah', 'ah']],
  ['%', ['%', 'percent']],
]);

/** What each unit is called in a sentence. */
export const UNIT_NAMES: ReadonlyMap<Unit, string> = new Map([
  ['V', 'volts'],
  ['A', 'amperes'],
  ['s', 'seconds'],
  ['F', 'farads'],
  ['H', 'henries'],
  ['Ω', 'ohms'],
  ['Hz', 'hertz'],
  ['W', 'watts'],
  ['J', 'joules'],
  ['C', 'coulombs'],
  ['m', 'metres'],
  ['m²', 'square metres'],
  ['m³', 'cubic metres'],
  ['T', 'tesla'],
  ['K', 'kelvins'],
  ['°C', 'degrees Celsius'],
  ['°', 'degrees'],
  ['VA', 'volt-amperes'],
  ['V·s', 'volt-seconds'],
  ['V/s', 'volts a second'],
  ['A/V²', 'amperes a square volt'],
  ['Ah', 'ampere-hours'],
  ['%', 'percent'],
  ['', 'a plain number'],
]);
