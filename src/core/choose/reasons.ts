import { sayQuantity } from '../quantity/format-quantity';
import type { Ask } from './requirements';
import type { Choices } from './choose';
import type { ChoiceRow } from './row';

/** The target in words: "-38 kV at 40 uA, ripple up to 2 %". */
export function sayTarget({ volts, amps, polarity, ripplePeakToPeakFraction }: Ask['target']): string {
  const height = sayQuantity(polarity === 'negative' ? -volts : volts, 'V');
  const load = amps > 0 ? `${height} at ${sayQuantity(amps, 'A')}` : `${height} without load`;
  return ripplePeakToPeakFraction === null
    ? load
    : `${load}, ripple up to ${sayQuantity(ripplePeakToPeakFraction, '%', 2)}`;
}

/** Why this one: what was asked, what it gives, what limits it and what the next best would have been, for the design's notes. */
export function reasonsOf(row: ChoiceRow, { tried, fitting, rows, reached }: Choices, ask: Ask): string {
  const lines = [
    `Chosen for ${sayTarget(ask.target)}: ${row.form}; ${row.capacitors}; ${row.diodes}${row.drive === '' ? '' : `; ${row.drive}`}.`,
    `Predicted ${sayQuantity(row.meanVolts, 'V')} mean, ripple ${sayQuantity(row.rippleFraction, '%', 2)}, ${row.parts} parts, ${sayQuantity(row.joules, 'J')} stored${row.margin === null ? '' : `, smallest margin ${sayQuantity(row.margin, '%', 2)}`}.`,
    `Least to spare: ${row.limit}.`,
    reached
      ? `Of ${tried} ways tried, ${fitting} reach the target.`
      : `None of ${tried} ways tried reaches the target; this is one that comes near.`,
  ];
  const built = ({ design: { ladder }, capacitors }: ChoiceRow) => `${ladder.topology} ${ladder.stages} ${capacitors}`;
  const other = rows.find((one) => built(one) !== built(row));
  if (other)
    lines.push(
      `Weighed against it: ${other.form}; ${other.capacitors}; ${other.diodes} (${other.parts} parts, ${sayQuantity(other.joules, 'J')}, ripple ${sayQuantity(other.rippleFraction, '%', 2)}).`,
    );
  const lacking = row.taken.filter((part) => part.lacking > 0);
  if (lacking.length > 0)
    lines.push(`To get first: ${lacking.map((part) => `${part.lacking} more of ${part.name}`).join(', ')}.`);
  return lines.join('\n');
}
