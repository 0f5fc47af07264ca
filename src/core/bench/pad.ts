import type { Unit } from '../quantity/units';

const WITH_PREFIX: Partial<Record<Unit, readonly string[]>> = { V: ['mV', 'V', 'kV'], A: ['µA', 'mA', 'A'] };

/** The units, with their prefixes, that a number pad offers. */
export const padUnits = (unit: Unit): readonly string[] => WITH_PREFIX[unit] ?? [unit];

/** The longest number that the pad takes, in digits. */
const MOST_DIGITS = 8;

export type PadKey = '0' | '1' | '2' | '3' | '4' | '5' | '6' | '7' | '8' | '9' | '.' | '±' | '⌫';

/** What stands on the pad after one more key; a key that leads to no number changes nothing. */
export function padded(text: string, key: PadKey): string {
  if (key === '⌫') return text.slice(0, -1);
  if (key === '±') return text.startsWith('-') ? text.slice(1) : `-${text}`;
  if (key === '.') return text.includes('.') ? text : `${text.replace(/^-?$/, '$&0')}.`;
  if (text.replaceAll(/\D/g, '').length >= MOST_DIGITS) return text;
  return text.replace(/^(-?)0$/, '$1') + key;
}
