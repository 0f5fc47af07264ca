import { acrossOhms } from '../output/elements';
import type { Design } from '../design/design-schema';
import { amplitudeVolts, hasFastEdges } from '../drive/drive';
import { rippleAt, type LoadedLadder } from '../ladder/loaded';
import { loadOhms } from '../load/load-kinds';
import type { WorkingPoint } from '../output/terminal';
import { sourceDemand, wattsInto } from './source-demand';

/** What a loaded ladder takes from its drive: W, A RMS in a winding (null where an ideal square charges in no time). */
export type Demand = { watts: number; amps: number | null; efficiency: number | null };

/** What a loaded ladder takes, the drive's own swing on an unsmoothed output included. */
export function demandOf(design: Design, ladder: LoadedLadder, point: WorkingPoint): Demand {
  const { chargingAngle } = rippleAt(ladder, point.ladderAmps, point.droop.sourceAngle);
  const demand = sourceDemand(ladder, point.ladderAmps, point.droop, chargingAngle);
  const chargeInAll = ladder.lightLoad.diodeCharges.reduce((sum, charge) => sum + charge, 0);
  const swing = swingWatts(design, ladder);
  const diodes = { chargeInAll, forwardVolts: ladder.diode.forwardVolts };
  const watts = wattsInto(point.terminalVolts, point.ladderAmps, diodes, demand.sourceWatts) + swing.terminal;
  return {
    watts,
    amps: demand.rmsAmps,
    efficiency: watts > 0 && point.loadAmps > 0 ? (point.loadVolts * point.loadAmps + swing.load) / watts : null,
  };
}

/** Variance of the drive's own swing on an unsmoothed output, V²; what strays let through a smoothed one counts as none. */
export function swingVariance({ unloaded, drive }: LoadedLadder): number {
  const swing = unloaded.feedthroughPeakToPeakVolts;
  if (swing < amplitudeVolts(drive)) return 0;
  return hasFastEdges(drive) ? swing ** 2 * drive.duty * (1 - drive.duty) : swing ** 2 / 8;
}

/**
 * Power that the drive's own swing on an unsmoothed output gives resistances
 * beside what the mean does, W: the variance of the waveform over the
 * resistance (handbook).
 */
export function swingWatts({ load, output }: Design, ladder: LoadedLadder): { terminal: number; load: number } {
  const variance = swingVariance(ladder);
  const resistive = loadOhms(load) ?? Infinity;
  const through = variance / (resistive + output.seriesOhms);
  const bled = variance / acrossOhms(output);
  return {
    terminal: through + bled,
    load: resistive === Infinity ? 0 : (through * resistive) / (resistive + output.seriesOhms),
  };
}
