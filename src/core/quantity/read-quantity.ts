import { PREFIX_EXPONENTS, typedUnit, UNIT_NAMES, UNIT_SPELLINGS, type Unit, type WrittenUnit } from './units';

/** What came of reading a text: an SI value, or the reason it cannot be one. */
export type QuantityReading = { ok: true; value: number } | { ok: false; reason: string };

const EXAMPLES: ReadonlyMap<Unit, string> = new Map([
  ['V', '6.8k'],
  ['A', '40u'],
  ['s', '100n'],
  ['F', '4n7'],
  ['H', '2m2'],
  ['Ω', '2M2'],
  ['Hz', '38k'],
  ['m', '0.5'],
  ['m²', '110'],
  ['T', '300'],
  ['%', '2'],
  ['', '8'],
]);

/** Spellings of a prefix beyond the printed ones: capitals no hobby value could mean otherwise, and words. */
const PREFIX_SPELLINGS: ReadonlyMap<string, string> = new Map([
  ['K', 'k'],
  ['U', 'u'],
  ['N', 'n'],
  ['P', 'p'],
  ['meg', 'M'],
  ['Meg', 'M'],
  ['MEG', 'M'],
  ['kilo', 'k'],
  ['mega', 'M'],
  ['milli', 'm'],
  ['micro', 'u'],
  ['nano', 'n'],
  ['pico', 'p'],
]);

const refuse = (reason: string): QuantityReading => ({ ok: false, reason });

/**
 * The SI value of a quantity as a hobbyist writes it.
 *
 * Reads plain and scientific numbers (`1e-9`), a prefix after the number
 * (`470n`, `0.47u`, `6.8 kV`) or in place of the decimal point (`4n7`, `2M2`,
 * `4R7`), and a decimal comma (`6,8k`). A comma before exactly three digits is
 * refused as ambiguous rather than guessed. `m` is milli and `M` is mega.
 *
 * @param text what was typed
 * @param unit the unit expected; the text may name it or leave it out. With
 *   '%' the result is the fraction: `2` and `2 %` both give 0.02
 * @param typedIn what a number without a unit stands for: millimetres where
 *   lengths are read, millitesla for flux density, else the unit itself
 * @returns the value in SI base units, or the reason the text is refused
 * @remarks Never throws. The sign is kept: whether a negative value makes
 *   sense is for the design schema to say. The decimal digits are never
 *   rounded: `4n7` is the same double as `4.7e-9`. Source: IEC 60062 (letter
 *   in place of the decimal point), from memory.
 */
export function readQuantity(text: string, unit: Unit = '', typedIn: WrittenUnit = typedUnit(unit)): QuantityReading {
  const tidy = text
    .trim()
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/[\u00b5\u03bc]/g, 'u')
    .replace(/\u2126/g, 'Ω')
    .replace(/[\u00a0\u202f\u2009]/g, ' ');
  const example = EXAMPLES.get(unit) ?? '4.7';
  if (tidy === '') return refuse(`Nothing entered. Write a value such as ${example}.`);

  const letterAsPoint = /^([+-]?\d*)([fpnumkMGTKURr])(\d+)\s*(.*)$/.exec(tidy);
  if (letterAsPoint && (letterAsPoint[1] !== '' || letterAsPoint[2] !== '')) {
    const [, whole, letter, decimals, rest] = letterAsPoint;
    if (/^[Rr]$/.test(letter) && unit !== 'Ω' && unit !== '')
      return refuse(`R marks ohms; ${UNIT_NAMES.get(unit)} are wanted here, such as ${example}.`);
    const tail = readTail(rest, unit, unit === '%' ? 0.01 : 1, example);
    if (!tail.ok) return tail;
    if (tail.value !== (unit === '%' ? -2 : 0))
      return refuse(`Two prefixes in “${text.trim()}”. Write one, such as ${example}.`);
    const exponent = tail.value + (/^[Rr]$/.test(letter) ? 0 : prefixExponent(letter)!);
    return finish(`${whole === '' || whole === '-' || whole === '+' ? `${whole}0` : whole}.${decimals}`, exponent);
  }

  const plain = /^([+-]?(?:\d[\d.,]*|[.,]\d+))(?:[eE]([+-]?\d+))?\s*(.*)$/.exec(tidy);
  if (!plain) return refuse(`“${text.trim()}” is not a number. Write a value such as ${example}.`);
  const [, number, scientific, rest] = plain;
  const digits = readDecimal(number);
  if (!digits.ok) return digits;
  const tail = readTail(rest, unit, typedIn.per, example);
  if (!tail.ok) return tail;
  return finish(digits.text, Number(scientific ?? 0) + tail.value);
}

function readDecimal(number: string): { ok: true; text: string } | { ok: false; reason: string } {
  const points = number.match(/[.,]/g) ?? [];
  if (points.length > 1)
    return {
      ok: false,
      reason: `“${number}” has more than one decimal mark. Write it without grouping, such as 1234.5.`,
    };
  const grouped = /^[+-]?([1-9]\d{0,2}),(\d{3})$/.exec(number);
  if (grouped)
    return {
      ok: false,
      reason: `“${number}” could mean ${grouped[1]}.${grouped[2]} or ${grouped[1]}${grouped[2]}. Write one of those.`,
    };
  return { ok: true, text: number.replace(',', '.') };
}

/** The exponent that a prefix and unit after the number stand for, or why they cannot. */
function readTail(rest: string, unit: Unit, bareStandsFor: number, example: string): QuantityReading {
  const tail = rest.trim();
  if (tail === '') return { ok: true, value: Math.round(Math.log10(bareStandsFor)) };
  // A lone letter that is both a prefix and the expected unit's symbol ("5 F" in farads) is the unit.
  const spellings = UNIT_SPELLINGS.get(unit) ?? [];
  if (spellings.includes(tail)) return { ok: true, value: unit === '%' ? -2 : 0 };
  // A square millimetre is a millionth of a square metre.
  const power = unit === 'm²' ? 2 : 1;
  const bare = prefixExponent(tail);
  if (unit === '%') return refuse(`“${tail}” does not belong to a percentage. Write, for example, ${example}.`);
  if (bare !== undefined && unit !== 'm²') return { ok: true, value: bare };
  for (const spelling of spellings) {
    if (!tail.endsWith(spelling)) continue;
    const exponent = prefixExponent(tail.slice(0, tail.length - spelling.length).trim());
    if (exponent !== undefined) return { ok: true, value: power * exponent };
  }
  if (unit === 'V' && /(rms|eff|pp|p-p|pk|peak)/i.test(tail))
    return refuse('Choose RMS, peak or peak-to-peak beside the field, and write the number alone.');
  for (const [other, otherSpellings] of UNIT_SPELLINGS) {
    if (other === unit) continue;
    const found = otherSpellings.find(
      (spelling) =>
        tail.endsWith(spelling) && prefixExponent(tail.slice(0, tail.length - spelling.length).trim()) !== undefined,
    );
    if (found)
      return refuse(`“${tail}” is ${UNIT_NAMES.get(other)}; ${UNIT_NAMES.get(unit)} wanted here, such as ${example}.`);
  }
  return refuse(`“${tail}” after the number is not a unit known here. Write, for example, ${example}.`);
}

function prefixExponent(prefix: string): number | undefined {
  return PREFIX_EXPONENTS.get(PREFIX_SPELLINGS.get(prefix) ?? prefix);
}

function finish(decimal: string, exponent: number): QuantityReading {
  const value = Number(`${decimal}e${exponent}`);
  if (!Number.isFinite(value)) return refuse('That number is too large to compute with.');
  return { ok: true, value };
}
