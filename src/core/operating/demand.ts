import { acrossOhms, outputElements } from '../output/elements';
import { passedAt, smooths } from '../output/filter';
import type { Design } from '../design/design-schema';
import { hasFastEdges } from '../drive/drive';
import { rippleAt, swingsWhole, type LoadedLadder } from '../ladder/loaded';
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
export function swingVariance(ladder: LoadedLadder): number {
  const { unloaded, drive } = ladder;
  const swing = unloaded.feedthroughPeakToPeakVolts;
  if (!swingsWhole(ladder)) return 0;
  return hasFastEdges(drive) ? swing ** 2 * drive.duty * (1 - drive.duty) : swing ** 2 / 8;
}

/**
 * Power that the drive's own swing on an unsmoothed output gives resistances
 * beside what the mean does, W: the variance of the waveform over the
 * resistance (handbook).
 */
export function swingWatts({ load, output }: Design, ladder: LoadedLadder): { terminal: number; load: number } {
  const variance = swingVariance(ladder);
  const elements = outputElements(output, load);
  // What smooths takes it before it gets to the load.
  if (smooths(elements))
    return {
      terminal: variance * passedAt(elements, 1 / (loadOhms(load) ?? Infinity), ladder.drive.frequencyHertz).siemens.re,
      load: 0,
    };
  const resistive = loadOhms(load) ?? Infinity;
  const through = variance / (resistive + output.seriesOhms);
  const bled = variance / acrossOhms(output);
  return {
    terminal: through + bled,
    load: resistive === Infinity ? 0 : (through * resistive) / (resistive + output.seriesOhms),
  };
}
