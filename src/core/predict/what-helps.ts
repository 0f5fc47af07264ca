import { changeDesign } from '../design/change-design';
import { MOST_STAGES, type Design } from '../design/design-schema';
import { formatQuantity } from '../quantity/format-quantity';
import { hasOneForm } from '../operating/ladder-inputs';
import { operatingPoint } from '../operating/operating-point';
import type { DesignChange } from '../quantity/finding';

/** A single change and what it does to the mean output, V. */
export type HelpfulChange = DesignChange & { gainVolts: number };

/**
 * The one change that raises the mean output at the load most: a stage more or
 * fewer, twice the capacitance, or half the source's resistance.
 *
 * @returns null when the present output has no figure or nothing helps
 */
export function whatHelpsMost(design: Design): HelpfulChange | null {
  const outputVolts = (candidate: Design) => operatingPoint(candidate).point?.loadVolts ?? -Infinity;
  const present = outputVolts(design);
  if (!Number.isFinite(present)) return null;
  const best = candidates(design)
    .map((change) => ({ ...change, gainVolts: outputVolts(changeDesign(design, change)) - present }))
    .sort((a, b) => b.gainVolts - a.gainVolts)
    .at(0);
  return best && best.gainVolts > present * 1e-4 ? best : null;
}

function candidates(design: Design): DesignChange[] {
  const { stages, capacitor, capacitorFarads } = design.ladder;
  const changes: DesignChange[] = [];
  if (!capacitorFarads)
    changes.push({
      label: `Capacitors of ${formatQuantity(capacitor.farads * 2, 'F')}`,
      path: '$.ladder.capacitor.farads',
      value: capacitor.farads * 2,
    });
  if (!hasOneForm(design)) {
    if (stages + 1 <= MOST_STAGES)
      changes.push({ label: 'One stage more', path: '$.ladder.stages', value: stages + 1 });
    if (stages > 1) changes.push({ label: 'One stage fewer', path: '$.ladder.stages', value: stages - 1 });
  }
  if (design.driver.kind === 'measured' && design.driver.seriesOhms > 0)
    changes.push({
      label: `Source resistance of ${formatQuantity(design.driver.seriesOhms / 2, 'Ω')}`,
      path: '$.driver.seriesOhms',
      value: design.driver.seriesOhms / 2,
    });
  return changes;
}
