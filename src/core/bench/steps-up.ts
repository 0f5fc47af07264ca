import type { Design } from '../design/design-schema';
import type { Meter } from '../drive/meter-sense';
import { beyondHandMeter, firstRunLimit } from '../predict/before-power';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import type { Prediction } from '../predict/prediction';
import { formatQuantity } from '../quantity/format-quantity';
import { signedVolts } from '../quantity/polarity';
import type { Expected } from './agreement';
import { atFraction } from './low-source';

export const USUAL_FRACTIONS: readonly number[] = [0.25, 0.5, 0.75, 1];

/** One step on the way to full drive, at the design's load; volts against the return, dc mean unless it is said. */
export type StepUp = {
  fraction: number;
  /** Highest without load, V; null, with all the rest, where the drive is not known at less than full. */
  noLoadPeakVolts: number | null;
  /** At the load; null where the closed form gives none. */
  outputVolts: number | null;
  /** Mean current of the supply, A, and its power, W; null where no figure is known. */
  supplyAmps: number | null;
  supplyWatts: number | null;
  /** Power into the ladder, W; null where the closed form gives none. */
  ladderWatts: number | null;
  /** More than this of the supply's current says that something is wrong, A; null without one. */
  stopAmps: number | null;
  /** What the meter shows of the output, through the divider where there is one, and within what; null where it is not to be read so, or no figure is known. */
  shown: Expected | null;
  /** Why the meter is not put on, and what would be right. */
  refused: string | null;
  /** What is the matter at this step, in the design's own words. */
  stops: string[];
};

const NOT_KNOWN = {
  noLoadPeakVolts: null,
  outputVolts: null,
  supplyAmps: null,
  supplyWatts: null,
  ladderWatts: null,
  stopAmps: null,
  shown: null,
  refused: 'What this drive gives at less than full is not known: there is no figure, and no step to go by.',
  stops: [],
} satisfies Omit<StepUp, 'fraction'>;

/**
 * The steps from a fraction of the drive to all of it: what output, supply current
 * and power to expect at each, and whether the meter may be on. By the closed
 * form; how a driver behaves below its usual supply is as its kind models it.
 *
 * @param fractions of the full drive, above 0 up to 1
 */
export function stepsUpOf(design: Design, fractions: readonly number[], meter: Meter): StepUp[] {
  return fractions.map((fraction) => {
    const turned = atFraction(design, fraction);
    if (!turned) return { ...NOT_KNOWN, fraction };
    const at = predict(turned, WITHOUT_OPTIMUM);
    const { output, source } = at;
    const { supplyAmps, supplyWatts } = source.figures;
    const volts = output.alternating ? output.alternating.rmsVolts : output.meanVolts;
    const refused = refusal(design, at, meter);
    return {
      fraction,
      noLoadPeakVolts: output.noLoadPeakVolts,
      outputVolts: volts === null ? null : signedVolts(volts, output.polarity),
      supplyAmps: supplyAmps ?? null,
      supplyWatts: supplyWatts ?? null,
      ladderWatts: at.input.watts,
      stopAmps:
        supplyAmps === undefined ? null : firstRunLimit(at.drive) * Math.max(supplyAmps, source.figures.startAmps ?? 0),
      shown: refused || at.output.alternating ? null : shownOf(design, at, meter),
      refused,
      stops: at.findings.flatMap(({ severity, message }) => (severity === 'stop' ? [message] : [])),
    };
  });
}

/**
 * A dc reading of the output and its band: the drive's spread, the drops', the
 * capacitors' tolerance in what they lose, and what reads it (sum of squares,
 * handbook).
 */
function shownOf({ spread, ladder }: Design, { output, divider }: Prediction, meter: Meter): Expected | null {
  const { meanVolts, polarity, lostToDiodesVolts, droopByCapacitorsVolts } = output;
  if (meanVolts === null) return null;
  const ratio = divider?.ratio ?? meter.probeRatio;
  const off = Math.hypot(
    meanVolts * spread.peaks,
    lostToDiodesVolts * spread.forward,
    (droopByCapacitorsVolts ?? 0) * ladder.capacitor.tolerance,
    meanVolts * (divider ? divider.errors.atWorst : meter.accuracy),
  );
  const read = divider?.shownVolts ?? meanVolts / ratio;
  const shown = signedVolts(read, polarity);
  return { value: shown, low: shown - off / ratio, high: shown + off / ratio };
}

/** Why a meter is not put on the output; null where it may be. */
function refusal(
  { output: { divider } }: Design,
  { output, divider: figures }: Prediction,
  meter: Meter,
): string | null {
  const volts = output.noLoadPeakVolts;
  if (divider && figures) {
    const most = Math.min(divider.meterVolts ?? Infinity, meter.limitVolts);
    return figures.mostShownVolts > most
      ? `The divider would put ${formatQuantity(figures.mostShownVolts, 'V', 2)} on a meter for ${formatQuantity(most, 'V')}; a longer string would be right.`
      : null;
  }
  const most = meter.limitVolts * meter.probeRatio;
  if (volts <= most && (meter.probeRatio > 1 || !beyondHandMeter(volts))) return null;
  return `${formatQuantity(volts, 'V', 2)} may stand there${volts > most ? `, over the ${formatQuantity(most, 'V', 2)} that the meter takes` : ''}: read it through a divider made for that, which the design can have under Divider.`;
}
