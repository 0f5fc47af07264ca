import { scaleLinear } from 'd3-scale';
import type { Prediction } from '@/core/predict/prediction';
import { formatPlain } from '@/core/quantity/print-quantity';

/** Where the columns of the Climb stand and how volts become heights, in pixels. */
export type ClimbLayout = {
  width: number;
  height: number;
  y: (volts: number) => number;
  ticks: number[];
  /** Divides volts into what the scale shows. */
  perUnit: number;
  unit: 'V' | 'kV';
  plot: { left: number; right: number; top: number; bottom: number };
  source: number;
  oscillatingCapacitors: number;
  oscillatingNodes: number;
  smoothingNodes: number;
  smoothingCapacitors: number;
  labels: number;
  /** Height of an average stage, for sizing what does not belong to one of them. */
  stagePixels: number;
  /** Room between each smoothing node and the nearest other one, for sizing the parts that meet there. */
  roomAt: Map<string, number>;
};

/** What a rung's tick and its figure need at the right edge. */
const LABEL_ROOM = 74;
const MARGIN = { top: 30, bottom: 34, left: 52, right: 14 };

export function climbLayout(
  prediction: Prediction,
  targetVolts: number | null,
  width: number,
  height: number,
): ClimbLayout {
  const { drive, output, nodes } = prediction;
  const highest = Math.max(
    output.noLoadVolts,
    output.idealNoLoadVolts * 0.02,
    targetVolts ?? 0,
    ...nodes.map((node) => node.maxVolts ?? 0),
    1e-9,
  );
  const lowest = -drive.negativePeakVolts;
  const plot = { left: MARGIN.left, right: width - MARGIN.right, top: MARGIN.top, bottom: height - MARGIN.bottom };
  const scale = scaleLinear([Math.min(lowest, -highest * 0.02), highest], [plot.bottom, plot.top]);
  const span = plot.right - plot.left;
  const rungs = nodes.filter((node) => node.column === 'smoothing' || node.column === 'ground');
  const rungHeights = rungs.map((node) => scale(node.meanVolts ?? node.noLoadVolts));
  const roomAt = new Map(
    rungs.map((node, index) => [
      node.id,
      Math.min(
        ...[index - 1, index + 1].flatMap((other) =>
          other in rungHeights ? [Math.abs(rungHeights[index] - rungHeights[other])] : [],
        ),
        80,
      ),
    ]),
  );
  const unit = highest >= 2000 ? 'kV' : 'V';
  return {
    width,
    height,
    y: (volts) => scale(volts),
    ticks: scale.ticks(Math.max(3, Math.min(8, Math.round((plot.bottom - plot.top) / 62)))),
    perUnit: unit === 'kV' ? 1000 : 1,
    unit,
    plot,
    source: plot.left + span * 0.08,
    oscillatingCapacitors: plot.left + span * 0.17,
    oscillatingNodes: plot.left + span * 0.3,
    smoothingNodes: plot.left + span * 0.68,
    smoothingCapacitors: plot.left + span * 0.78,
    labels: Math.min(plot.left + span * 0.86, width - LABEL_ROOM),
    stagePixels: (scale(0) - scale(output.noLoadVolts)) / Math.max(1, Math.ceil(prediction.diodes.length / 2)),
    roomAt,
  };
}

/**
 * Which of some labels can stand without touching, the last one always.
 *
 * @param heights in pixels, from the foot up
 * @param least distance between two
 */
export function labelsThatFit(heights: readonly number[], least: number): boolean[] {
  const fits = heights.map(() => false);
  let last = Infinity;
  for (let index = heights.length - 1; index >= 0; index -= 1) {
    if (index !== heights.length - 1 && Math.abs(heights[index] - last) < least) continue;
    fits[index] = true;
    last = heights[index];
  }
  return fits;
}

/** A voltage as it stands beside the scale: in the scale's unit, to three digits or the whole unit, with the sign of the polarity. */
export function scaleFigure(volts: number, layout: Pick<ClimbLayout, 'perUnit'>, negative: boolean): string {
  const shown = volts / layout.perUnit;
  return `${negative && volts !== 0 ? '−' : ''}${formatPlain(shown, shown >= 1000 ? 4 : 3)}`;
}

/** Position along the ramp of potential, from ground to the terminal without load, as a colour. */
export function potentialColour(volts: number, topVolts: number): string {
  const share = topVolts > 0 ? Math.min(1, Math.max(0, volts / topVolts)) : 0;
  return share < 0.5
    ? `color-mix(in oklab, var(--climb) ${Math.round(share * 200)}%, var(--foot))`
    : `color-mix(in oklab, var(--summit) ${Math.round(share * 200 - 100)}%, var(--climb))`;
}
