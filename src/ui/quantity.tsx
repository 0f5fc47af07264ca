import { quantityParts } from '@/core/quantity/format-quantity';
import type { Unit } from '@/core/quantity/units';

/** A value with lined-up digits and a lighter unit; an en dash where there is none. */
export function Quantity({
  value,
  unit,
  digits = 3,
  plus = false,
}: {
  value: number | null;
  unit: Unit;
  digits?: number;
  /** Whether a plus stands before what is above zero: of a difference or a margin. */
  plus?: boolean;
}) {
  const printed = quantityParts(value ?? NaN, unit, digits);
  return (
    <span className="whitespace-nowrap">
      <span className="figures">
        {plus && value !== null && value > 0 && /^\d/.test(printed.digits) ? '+' : ''}
        {printed.digits}
      </span>
      {value === null || printed.unit === '' ? null : <span className="text-[0.86em] text-soft"> {printed.unit}</span>}
    </span>
  );
}
