import type { LadderNetwork } from '../topology/network';

/**
 * Fraction of a class-2 ceramic's capacitance for small changes that is left at a
 * direct voltage: (1 + A V^2)^(-1/3) (K. Johnson, Journal of Applied Physics 33,
 * 1962; from memory), A from the one point that is known.
 *
 * @param volts across one capacitor, either way
 * @param ratedVolts at which the derating is known, above zero
 * @param dcBiasDerating 0 to 1
 * @returns 1 without voltage, `dcBiasDerating` at the rated one
 */
export function biasDerating(volts: number, ratedVolts: number, dcBiasDerating: number): number {
  return Math.cbrt(1 / (1 + (dcBiasDerating ** -3 - 1) * (volts / ratedVolts) ** 2));
}

/**
 * The network with what voltage leaves of its capacitances.
 *
 * @param volts across each place, in the network's order
 */
export function biasedNetwork(
  network: LadderNetwork,
  volts: readonly number[],
  { series, ratedVolts, dcBiasDerating }: { series: number; ratedVolts: number; dcBiasDerating: number },
): LadderNetwork {
  return {
    ...network,
    capacitors: network.capacitors.map((part, at) => ({
      ...part,
      farads: part.farads * biasDerating(volts[at] / series, ratedVolts, dcBiasDerating),
    })),
  };
}
