import { formatQuantity } from '../quantity/format-quantity';
import type { Requirements } from './requirements';
import type { Choices } from './choose';
import { formOf, type ChoiceRow } from './row';
import type { Counting } from '../quantity/counting';

/** The target in words: "-38 kV at 40 uA, ripple up to 2 %". */
export function formatTarget({ volts, amps, polarity, of, ripplePeakToPeakFraction }: Requirements['target']): string {
  const height = `${formatQuantity(polarity === 'negative' ? -volts : volts, 'V')}${of === 'mean' ? '' : of === 'peak' ? ' peak' : ' in the valley of the ripple'}`;
  const load = amps > 0 ? `${height} at ${formatQuantity(amps, 'A')}` : `${height} without load`;
  return ripplePeakToPeakFraction === null
    ? load
    : `${load}, ripple up to ${formatQuantity(ripplePeakToPeakFraction, '%', 2)}`;
}

/** Why this one: what was asked, what it gives, what limits it and what the next best would have been, for the design's notes. */
export function reasonsOf(
  row: ChoiceRow,
  { evaluated, fitting, rows, reached }: Choices,
  requirements: Requirements,
  counting: Counting,
): string {
  const lines = [
    `Chosen for ${formatTarget(requirements.target)}: ${formOf(row.shape, counting)}; ${row.capacitors}; ${row.diodes}${row.drive === '' ? '' : `; ${row.drive}`}.`,
    `Predicted ${formatQuantity(row.meanVolts, 'V')} mean, ripple ${formatQuantity(row.rippleFraction, '%', 2)}, ${row.parts} parts, ${formatQuantity(row.joules, 'J')} stored${row.margin === null ? '' : `, smallest margin ${formatQuantity(row.margin, '%', 2)}`}.`,
    `Limiting factor: ${row.limit}.`,
    reached
      ? `Of ${evaluated} candidates evaluated, ${fitting} meet the target.`
      : `None of ${evaluated} candidates evaluated meets the target; this is one that comes near.`,
  ];
  const built = ({ design: { ladder }, capacitors }: ChoiceRow) => `${ladder.topology} ${ladder.stages} ${capacitors}`;
  const other = rows.find((one) => built(one) !== built(row));
  if (other)
    lines.push(
      `Weighed against it: ${formOf(other.shape, counting)}; ${other.capacitors}; ${other.diodes} (${other.parts} parts, ${formatQuantity(other.joules, 'J')}, ripple ${formatQuantity(other.rippleFraction, '%', 2)}).`,
    );
  const missing = row.taken.filter((part) => part.missing > 0);
  if (missing.length > 0)
    lines.push(`To get first: ${missing.map((part) => `${part.missing} more of ${part.name}`).join(', ')}.`);
  return lines.join('\n');
}
