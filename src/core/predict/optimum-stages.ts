import { MOST_STAGES, type Design } from '../design/design-schema';
import { workingPoint } from '../output/terminal';
import { hasOneForm, ladderOfDesign } from './ladder-of-design';

/**
 * Whole number of stages that gives the highest mean output into this load.
 *
 * Output against stage count rises to one peak and falls (to nothing where the
 * closed form ends), so the peak is closed in on by thirds. For an ideal ladder
 * it is the floor of sqrt(V f C / I) (common practice, no source, for the floor).
 *
 * @returns null when nothing is drawn, so that more stages always add, when the
 *   best count lies past the most that a design may have, or when the topology
 *   has one form
 */
export function optimumStages(design: Design): number | null {
  const { load, output } = design;
  if (hasOneForm(design)) return null;
  if ((load.kind === 'open' || (load.kind === 'current' && load.amps === 0)) && output.bleederOhms === null)
    return null;
  const known = new Map<number, number>();
  const volts = (stages: number): number => {
    const before = known.get(stages);
    if (before !== undefined) return before;
    // Where there is no figure, fewer stages count as better, so that the search turns back.
    const found = workingPoint(ladderOfDesign(design, stages), load, output)?.loadVolts ?? -stages;
    known.set(stages, found);
    return found;
  };
  let low = 1;
  let high = MOST_STAGES;
  while (high - low > 2) {
    const lower = low + Math.floor((high - low) / 3);
    const upper = high - Math.floor((high - low) / 3);
    if (volts(lower) < volts(upper)) low = lower + 1;
    else high = upper;
  }
  let best = low;
  for (let stages = low + 1; stages <= high; stages += 1) if (volts(stages) > volts(best)) best = stages;
  return volts(best) > 0 && best < MOST_STAGES ? best : null;
}
