import { formatQuantity } from '../quantity/format-quantity';
import { readQuantity } from '../quantity/read-quantity';
import type { Unit } from '../quantity/units';

/**
 * A reading as it is typed: a quantity, with a sign where its kind has one.
 *
 * @param most that the meter is for, as its display would show it; null without a limit
 */
export function typedReading(
  text: string,
  unit: Unit,
  { isSigned, most }: { isSigned: boolean; most: number | null },
): { value: number } | { fault: string } {
  const sign = /^\s*([-−+])/.exec(text)?.[1] ?? '';
  if (sign !== '' && sign !== '+' && !isSigned)
    return { fault: 'It has no sign: a number of zero or more would be right.' };
  const read = readQuantity(text.replace(/^\s*[-−+]/, ''), unit);
  if (!read.ok) return { fault: read.reason };
  if (most !== null && read.value > most)
    return {
      fault: `${formatQuantity(read.value, unit)} is more than the meter is for, ${formatQuantity(most, unit)}; a reading of it would be no reading.`,
    };
  return { value: sign === '' || sign === '+' ? read.value : -read.value };
}
