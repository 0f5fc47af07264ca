import type { LadderNetwork } from '../topology/network';

/**
 * Part of a class-2 ceramic's capacitance for small changes that is left at a
 * direct voltage: (1 + A V^2)^(-1/3) (K. Johnson, Journal of Applied Physics 33,
 * 1962; from memory), A from the one point that is known.
 *
 * @param volts across one capacitor, either way
 * @param ratedVolts at which the part kept is known, above zero
 * @param keptAtRating 0 to 1
 * @returns 1 without voltage, `keptAtRating` at the rated one
 */
export function keptAt(volts: number, ratedVolts: number, keptAtRating: number): number {
  return Math.cbrt(1 / (1 + (keptAtRating ** -3 - 1) * (volts / ratedVolts) ** 2));
}

/**
 * The network with what voltage leaves of its capacitances.
 *
 * @param volts across each place, in the network's order
 */
export function biasedNetwork(
  network: LadderNetwork,
  volts: readonly number[],
  { series, ratedVolts, keptAtRating }: { series: number; ratedVolts: number; keptAtRating: number },
): LadderNetwork {
  return {
    ...network,
    capacitors: network.capacitors.map((part, at) => ({
      ...part,
      farads: part.farads * keptAt(volts[at] / series, ratedVolts, keptAtRating),
    })),
  };
}
