import { PREFIX_FOR_EXPONENT, typedUnit, writtenUnit, type Unit, type WrittenUnit } from './units';

/** A value cut for display: digits to line up, then the lighter prefix and unit. */
export type QuantityParts = { digits: string; unit: string };

const LEAST_EXPONENT = -15;
const GREATEST_EXPONENT = 12;

/** Digits and decimal exponent of a finite, non-zero number in scientific form. */
function scientific(
  value: number,
  significantDigits?: number,
): { negative: boolean; digits: string; exponent: number } {
  const [mantissa, exponent] = Math.abs(value)
    .toExponential(significantDigits === undefined ? undefined : significantDigits - 1)
    .split('e');
  return { negative: value < 0, digits: mantissa.replace('.', ''), exponent: Number(exponent) };
}

function engineering(value: number, significantDigits?: number): { number: string; exponent: number } {
  const { negative, digits, exponent } = scientific(value, significantDigits);
  const wanted = Math.floor(exponent / 3) * 3;
  const shown = Math.min(GREATEST_EXPONENT, Math.max(LEAST_EXPONENT, wanted));
  const places = exponent - shown + 1;
  const padded = places <= 0 ? '0'.repeat(1 - places) + digits : digits.padEnd(places, '0');
  const cut = places <= 0 ? 1 : places;
  const fraction = padded.slice(cut);
  return {
    number: `${negative ? '-' : ''}${padded.slice(0, cut)}${fraction === '' ? '' : `.${fraction}`}`,
    exponent: shown,
  };
}

/**
 * The shortest text that reads back as exactly this value: `4.7n`, `2.2M`.
 *
 * @param value SI base units; any finite number
 * @param significantDigits rounds to this many digits and drops trailing
 *   zeros; absent, every digit needed to read back the same double is kept
 * @returns text that `readQuantity` accepts; `u` stands for micro so that it
 *   can be typed
 * @throws RangeError for NaN or an infinity
 */
export function printQuantity(value: number, significantDigits?: number): string {
  if (!Number.isFinite(value)) throw new RangeError(`printQuantity: ${value} is not a finite number`);
  if (value === 0) return '0';
  const { number, exponent } = engineering(
    significantDigits === undefined ? value : Number(value.toPrecision(significantDigits)),
  );
  if (Math.abs(value) < 1e-15 || Math.abs(value) >= 1e15) return String(value);
  return `${number}${PREFIX_FOR_EXPONENT.get(exponent)}`;
}

/** Bare numbers in this range are shown without a prefix: half a millimetre under "mm" is 0.5, not 500m. */
const BARE = { least: 1e-4, under: 1e7 };
const isBare = (value: number) => value === 0 || (Math.abs(value) >= BARE.least && Math.abs(value) < BARE.under);

/**
 * What a field of this unit shows of a value: with a prefix where the unit takes
 * one, plain for per cent, bare numbers, and units that are written in one size.
 *
 * @param typedIn what a bare number in the field stands for
 * @returns text that `readQuantity` of the same unit accepts
 */
export function printForField(
  value: number,
  unit: Unit,
  significantDigits?: number,
  typedIn: WrittenUnit = typedUnit(unit),
): string {
  const shown = Number((value / typedIn.per).toPrecision(15));
  const plain = (typedIn.per !== 1 || unit === '' || writtenUnit(unit, value) !== null) && isBare(shown);
  return plain ? String(Number(shown.toPrecision(significantDigits ?? 12))) : printQuantity(shown, significantDigits);
}

/** From this factor on a fraction is not written in per cent: its digits would say more than is known. */
const OVER_TIMES = 10;

/**
 * A value in engineering notation with a fixed number of significant digits,
 * so that columns of tabular figures line up: `6.80` and `kV`.
 *
 * @param value SI base units; with unit '%' a fraction, shown times a hundred up to a thousand per cent
 * @param unit the unit, or '' for none
 * @param significantDigits from 1 to 15, default 3
 * @returns digits, and prefix with unit; NaN and infinities print as an en dash
 */
export function quantityParts(value: number, unit: Unit, significantDigits = 3): QuantityParts {
  if (!Number.isFinite(value)) return { digits: '–', unit };
  if (unit === '%' && Math.abs(value) >= OVER_TIMES)
    return { digits: `${value < 0 ? '−' : ''}over ${OVER_TIMES} times`, unit: '' };
  const written = writtenUnit(unit, value);
  if (written) return { digits: formatPlain(value / written.per, significantDigits), unit: written.name };
  if (value === 0) return { digits: '0', unit };
  if (unit !== '' && Math.abs(value) < 10 ** LEAST_EXPONENT) return { digits: 'under 1', unit: `f${unit}` };
  if (unit !== '' && Math.abs(value) >= 10 ** (GREATEST_EXPONENT + 3))
    return { digits: `${value < 0 ? '−' : ''}over 999`, unit: `T${unit}` };
  if (unit === '' && isBare(value)) {
    // A count is shown as one: 12 turns, not 12.0.
    const digits = Number.isInteger(value) ? String(value).replace('-', '−') : formatPlain(value, significantDigits);
    return { digits, unit };
  }
  const { number, exponent } = engineering(value, significantDigits);
  const prefix = PREFIX_FOR_EXPONENT.get(exponent)!;
  return { digits: number.replace('-', '−'), unit: `${prefix === 'u' ? 'µ' : prefix}${unit}` };
}

/** The same as {@link quantityParts} in one string, for sentences: `6.80 kV`, held together by a no-break space. */
export function formatQuantity(value: number, unit: Unit, significantDigits = 3): string {
  const printed = quantityParts(value, unit, significantDigits);
  return printed.unit === '' ? printed.digits : `${printed.digits}\u00a0${printed.unit}`;
}

/**
 * A number with a fixed count of significant digits and no prefix, for figures
 * along a scale that names its unit once: `1250`, `38.0`, `0.412`.
 */
export function formatPlain(value: number, significantDigits = 3): string {
  if (value === 0) return '0';
  const rounded = Number(value.toPrecision(significantDigits));
  const decimals = Math.max(0, significantDigits - 1 - Math.floor(Math.log10(Math.abs(rounded))));
  return rounded.toFixed(Math.min(decimals, 12)).replace('-', '−');
}

/**
 * The prefix that suits the greatest value of a scale.
 *
 * @returns what the scale's figures are divided by, and the name of its unit
 */
export function engineeringScale(greatest: number, unit: Unit): { per: number; name: string } {
  if (greatest === 0 || !Number.isFinite(greatest)) return { per: 1, name: unit };
  const written = writtenUnit(unit, greatest);
  if (written) return written;
  const { exponent } = engineering(greatest, 3);
  return { per: 10 ** exponent, name: quantityParts(greatest, unit).unit };
}

const counts = new Intl.NumberFormat('en');
/** A whole number of things, its thousands apart. */
export const formatCount = (count: number): string => counts.format(count);
