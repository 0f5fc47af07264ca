import { amplitudeVolts, type Drive } from '../drive/drive';
import type { LadderNetwork } from './network';

/** A ladder that delivers nothing: steady voltages of nodes, capacitors and diodes. */
export type UnloadedLadder = {
  /** Mean output voltage, V. */
  outputVolts: number;
  /** Peak-to-peak drive that strays pass on to the output, V. */
  feedthroughPeakToPeakVolts: number;
  /** Mean voltage of every node against ground, V. */
  nodeVolts: Map<string, number>;
  /** Amplitude (half of peak to peak) of the alternating voltage on every node, V. */
  nodeSwings: Map<string, number>;
  /** Mean voltage of each capacitor, V, in the network's order. */
  capacitorVolts: number[];
  /** Peak inverse voltage of each diode, V, in the network's order. */
  reverseVolts: number[];
};

/**
 * The steady state of a ladder without load, strays across every diode
 * included, for a sine drive.
 *
 * Once charged no diode conducts but for an instant, so the alternating
 * voltages are those of a network of capacitors alone, and each diode lets its
 * cathode climb over its anode by the peak of what alternates across it, less
 * its forward drop. Nothing is fitted: for equal capacitors this is the exact
 * sum F = T / (2 n sqrt(r) (sqrt(1 + r/4) + sqrt(r) T / 2)) with
 * T = tanh(2 n gamma), gamma = 2 asinh(sqrt(r) / 2), r = stray / capacitor,
 * of which tanh(a)/a, a = 2 n sqrt(r) is the continuum limit (Everhart and
 * Lorrain, Review of Scientific Instruments 24, 1953).
 *
 * @param network whose diodes form one chain from the foot to the output
 * @param drive sine
 * @param strayFarads across each diode, junction and wiring together, zero or more
 * @param forwardVolts of one diode
 * @returns voltages in V, never below zero
 */
export function unloadedLadder(
  network: LadderNetwork,
  drive: Drive,
  strayFarads: number,
  forwardVolts: number,
): UnloadedLadder {
  const amplitude = amplitudeVolts(drive);
  const swings = alternatingSwings(network, strayFarads);
  const offset = (drive.positivePeakVolts - drive.negativePeakVolts) / 2;
  const nodeVolts = new Map([
    ['ground', 0],
    ['source', offset],
  ]);
  const reverseVolts = network.diodes.map(({ anode, cathode }) => {
    const across = amplitude * Math.abs(swings.get(anode)! - swings.get(cathode)!);
    nodeVolts.set(cathode, nodeVolts.get(anode)! + Math.max(0, across - forwardVolts));
    return 2 * across;
  });
  return {
    outputVolts: nodeVolts.get(network.output)!,
    feedthroughPeakToPeakVolts: 2 * amplitude * Math.abs(swings.get(network.output)!),
    nodeVolts,
    nodeSwings: new Map([...swings].map(([id, swing]) => [id, amplitude * Math.abs(swing)])),
    capacitorVolts: network.capacitors.map((part) => nodeVolts.get(part.upper)! - nodeVolts.get(part.lower)!),
    reverseVolts,
  };
}

/** Alternating voltage of each node for a source of 1, by elimination in chain order, where the matrix has two off-diagonals. */
function alternatingSwings(network: LadderNetwork, strayFarads: number): Map<string, number> {
  const order = new Map(network.diodes.map((diode, index) => [diode.cathode, index]));
  const known = new Map([
    ['ground', 0],
    ['source', 1],
  ]);
  const reach = 2;
  const size = order.size;
  const width = 2 * reach + 1;
  // Row after row of the band, the diagonal in the middle of each.
  const band = new Float64Array(size * width);
  const at = (row: number, column: number) => row * width + reach + column - row;
  const right = new Float64Array(size);
  const connect = (from: string, to: string, farads: number) => {
    const one = order.get(from);
    const other = order.get(to);
    if (one !== undefined) band[at(one, one)] += farads;
    if (other !== undefined) band[at(other, other)] += farads;
    if (one !== undefined && other !== undefined) {
      band[at(one, other)] -= farads;
      band[at(other, one)] -= farads;
    } else if (one !== undefined) right[one] += farads * known.get(to)!;
    else if (other !== undefined) right[other] += farads * known.get(from)!;
  };
  for (const capacitor of network.capacitors) connect(capacitor.lower, capacitor.upper, capacitor.farads);
  if (strayFarads > 0) for (const diode of network.diodes) connect(diode.anode, diode.cathode, strayFarads);

  for (let pivot = 0; pivot < size; pivot += 1)
    for (let row = pivot + 1; row <= Math.min(size - 1, pivot + reach); row += 1) {
      const factor = band[at(row, pivot)] / band[at(pivot, pivot)];
      if (factor === 0) continue;
      for (let column = pivot; column <= Math.min(size - 1, pivot + reach); column += 1)
        band[at(row, column)] -= factor * band[at(pivot, column)];
      right[row] -= factor * right[pivot];
    }
  const swings = new Float64Array(size);
  for (let row = size - 1; row >= 0; row -= 1) {
    let rest = right[row];
    for (let column = row + 1; column <= Math.min(size - 1, row + reach); column += 1)
      rest -= band[at(row, column)] * swings[column];
    swings[row] = rest / band[at(row, row)];
  }
  return new Map([...known, ...[...order].map(([id, index]): [string, number] => [id, swings[index]])]);
}
