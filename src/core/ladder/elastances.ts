import type { LoadedLadder } from './loaded';

/** How a ladder's coefficients hang on each of its capacitances: both are sums of parts over capacitance. */
export type Elastances = {
  farads: number[];
  /** Of the light-load droop: half the squares of the charges that pass in pulses. */
  droop: number[];
  /** Of the ripple: the charge each smoothing capacitor gives between the output's highest and lowest. */
  ripple: number[];
};

/**
 * Each capacitor's part in droop and ripple, from the voltages of the bookkeeping.
 * What strays add is left as it is.
 */
export function elastancesOf({ network, lightLoad }: LoadedLadder): Elastances {
  const { afterPositive, beforeNegative, afterNegative, beforePositive } = lightLoad.instants;
  const across = (at: ReadonlyMap<string, number>, upper: string, lower: string) => at.get(upper)! - at.get(lower)!;
  const instants = Object.values(lightLoad.instants);
  const output = instants.map((at) => across(at, network.output, network.return));
  const highest = instants[output.indexOf(Math.max(...output))];
  const lowest = instants[output.indexOf(Math.min(...output))];
  const pulses = network.capacitors.map(({ upper, lower, farads }) => [
    farads * (across(afterPositive, upper, lower) - across(beforePositive, upper, lower)),
    farads * (across(afterNegative, upper, lower) - across(beforeNegative, upper, lower)),
  ]);
  return {
    farads: network.capacitors.map((part) => part.farads),
    droop: pulses.map(([atPositive, atNegative]) => (atPositive ** 2 + atNegative ** 2) / 2),
    ripple: network.capacitors.map(({ upper, lower, column, farads }) =>
      column === 'smoothing' ? farads * (across(highest, upper, lower) - across(lowest, upper, lower)) : 0,
    ),
  };
}
