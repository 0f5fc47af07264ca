import { formatQuantity } from './format-quantity';
import { capacitorMarking, likelyResistorCode, resistorMarking } from './markings';
import { PREFIX_EXPONENTS, typedUnit, UNIT_NAMES, UNIT_SPELLINGS, type Unit, type WrittenUnit } from './units';

/** What came of reading a text: an SI value, or the reason it cannot be one. */
export type QuantityReading =
  | {
      ok: true;
      value: number;
      /** Whether the text says that a voltage alternates, RMS. */
      alternating?: true;
    }
  | {
      ok: false;
      reason: string;
      /** What may have been meant, each as it is named and its value, where the text leaves that in doubt. */
      offers?: readonly { name: string; value: number }[];
    };

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
 * `4R7`), a decimal comma (`6,8k`), markings with a letter of tolerance
 * (`103K`, `4n7J`), products and quotients (`2x470k`, `3/2`), and "dc" or "AC"
 * behind volts. A comma before exactly three digits is refused as ambiguous
 * rather than guessed, and so is a bare number that nobody means as farads:
 * what may have been meant is offered. `m` is milli and `M` is mega.
 *
 * @param text what was typed
 * @param unit the unit expected; the text may name it or leave it out. With
 *   '%' the result is the fraction: `2` and `2 %` both give 0.02
 * @param typedIn what a number without a unit stands for: millimetres where
 *   lengths are read, millitesla for flux density, else the unit itself
 * @param printed whether ohms are those of a part, on which three digits are a
 *   marking, and not those of a meter's reading
 * @returns the value in SI base units, or the reason the text is refused
 * @remarks Never throws. The sign is kept: whether a negative value makes
 *   sense is for the design schema to say. The decimal digits are never
 *   rounded: `4n7` is the same double as `4.7e-9`. Source: IEC 60062 (letter
 *   in place of the decimal point), from memory.
 */
export function readQuantity(
  text: string,
  unit: Unit = '',
  typedIn: WrittenUnit = typedUnit(unit),
  printed = false,
): QuantityReading {
  const tidy = text
    .trim()
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/[\u00b5\u03bc]/g, 'u')
    .replace(/\u2126/g, 'Ω')
    .replace(/[\u00a0\u202f\u2009]/g, ' ');
  const example = EXAMPLES.get(unit) ?? '4.7';
  if (tidy === '') return refuse(`Nothing entered. Write a value such as ${example}.`);
  const factors = tidy.split(/\s*([x×*]|\/(?=\s*[\d.,]|$))\s*/);
  if (factors.length > 1) return calculated(factors, unit, typedIn, example);
  return asMarked(tidy, unit, printed) ?? asVolts(tidy, unit, typedIn) ?? asWritten(tidy, unit, typedIn, example);
}

/** "2x470k", "470p*2", "3/2": one factor is the quantity, the others are plain numbers. */
function calculated(factors: readonly string[], unit: Unit, typedIn: WrittenUnit, example: string): QuantityReading {
  const operands = factors.filter((_, at) => at % 2 === 0);
  if (operands.includes(''))
    return refuse(`A number is missing in that calculation. Write, for example, 2x${example}.`);
  const isPlain = (operand: string) => /^[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?$/i.test(operand);
  const named = operands.findIndex((operand) => !isPlain(operand));
  const quantity = Math.max(0, named);
  if (operands.some((operand, at) => at !== quantity && !isPlain(operand)) || factors[2 * quantity - 1] === '/')
    return refuse(
      `Only one of the numbers can have a unit, and it is not divided by. Write, for example, 2x${example}.`,
    );
  // Alone it would have to be asked about; among factors a bare number is one.
  const base = named < 0 ? readQuantity(operands[0], '') : readQuantity(operands[quantity], unit, typedIn);
  if (!base.ok) return base;
  let value = named < 0 ? base.value * typedIn.per : base.value;
  for (const [at, operand] of operands.entries()) {
    if (at === quantity) continue;
    const factor = Number(operand.replace(',', '.'));
    value = factors[2 * at - 1] === '/' ? value / factor : value * factor;
  }
  const rounded = Number(value.toPrecision(15));
  if (!Number.isFinite(rounded)) return refuse('That calculation has no result: is something divided by zero?');
  return unit === 'F' && named < 0 ? askFarads(String(rounded), rounded) : { ...base, value: rounded };
}

/** From this on a bare number of farads is a slip, F. */
const NO_FARADS = 1e-3;

/** What is printed on a part, or a bare number that may be that; null for what is plainly a value. */
function asMarked(tidy: string, unit: Unit, printed: boolean): QuantityReading | null {
  if (unit === 'F') {
    const marking = capacitorMarking(tidy);
    const isBare = /^\d+([.,]\d+)?$/.test(tidy);
    if (marking && !isBare) return { ok: true, value: marking.value };
    const bare = Number(tidy.replace(',', '.'));
    return isBare && bare >= NO_FARADS ? askFarads(tidy, bare, marking?.value) : null;
  }
  if (unit !== 'Ω') return null;
  const marking = resistorMarking(tidy);
  if (marking) return { ok: true, value: marking.value };
  const likely = printed ? likelyResistorCode(tidy) : null;
  if (likely === null) return null;
  return {
    ok: false,
    reason: `“${tidy}” printed on a resistor is ${formatQuantity(likely, 'Ω')}. Which is meant?`,
    offers: [likely, Number(tidy)].map((value) => ({ name: formatQuantity(value, 'Ω'), value })),
  };
}

function askFarads(written: string, bare: number, marked?: number): QuantityReading {
  const meant = [
    ...(marked === undefined ? [] : [marked]),
    ...['p', 'n', 'u'].map((prefix) => Number(`${bare}e${PREFIX_EXPONENTS.get(prefix)}`)),
  ];
  const offers = [...new Set(meant)].slice(0, 3).map((value) => ({ name: formatQuantity(value, 'F'), value }));
  return {
    ok: false,
    reason:
      marked === undefined
        ? `“${written}” without a unit would be farads. Which is meant?`
        : `“${written}” printed on a capacitor is ${formatQuantity(marked, 'F')}. Which is meant?`,
    offers,
  };
}

/** Volts marked as direct or alternating: "2 kV DC", "2100 VAC", "230 V~". */
function asVolts(tidy: string, unit: Unit, typedIn: WrittenUnit): QuantityReading | null {
  const marked = unit === 'V' ? /^(.*?\d\s*[kKmMu]?[vV]?)\s*(dc|ac|=|~)$/i.exec(tidy) : null;
  if (!marked) return null;
  const reading = readQuantity(marked[1], unit, typedIn);
  return reading.ok && /^(ac|~)$/i.test(marked[2]) ? { ...reading, alternating: true } : reading;
}

function asWritten(tidy: string, unit: Unit, typedIn: WrittenUnit, example: string): QuantityReading {
  const letterAsPoint = /^([+-]?\d*)([fpnumkMGTKURr])(\d+)\s*(.*)$/.exec(tidy);
  if (letterAsPoint && (letterAsPoint[1] !== '' || letterAsPoint[2] !== '')) {
    const [, whole, letter, decimals, rest] = letterAsPoint;
    if (/^[Rr]$/.test(letter) && unit !== 'Ω' && unit !== '')
      return refuse(`R marks ohms; ${UNIT_NAMES.get(unit)} are wanted here, such as ${example}.`);
    const tail = readTail(rest, unit, unit === '%' ? 0.01 : 1, example);
    if (!tail.ok) return tail;
    if (tail.value !== (unit === '%' ? -2 : 0))
      return refuse(`Two prefixes in “${tidy}”. Write one, such as ${example}.`);
    const exponent = tail.value + (/^[Rr]$/.test(letter) ? 0 : prefixExponent(letter)!);
    return finish(`${whole === '' || whole === '-' || whole === '+' ? `${whole}0` : whole}.${decimals}`, exponent);
  }

  const plain = /^([+-]?(?:\d[\d.,]*|[.,]\d+))(?:[eE]([+-]?\d+))?\s*(.*)$/.exec(tidy);
  if (!plain) return refuse(`“${tidy}” is not a number. Write a value such as ${example}.`);
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
