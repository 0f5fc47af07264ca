import { amplitudeVolts, centreVolts, meanDriveVolts, type Drive } from '../drive/drive';
import { capacitiveNetwork, capacitiveResponse, type CapacitiveNetwork, type CapacitiveResponse } from './capacitive';
import type { LadderNetwork } from '../topology/network';

/** A ladder that delivers nothing: steady voltages of nodes, capacitors and diodes. */
export type UnloadedLadder = {
  /** Mean voltage between output and return, V. */
  outputVolts: number;
  /** Highest that stands between them, with what alternates on the mean, V. */
  outputPeakVolts: number;
  /** Peak-to-peak drive that reaches the output, V: through strays, or all of it where nothing smooths. */
  feedthroughPeakToPeakVolts: number;
  /** Mean voltage of every node against ground, V. */
  nodeVolts: Map<string, number>;
  /** Signed amplitude (half of peak to peak) of the alternating voltage on every node, V; negative in antiphase to the drive. */
  nodeSwings: Map<string, number>;
  /** Mean voltage of each capacitor, V, in the network's order. */
  capacitorVolts: number[];
  /** Peak inverse voltage of each diode, V, in the network's order. */
  reverseVolts: number[];
  capacitive: CapacitiveNetwork;
  response: CapacitiveResponse;
};

/**
 * The steady state of a ladder without load, strays across every diode
 * included.
 *
 * Once charged no diode conducts but for an instant, so the alternating
 * voltages are those of a network of capacitors alone, and each diode lets its
 * cathode climb over its anode by the peak of what alternates across it, less
 * its forward drop. Nothing is fitted: for a half-wave ladder of equal
 * capacitors this is the exact sum
 * F = T / (2 n sqrt(r) (sqrt(1 + r/4) + sqrt(r) T / 2)) with
 * T = tanh(2 n gamma), gamma = 2 asinh(sqrt(r) / 2), r = stray / capacitor,
 * of which tanh(a)/a, a = 2 n sqrt(r) is the continuum limit (Everhart and
 * Lorrain, Review of Scientific Instruments 24, 1953).
 *
 * @param network of any topology, its diodes in order from the foot
 * @param drive of any waveform: only its peaks count, and its mean where the output is not smoothed
 * @param strayFarads across each diode, junction and wiring together, zero or more
 * @param forwardVolts of one diode
 * @returns voltages in V; magnitudes never below zero
 */
export function unloadedLadder(
  network: LadderNetwork,
  drive: Drive,
  strayFarads: number,
  forwardVolts: number,
): UnloadedLadder {
  const capacitive = capacitiveNetwork(network, strayFarads);
  return noLoadLadder(network, drive, forwardVolts, capacitive, capacitiveResponse(network, capacitive, strayFarads));
}

/** The same from what the capacitances make of a drive of one, which does not ask how high the drive is. */
export function noLoadLadder(
  network: LadderNetwork,
  drive: Drive,
  forwardVolts: number,
  capacitive: CapacitiveNetwork,
  response: CapacitiveResponse,
): UnloadedLadder {
  const amplitude = amplitudeVolts(drive);
  const { swings } = response;
  const { level, across } = levelsOf(network, drive, swings, forwardVolts);
  const offset = meanDriveVolts(drive) - centreVolts(drive);
  const nodeVolts = new Map([...level].map(([id, volts]) => [id, volts + offset * swings.get(id)!]));
  const outputVolts = nodeVolts.get(network.output)! - nodeVolts.get(network.return)!;
  const outputSwing = swings.get(network.output)! - swings.get(network.return)!;
  return {
    outputVolts,
    outputPeakVolts: outputVolts - offset * outputSwing + amplitude * Math.abs(outputSwing),
    feedthroughPeakToPeakVolts: 2 * amplitude * Math.abs(outputSwing),
    nodeVolts,
    nodeSwings: new Map([...swings].map(([id, swing]) => [id, amplitude * swing])),
    capacitorVolts: network.capacitors.map((part) => nodeVolts.get(part.upper)! - nodeVolts.get(part.lower)!),
    reverseVolts: network.diodes.map(({ anode, cathode }, index) =>
      Math.max(2 * across[index], level.get(cathode)! - level.get(anode)! + across[index]),
    ),
    capacitive,
    response,
  };
}

/** Voltage of every node while the drive stands in the middle between its peaks, and the alternating peak across every diode. */
function levelsOf(
  network: LadderNetwork,
  drive: Drive,
  swings: ReadonlyMap<string, number>,
  forwardVolts: number,
): { level: Map<string, number>; across: number[] } {
  const amplitude = amplitudeVolts(drive);
  const across = network.diodes.map(
    ({ anode, cathode }) => amplitude * Math.abs(swings.get(anode)! - swings.get(cathode)!),
  );
  const level = new Map<string, number>([['ground', 0]]);
  for (const source of network.sources) level.set(source.node, source.sign * centreVolts(drive));
  network.diodes.forEach(({ anode, cathode, side }, index) => {
    const step = Math.max(0, across[index] - forwardVolts);
    // A node that several diodes feed stands at the most that one of them gives it.
    if (side === 1) level.set(cathode, Math.max(level.get(anode)! + step, level.get(cathode) ?? -Infinity));
    else level.set(anode, Math.min(level.get(cathode)! - step, level.get(anode) ?? Infinity));
  });
  return { level, across };
}

/**
 * No-load output without strays, V: each diode adds half the drive's peak to
 * peak less its drop; a half stage at the foot starts from the positive peak,
 * an unsmoothed output has the drive's own mean on top. Handbook formula.
 */
export function idealVolts(network: LadderNetwork, drive: Drive, forwardVolts: number): number {
  // Without strays a column moves as one with the foot it stands on.
  const swings = new Map([['ground', 0], ...network.sources.map(({ node, sign }): [string, number] => [node, sign])]);
  for (const { lower, upper } of network.capacitors) {
    if (swings.has(lower)) swings.set(upper, swings.get(lower)!);
    else swings.set(lower, swings.get(upper)!);
  }
  const { level } = levelsOf(network, drive, swings, forwardVolts);
  const offset =
    (meanDriveVolts(drive) - centreVolts(drive)) * (swings.get(network.output)! - swings.get(network.return)!);
  return level.get(network.output)! - level.get(network.return)! + offset;
}
