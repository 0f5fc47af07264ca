import type { Design } from '../design/design-schema';
import { HAZARDOUS_DC_VOLTS } from '../output/discharge';
import type { Finding } from '../quantity/finding';
import { formatQuantity } from '../quantity/format-quantity';
import type { Prediction } from './prediction';

/** What stands on a divider's meter when something of it fails, or is too low to be there. */
export function dividerFindings(design: Design, { divider }: Pick<Prediction, 'divider'>): Finding[] {
  const of = design.output.divider;
  if (!divider || !of) return [];
  const finding = (code: string, where: string, message: string, advice: string): Finding => ({
    code,
    severity: 'warn',
    where: `$.output.divider.${where}`,
    message,
    advice,
  });
  if (of.clampVolts !== null && of.clampVolts <= divider.mostShownVolts)
    return [
      finding(
        'divider-clamp-low',
        'clampVolts',
        `The clamp conducts from ${formatQuantity(of.clampVolts, 'V')}, and the meter is to stand on up to ${formatQuantity(divider.mostShownVolts, 'V')}: it would show too little.`,
        'Use a clamp of a higher voltage, under what the meter takes, or a smaller foot.',
      ),
    ];
  return divider.openFootVolts > Math.max(HAZARDOUS_DC_VOLTS, of.meterVolts ?? 0)
    ? [
        finding(
          'divider-foot-open',
          'clampVolts',
          `Should the foot open, ${formatQuantity(divider.openFootVolts, 'V')} stands on the meter and its leads.`,
          'Put a part that clamps across the foot, such as a gas arrester under what the meter takes, and solder the foot where it cannot come off.',
        ),
      ]
    : [];
}
