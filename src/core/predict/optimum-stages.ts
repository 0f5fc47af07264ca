import { acrossOhms } from '../output/elements';
import { MOST_STAGES, type Design } from '../design/design-schema';
import { steadyAmpsOf } from '../load/load-kinds';
import { hasOneForm } from '../operating/ladder-inputs';
import { operatingPoint } from '../operating/operating-point';

const GOLDEN = (Math.sqrt(5) - 1) / 2;

/**
 * Whole number of stages that gives the highest mean output into this load.
 *
 * Output against stage count rises to one peak and falls (to nothing where the
 * closed form ends), so it is doubled until the output falls, and the peak then
 * closed in on by golden section, which uses
 * every other count again. For an ideal ladder
 * it is the floor of sqrt(V f C / I) (common practice, no source, for the floor).
 *
 * @returns null when nothing is drawn, so that more stages always add, when the
 *   best count lies past the most that a design may have, or when the topology
 *   has one form
 */
export function optimumStages(design: Design): number | null {
  const { load, output } = design;
  if (hasOneForm(design)) return null;
  if (steadyAmpsOf(load) === 0 && acrossOhms(output) === Infinity) return null;
  const known = new Map<number, number>();
  const volts = (stages: number): number => {
    const before = known.get(stages);
    if (before !== undefined) return before;
    // Where there is no figure, fewer stages count as better, so that the search turns back.
    const found = operatingPoint(design, stages).point?.loadVolts ?? -stages;
    known.set(stages, found);
    return found;
  };
  let low = 1;
  let high = 2;
  while (high < MOST_STAGES && volts(high) > volts(low)) {
    low = high;
    high = Math.min(MOST_STAGES, 2 * high);
  }
  // The peak may stand one doubling before the last rise.
  low = Math.max(1, Math.floor(low / 2));
  while (high - low > 2) {
    const lower = high - Math.round((high - low) * GOLDEN);
    const upper = Math.max(lower + 1, low + Math.round((high - low) * GOLDEN));
    if (volts(lower) < volts(upper)) low = lower + 1;
    else high = upper;
  }
  let best = low;
  for (let stages = low + 1; stages <= high; stages += 1) if (volts(stages) > volts(best)) best = stages;
  return volts(best) > 0 && best < MOST_STAGES ? best : null;
}
