import { MOST_STAGES, type Design } from '../design/design-schema';
import { closedFormAmps, droopAt } from '../ladder/loaded';
import { workingPoint } from '../output/terminal';
import { hasOneForm, ladderOfDesign } from './ladder-of-design';
import { loadedDesign, settledFrom } from './loaded-design';

export type LoadLinePoint = { amps: number; meanVolts: number };

/**
 * Mean output against load current from nothing to where the closed form ends,
 * for the design's own bleeder and series resistor.
 *
 * @param points how many currents, spaced evenly, at least two
 * @param upToAmps current out of the ladder at which the line may end earlier, A
 * @returns A and V, ascending in current
 */
export function loadLine(design: Design, points = 41, upToAmps = Infinity): LoadLinePoint[] {
  const ladder = ladderOfDesign(design);
  const mostAmps = Math.min(closedFormAmps(ladder), upToAmps);
  const { bleederOhms, seriesOhms } = design.output;
  const { maxWatts, maxAmps, supply } = ladder.drive;
  const limited = maxWatts !== null || maxAmps !== null || supply !== null;
  const unloaded = workingPoint(ladder, { kind: 'open' }, design.output);
  const start = unloaded ? [{ amps: 0, meanVolts: unloaded.loadVolts }] : [];
  const drawn = Array.from({ length: points }, (_, index) => (mostAmps * index) / (points - 1)).flatMap(
    (ladderAmps) => {
      const droop = droopAt(ladder, ladderAmps);
      if (!droop) return [];
      const terminalVolts = ladder.unloaded.outputVolts - droop.totalVolts;
      const amps = ladderAmps - (bleederOhms === null ? 0 : terminalVolts / bleederOhms);
      if (amps <= 0) return [];
      const meanVolts = terminalVolts - amps * seriesOhms;
      if (meanVolts < 0) return [];
      if (!limited) return [{ amps, meanVolts }];
      // Where power runs out the line bends down along what the drive can give.
      const left = settledFrom({ ...design, load: { kind: 'current', amps } }, ladder).point;
      return left ? [{ amps, meanVolts: left.loadVolts }] : [];
    },
  );
  return [...start, ...drawn];
}

export type StagesPoint = { stages: number; noLoadVolts: number; meanVolts: number | null; droopVolts: number | null };

/**
 * Output and droop of the same parts and load for every whole stage count up
 * to somewhat past the design's own and the best.
 *
 * @param interest stage counts that must lie on the curve
 * @returns volts, null where the closed form does not hold; nothing for a
 *   topology of one form
 */
export function stagesCurve(design: Design, interest: readonly number[]): StagesPoint[] {
  if (hasOneForm(design)) return [];
  const most = Math.min(MOST_STAGES, Math.max(6, Math.ceil(Math.max(...interest) * 1.5)));
  return Array.from({ length: most }, (_, index) => {
    const stages = index + 1;
    const { full, point } = loadedDesign(design, stages);
    const noLoadVolts = full.unloaded.outputVolts;
    return {
      stages,
      noLoadVolts,
      meanVolts: point?.loadVolts ?? null,
      droopVolts: point ? noLoadVolts - point.loadVolts : null,
    };
  });
}
