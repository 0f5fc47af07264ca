import type { CapacitorPrediction, DiodePrediction, NodePrediction, Prediction } from '@/core/predict/prediction';
import { nodeX, type ClimbLayout } from './climb-layout';

/** The height at which a node stands: under load where that is known. */
export const standing = (node: NodePrediction) => node.meanVolts ?? node.noLoadVolts;

/** Sizes in half pixels: a shape that would change by less keeps its outline and only moves. */
const halfPixel = (size: number) => Math.round(size * 2) / 2;
/** Fills in hundredths, for the same reason. */
export const hundredth = (fill: number) => Math.round(fill * 100) / 100;
/** Places in tenths of a pixel. */
export const tenth = (place: number) => Math.round(place * 10) / 10;

type Nodes = ReadonlyMap<string, NodePrediction>;

export const nodesById = (prediction: Prediction): Nodes => new Map(prediction.nodes.map((node) => [node.id, node]));

/** Where a capacitor stands and the wires to its two nodes. */
export function capacitorPlace(capacitor: CapacitorPrediction, layout: ClimbLayout, nodes: Nodes) {
  const x = layout.capacitorsOf[capacitor.column];
  const node = layout.nodesOf[capacitor.column];
  const [near, far] = capacitor.side === 1 ? [capacitor.lower, capacitor.upper] : [capacitor.upper, capacitor.lower];
  const top = tenth(layout.y(standing(nodes.get(far)!)));
  const bottom = tenth(layout.y(standing(nodes.get(near)!)));
  return {
    x: tenth(x),
    y: tenth((top + bottom) / 2),
    size: halfPixel(Math.max(5, Math.min(14, Math.abs(bottom - top) * 0.5))),
    wires: `M${tenth(x)} ${bottom}V${top}H${tenth(node)}${near === 'ground' ? `M${tenth(x)} ${bottom}H${tenth(node)}` : ''}`,
  };
}

/** Where a diode lies and the wire it lies on: at the height where its ends meet at a peak. */
export function diodePlace(diode: DiodePrediction, layout: ClimbLayout, nodes: Nodes) {
  const anode = nodes.get(diode.anode)!;
  const cathode = nodes.get(diode.cathode)!;
  const cathodeIsSteady = isSteady(cathode);
  const [steady, swinging] = cathodeIsSteady ? [cathode, anode] : [anode, cathode];
  const room = layout.roomAt.get(steady.id) ?? layout.stagePixels;
  // Two diodes meet every steady node, one from below and one above: set apart so that both can be read.
  const apart = Math.max(2, Math.min(8, room * 0.22));
  const meetingVolts = (cathodeIsSteady ? steady.maxVolts : steady.minVolts) ?? steady.noLoadVolts;
  const y = tenth(layout.y(meetingVolts) + (cathodeIsSteady ? apart : -apart));
  const away = nodeX(layout, swinging);
  const home = nodeX(layout, steady);
  const outward = Math.sign(home - away);
  return {
    x: tenth(away + (home - away) * (outward > 0 ? (cathodeIsSteady ? 0.66 : 0.36) : cathodeIsSteady ? 0.5 : 0.22)),
    y,
    size: halfPixel(Math.max(4, Math.min(13, room * 0.4))),
    cathodeIsRight: nodeX(layout, cathode) > nodeX(layout, anode),
    meetingVolts,
    wires: `M${tenth(away + 6 * outward)} ${y}H${tenth(home - 9 * outward)}`,
  };
}

function isSteady(node: NodePrediction): boolean {
  return node.column === 'smoothing' || node.column === 'ground';
}
