/** What is printed on a part: its value in the SI unit, and its tolerance as a fraction where a letter tells it. */
export type Marking = { value: number; tolerance: number | null };

/**
 * Letters of tolerance (IEC 60062, from memory). B, C and D are parts of a
 * picofarad and Z is lopsided, -20 to +80 %: no fraction says those.
 */
const TOLERANCES: Readonly<Record<string, number | null>> = {
  B: null,
  C: null,
  D: null,
  F: 0.01,
  G: 0.02,
  J: 0.05,
  K: 0.1,
  M: 0.2,
  Z: null,
};

/** The third digit says how many noughts follow the first two; 8 and 9 divide (IEC 60062, from memory; 8 and 9 common practice). */
const NOUGHTS: Readonly<Record<string, number>> = { 0: 0, 1: 1, 2: 2, 3: 3, 4: 4, 5: 5, 6: 6, 8: -2, 9: -1 };

/** The value as the shortest decimal, so that 103 is the same double as 10e-9. */
const scaled = (digits: string, exponent: number) => Number(`${digits}e${exponent}`);

const PREFIXES: Readonly<Record<string, number>> = { p: -12, n: -9, u: -6, m: -3, R: 0, K: 3, k: 3, M: 6 };

/** Digits with a letter in place of the point, as in 4n7 and 2M2; null where it is none. */
function pointed(text: string, letters: string): { value: number; rest: string } | null {
  const found = new RegExp(`^(\\d*)([${letters}])(\\d*)(.*)$`).exec(text);
  if (!found || (found[1] === '' && found[3] === '')) return null;
  return { value: scaled(`${found[1] || '0'}.${found[3] || '0'}`, PREFIXES[found[2]]), rest: found[4] };
}

/**
 * What a marking on a capacitor means: three digits in picofarads (103), with
 * a letter of tolerance (103K), two digits with a letter (33J), or a letter in
 * place of the point with one of tolerance (4n7K) (IEC 60062, from memory).
 *
 * @returns F; null for what is no marking, and for 4n7 without a tolerance, which is a plain value
 */
export function capacitorMarking(text: string): Marking | null {
  const code = /^(\d\d)([0-689])?([BCDGJKMZ])?$/.exec(text);
  if (code && (code[2] !== undefined || code[3] !== undefined))
    return {
      value: scaled(code[1], NOUGHTS[code[2] ?? '0'] - 12),
      tolerance: code[3] === undefined ? null : TOLERANCES[code[3]],
    };
  const value = pointed(text.replace(/[\u00b5\u03bc]/g, 'u'), 'pnum');
  return value && /^[BCDGJKMZ]$/.test(value.rest) ? { value: value.value, tolerance: TOLERANCES[value.rest] } : null;
}

/**
 * What a marking on a resistor means: three digits in ohms with a J of
 * tolerance (472J), or a letter in place of the point with one of tolerance
 * (4K7J, 470RK) (IEC 60062, from memory). 472K and 472M are left to the prefix.
 *
 * @returns Ω; null for what is no marking, and for 4K7 without a tolerance, which is a plain value
 */
export function resistorMarking(text: string): Marking | null {
  const code = /^(\d\d)([0-6])J$/.exec(text);
  if (code) return { value: scaled(code[1], NOUGHTS[code[2]]), tolerance: TOLERANCES.J };
  const value = pointed(text, 'RKkM');
  return value && /^[FGJKM]$/.test(value.rest) ? { value: value.value, tolerance: TOLERANCES[value.rest] } : null;
}

/** First digits of markings that are sold (E24, IEC 60063). */
const E24 = /^(1[0123568]|2[0247]|3[0369]|43|47|51|56|62|68|75|82|91)$/;

/** What three bare digits would be on a resistor, Ω; null where nobody would read them so: 470 is 470 Ω. */
export function likelyResistorCode(text: string): number | null {
  const code = /^(\d\d)([2-6])$/.exec(text);
  return code && E24.test(code[1]) ? scaled(code[1], NOUGHTS[code[2]]) : null;
}
