import { currentsOf, outputElements } from '../output/elements';
import { smoothedValidity } from '../output/filter';
import { MOST_STAGES, type Design } from '../design/design-schema';
import { closedFormAmps, droopAt, type LoadedLadder } from '../ladder/loaded';
import type { WorkingPoint } from '../output/terminal';
import type { SupplyPoint } from '../load/air/climbing-arc';
import { hasOneForm, ladderInputs } from '../operating/ladder-inputs';
import { ladderOfDesign } from '../operating/ladder-of-design';
import { operatingPoint, settledFrom } from '../operating/operating-point';
import { isAlternating } from '../topology/network';

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
  const open = operatingPoint({ ...design, load: { kind: 'open' } }).point;
  const start = open ? [{ amps: 0, meanVolts: open.loadVolts }] : [];
  const drawn: LoadLinePoint[] = [];
  for (let index = 0; index < points; index += 1) {
    // Where power runs out the line bends down along what the drive can give, and where it gives nothing it ends.
    const { point, driveScale } = drawing(design, ladder, (mostAmps * index) / (points - 1));
    if (point) drawn.push({ amps: point.loadAmps, meanVolts: point.loadVolts });
    else if (driveScale < 1) break;
  }
  return [...start, ...drawn];
}

/** Resistances that an output which alternates is asked about, Ω: as far apart as the next is larger by this factor. */
const ASKED_OHMS = [100, 1e7] as const;
const ASKED_STEP = 1.8;

/**
 * What a design's output gives something that it keeps alight: the load line of a
 * direct one; of one that alternates RMS into resistances, with none of its own load.
 *
 * @returns A and V, ascending in current; nothing where the closed form has none
 */
export function supplyLine(design: Design): SupplyPoint[] {
  if (!isAlternating(ladderInputs(design).marked))
    return loadLine(design).map(({ amps, meanVolts }) => ({ amps, volts: meanVolts }));
  const line: SupplyPoint[] = [];
  for (let ohms: number = ASKED_OHMS[1]; ohms > ASKED_OHMS[0]; ohms /= ASKED_STEP) {
    const { alternating } = operatingPoint({ ...design, load: { kind: 'resistance', ohms } });
    if (alternating && alternating.rmsAmps > (line.at(-1)?.amps ?? 0))
      line.push({ amps: alternating.rmsAmps, volts: alternating.rmsVolts });
  }
  return line;
}

/** Where this much current leaves a design's ladder, through what stands across its terminal and its series resistor, whatever its drive's peaks. */
function drawing(design: Design, ladder: LoadedLadder, ladderAmps: number) {
  const at = (on: LoadedLadder): WorkingPoint | null => {
    const droop = droopAt(on, ladderAmps);
    if (!droop || smoothedValidity(outputElements(design.output, design.load), on) === 'beyond') return null;
    const terminalVolts = on.unloaded.outputVolts - droop.totalVolts;
    const currents = currentsOf(design.output, terminalVolts, ladderAmps);
    return currents.loadAmps > 0 && currents.loadVolts >= 0 ? { ladderAmps, terminalVolts, ...currents, droop } : null;
  };
  return settledFrom({ ...design, load: { kind: 'current', amps: 0 } }, ladder, at);
}

/** Halvings of the range in which the reach lies: three digits. */
const REACH_HALVINGS = 12;

/**
 * Greatest current out of a design's ladder at which the closed form has an
 * output, A: of its ladder, and of what the drive gives with it.
 */
export function closedFormReach(design: Design): number {
  const ladder = ladderOfDesign(design);
  const holds = (amps: number) => drawing(design, ladder, amps).point !== null;
  const most = closedFormAmps(ladder);
  const open = operatingPoint({ ...design, load: { kind: 'open' } }).point;
  if (!open || !(most > open.ladderAmps)) return 0;
  if (holds(most)) return most;
  let [low, high] = [open.ladderAmps, most];
  for (let halving = 0; halving < REACH_HALVINGS; halving += 1) {
    const middle = (low + high) / 2;
    if (holds(middle)) low = middle;
    else high = middle;
  }
  return low;
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
