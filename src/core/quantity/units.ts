/** The units a quantity can be entered or shown in; '' is a bare count or factor. */
export type Unit = 'V' | 'A' | 's' | 'F' | 'H' | 'Ω' | 'Hz' | 'W' | 'J' | 'C' | '%' | '';

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
  ['%', 'percent'],
  ['', 'a plain number'],
]);
