import { scaleLinear } from 'd3-scale';
import type { Column, PartColumn } from '@/core/topology/network';
import type { NodePrediction, Prediction } from '@/core/predict/prediction';
import { formatPlain } from '@/core/quantity/format-quantity';

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
  /** Where the nodes of each column stand, the smoothing column's with ground at its input. */
  nodesOf: Record<Exclude<Column, 'ground'>, number>;
  capacitorsOf: Record<PartColumn, number>;
  /** The second half of a centre-tapped winding. */
  antisource: number;
  labels: number;
  /** Between which the output network stands, beyond the ladder; null where there is none, or no room. */
  farEnd: { left: number; right: number } | null;
  /** Greatest potential of any rung without load, for the colour ramp. */
  topVolts: number;
  /** Height of an average stage, for sizing what does not belong to one of them. */
  stagePixels: number;
  /** Room between each smoothing node and the nearest other one, for sizing the parts that meet there. */
  roomAt: Map<string, number>;
};

/** What a rung's tick and its figure need at the right edge. */
const LABEL_ROOM = 74;
/** Where the columns stand, as parts of the width. */
const TWO_COLUMNS = {
  source: 0.08,
  oscillatingCapacitors: 0.17,
  oscillating: 0.3,
  smoothing: 0.68,
  smoothingCapacitors: 0.78,
  antiphase: 0.3,
  antiphaseCapacitors: 0.17,
  antisource: 0.08,
};
const THREE_COLUMNS = {
  source: 0.04,
  oscillatingCapacitors: 0.1,
  oscillating: 0.18,
  smoothing: 0.4,
  smoothingCapacitors: 0.47,
  antiphase: 0.68,
  antiphaseCapacitors: 0.76,
  antisource: 0.82,
};
/** A ladder that stands at less is drawn as one without voltage, V. */
const LEAST_VOLTS = 1e-3;
/** Of each part beyond the terminal, of them all at most as a part of the width, and what picture has no room for them. */
const FAR_END = { slot: 20, most: 0.2, apart: 30, leastWidth: 560 };
const MARGIN = { top: 30, bottom: 34, left: 52, right: 14 };

/** A picture of this size is drawn at its own scale; larger ones grow with it, up to so many times. */
const UNSCALED = { width: 690, height: 430 };
const MOST_SCALE = 2;

/** How many times larger than usual a picture of so many pixels is drawn. */
export function pictureScale(width: number, height: number): number {
  return Math.min(MOST_SCALE, Math.max(1, Math.min(width / UNSCALED.width, height / UNSCALED.height)));
}

export function climbLayout(
  prediction: Prediction,
  targetVolts: number | null,
  width: number,
  height: number,
  before?: Prediction,
  beside?: Prediction,
): ClimbLayout {
  const { output, nodes } = prediction;
  const twoSided = prediction.terminals.return !== 'ground';
  const drawn = [...nodes, ...(beside?.nodes ?? [])];
  const reach = (read: (node: NodePrediction) => number | null) => drawn.map((node) => read(node) ?? node.noLoadVolts);
  const topVolts = Math.max(...nodes.map((node) => Math.abs(node.noLoadVolts)), 0);
  const highest = Math.max(
    ...drawn.map((node) => Math.abs(node.noLoadVolts)),
    output.idealNoLoadVolts * 0.02,
    (beside?.output.idealNoLoadVolts ?? 0) * 0.02,
    (targetVolts ?? 0) / (twoSided ? 2 : 1),
    ...reach((node) => node.maxVolts),
    ...(before?.nodes ?? []).map((node) => node.meanVolts ?? node.noLoadVolts),
    LEAST_VOLTS,
  );
  const lowest = Math.min(
    ...reach((node) => node.minVolts),
    ...drawn.map((node) => node.noLoadVolts),
    ...(before?.nodes ?? []).map((node) => node.meanVolts ?? node.noLoadVolts),
    twoSided ? -(targetVolts ?? 0) / 2 : 0,
  );
  const plot = { left: MARGIN.left, right: width - MARGIN.right, top: MARGIN.top, bottom: height - MARGIN.bottom };
  const scale = scaleLinear([Math.min(lowest, -highest * 0.02), highest], [plot.bottom, plot.top]);
  const span = plot.right - plot.left;
  const rungs = nodes
    .filter((node) => node.column === 'smoothing' || node.column === 'ground')
    .sort((a, b) => (a.meanVolts ?? a.noLoadVolts) - (b.meanVolts ?? b.noLoadVolts));
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
  const unit = Math.max(highest, -lowest) >= 2000 ? 'kV' : 'V';
  const lanes = prediction.topology === 'full-wave' ? THREE_COLUMNS : TWO_COLUMNS;
  const labels = Math.min(plot.left + span * 0.86, width - LABEL_ROOM);
  const beyond =
    width < FAR_END.leastWidth ? 0 : Math.min(FAR_END.slot * prediction.farEnd.parts.length, FAR_END.most * span);
  const at = (part: number) => plot.left + (span - (beyond > 0 ? beyond + FAR_END.apart : 0)) * part;
  return {
    width,
    height,
    y: (volts) => scale(volts),
    ticks: scale.ticks(Math.max(3, Math.min(8, Math.round((plot.bottom - plot.top) / 62)))),
    perUnit: unit === 'kV' ? 1000 : 1,
    unit,
    plot,
    nodesOf: {
      source: at(lanes.source),
      oscillating: at(lanes.oscillating),
      smoothing: at(lanes.smoothing),
      antiphase: at(lanes.antiphase),
    },
    capacitorsOf: {
      oscillating: at(lanes.oscillatingCapacitors),
      smoothing: at(lanes.smoothingCapacitors),
      antiphase: at(lanes.antiphaseCapacitors),
    },
    antisource: at(lanes.antisource),
    labels,
    farEnd: beyond > 0 ? { left: labels - 18 - beyond, right: labels - 18 } : null,
    topVolts,
    stagePixels: (scale(0) - scale(topVolts)) / Math.max(1, Math.ceil(Math.max(...nodes.map((node) => node.stage)))),
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

/** Across the picture, a node's place. */
export function nodeX(layout: ClimbLayout, node: Pick<NodePrediction, 'id' | 'column'>): number {
  if (node.column === 'ground') return layout.nodesOf.smoothing;
  return node.id === 'antisource' ? layout.antisource : layout.nodesOf[node.column];
}

/** A voltage as it stands beside the scale: in the scale's unit, to three digits or the whole unit, with the sign of the polarity. */
export function scaleFigure(volts: number, layout: Pick<ClimbLayout, 'perUnit'>, negative: boolean): string {
  const shown = Math.abs(volts) / layout.perUnit;
  if (Math.abs(volts) < LEAST_VOLTS) return '0';
  return `${negative !== volts < 0 && volts !== 0 ? '−' : ''}${formatPlain(shown, shown >= 1000 ? 4 : 3)}`;
}

/** Position along the ramp of potential, from ground to the terminal without load, as a colour. */
export function potentialColour(volts: number, topVolts: number): string {
  const share = topVolts > 0 ? Math.min(1, Math.abs(volts) / topVolts) : 0;
  return share < 0.5
    ? `color-mix(in oklab, var(--climb) ${Math.round(share * 200)}%, var(--foot))`
    : `color-mix(in oklab, var(--summit) ${Math.round(share * 200 - 100)}%, var(--climb))`;
}
