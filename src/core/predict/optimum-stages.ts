import { MOST_STAGES, type Design } from '../design/design-schema';
import { workingPoint } from '../output/terminal';
import { ladderOfDesign } from './ladder-of-design';

/**
 * Whole number of stages that gives the highest mean output into this load.
 *
 * Found by predicting each count; for an ideal ladder it is the floor of
 * sqrt(V f C / I) (common practice, no source, for the floor).
 *
 * @returns null when nothing is drawn, so that more stages always add, or when
 *   the best count lies past the most that a design may have
 */
export function optimumStages(design: Design): number | null {
  let best: { stages: number; volts: number } | null = null;
  for (let stages = 1; stages <= MOST_STAGES; stages += 1) {
    const point = workingPoint(ladderOfDesign(design, stages), design.load, design.output);
    if (point && point.ladderAmps === 0) return null;
    if (point && (!best || point.loadVolts > best.volts)) best = { stages, volts: point.loadVolts };
    else if (best && stages > best.stages + 2) return best.stages;
  }
  return best && best.stages < MOST_STAGES ? best.stages : null;
}
