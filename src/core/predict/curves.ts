import { MOST_STAGES, type Design } from '../design/design-schema';
import { closedFormAmps, droopAt, type LoadedLadder } from '../ladder/loaded';
import type { WorkingPoint } from '../output/terminal';
import { hasOneForm } from '../operating/ladder-inputs';
import { ladderOfDesign } from '../operating/ladder-of-design';
import { operatingPoint, settledFrom } from '../operating/operating-point';

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
  const steady: Design = { ...design, load: { kind: 'current', amps: 0 } };
  /** Where this much current leaves the ladder, whatever its drive's peaks. */
  const at = (on: LoadedLadder, ladderAmps: number): WorkingPoint | null => {
    const droop = droopAt(on, ladderAmps);
    if (!droop) return null;
    const terminalVolts = on.unloaded.outputVolts - droop.totalVolts;
    const bleederAmps = bleederOhms === null ? 0 : terminalVolts / bleederOhms;
    const loadAmps = ladderAmps - bleederAmps;
    const loadVolts = terminalVolts - loadAmps * seriesOhms;
    return loadAmps > 0 && loadVolts >= 0
      ? { ladderAmps, loadAmps, bleederAmps, terminalVolts, loadVolts, droop }
      : null;
  };
  const open = operatingPoint({ ...design, load: { kind: 'open' } }).point;
  const start = open ? [{ amps: 0, meanVolts: open.loadVolts }] : [];
  const drawn: LoadLinePoint[] = [];
  for (let index = 0; index < points; index += 1) {
    const ladderAmps = (mostAmps * index) / (points - 1);
    // Where power runs out the line bends down along what the drive can give, and where it gives nothing it ends.
    const { point, driveScale } = settledFrom(steady, ladder, (on) => at(on, ladderAmps));
    if (point) drawn.push({ amps: point.loadAmps, meanVolts: point.loadVolts });
    else if (driveScale < 1) break;
  }
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
    const { atFullDrive, point } = operatingPoint(design, stages);
    const noLoadVolts = atFullDrive.unloaded.outputVolts;
    return {
      stages,
      noLoadVolts,
      meanVolts: point?.loadVolts ?? null,
      droopVolts: point ? noLoadVolts - point.loadVolts : null,
    };
  });
}
