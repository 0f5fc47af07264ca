import { isReading, type Entry } from './entries';
import { standing } from './session';

/**
 * Fractions of the full drive from a list of per cents, as it is typed:
 * "25, 50, 100". Numbers are parted by commas, semicolons or spaces; a comma
 * between digits parts them too.
 *
 * @returns ascending, each once; null where a part of it is no number
 */
export function fractionsIn(text: string): number[] | null {
  const parts = text.split(/[\s,;%]+/).filter((part) => part !== '');
  const values = parts.map((part) => (/^\d+(\.\d+)?$/.test(part) ? Number(part) / 100 : NaN));
  return values.some(Number.isNaN) ? null : ascending(values);
}

export const fractionsText = (fractions: readonly number[]): string =>
  fractions.map((fraction) => Number((100 * fraction).toPrecision(6))).join(', ');

const ascending = (values: readonly number[]): number[] => [...new Set(values)].toSorted((a, b) => a - b);

/** The steps one goes by, and those besides at which something was read. */
export const fractionsWith = (fractions: readonly number[], entries: readonly Entry[]): number[] =>
  ascending([
    ...fractions,
    ...standing(entries)
      .filter(isReading)
      .flatMap(({ kind, at }) => (kind === 'output' && Number(at) > 0 && Number(at) <= 1 ? [Number(at)] : [])),
  ]);
