import { amplitudeVolts } from '../drive/drive';
import type { LoadedLadder } from '../ladder/loaded';
import type { NodePrediction } from './prediction';

/**
 * Nodes with the range each swings through: what the drive passes on and what the
 * charges of a cycle move it by.
 *
 * @param scale mean droop for each 1/F of light-load droop, V F; null where the closed form does not hold
 * @param rippleVolts of the output, peak to peak
 */
export function nodesUnderLoad(
  atFullDrive: LoadedLadder,
  ladder: LoadedLadder,
  scale: number | null,
  rippleVolts: number,
): NodePrediction[] {
  const { network, unloaded, lightLoad, drive } = ladder;
  const { afterPositive, beforeNegative, afterNegative, beforePositive } = lightLoad.instants;
  // Charging time shortens every node's ripple in the proportion of the output's.
  const rippleScale = scale === null || lightLoad.ripple === 0 ? 0 : rippleVolts / lightLoad.ripple;
  const nodes = network.nodes.map((node) => {
    const { id, column, stage, side } = node;
    const noLoadVolts = atFullDrive.unloaded.nodeVolts.get(id)!;
    const scaledVolts = unloaded.nodeVolts.get(id)!;
    const whole = { id, column, stage, side, noLoadVolts };
    if (column === 'ground') return { ...whole, meanVolts: 0, minVolts: 0, maxVolts: 0 };
    if (column === 'source') {
      const { sign } = network.sources.find((source) => source.node === id)!;
      const [minVolts, maxVolts] =
        sign === 1
          ? [-drive.negativePeakVolts, drive.positivePeakVolts]
          : [-drive.positivePeakVolts, drive.negativePeakVolts];
      return { ...whole, meanVolts: scaledVolts, minVolts, maxVolts };
    }
    if (scale === null) return { ...whole, meanVolts: null, minVolts: null, maxVolts: null };
    const meanVolts = scaledVolts - scale * lightLoad.nodeDroops.get(id)!;
    const swing = unloaded.nodeSwings.get(id)!;
    const deviations = (at: ReadonlyMap<string, number>) => at.get(id)! + lightLoad.nodeDroops.get(id)!;
    if (Math.abs(swing) < amplitudeVolts(drive) / 2) {
      const about = [afterPositive, beforeNegative, afterNegative, beforePositive].map(deviations);
      const half = (rippleScale * (Math.max(...about) - Math.min(...about))) / 2 + Math.abs(swing);
      return { ...whole, meanVolts, minVolts: meanVolts - half, maxVolts: meanVolts + half };
    }
    // Its highest and lowest are where its diodes hold it at the peaks of the drive.
    const dcOffset = unloaded.nodeVolts.get(id)! - (2 * drive.duty - 1) * swing;
    const atPositive = dcOffset + swing + scale * afterPositive.get(id)!;
    const atNegative = dcOffset - swing + scale * afterNegative.get(id)!;
    return {
      ...whole,
      meanVolts,
      minVolts: Math.min(atPositive, atNegative),
      maxVolts: Math.max(atPositive, atNegative),
    };
  });
  return scale === null ? nodes : meetingAtThePeaks(ladder, nodes);
}

/** A swinging node is held at either peak by a diode to a steady one: it ends where that one does, a drop apart. */
function meetingAtThePeaks(
  { network, diode: { forwardVolts } }: LoadedLadder,
  nodes: NodePrediction[],
): NodePrediction[] {
  const steady = new Map(
    nodes.filter(({ column }) => column !== 'oscillating' && column !== 'antiphase').map((node) => [node.id, node]),
  );
  return nodes.map((node) => {
    if (steady.has(node.id)) return node;
    const above = network.diodes.flatMap(({ anode, cathode }) =>
      anode === node.id && steady.has(cathode) ? [steady.get(cathode)!.maxVolts! + forwardVolts] : [],
    );
    const below = network.diodes.flatMap(({ anode, cathode }) =>
      cathode === node.id && steady.has(anode) ? [steady.get(anode)!.minVolts! - forwardVolts] : [],
    );
    return above.length && below.length
      ? { ...node, minVolts: Math.max(...below), maxVolts: Math.min(...above) }
      : node;
  });
}
