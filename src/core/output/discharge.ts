import type { LadderNetwork } from '../topology/network';

/** Voltage to which a bleeder must bring an output before 60 V dc, the usual limit, is no longer exceeded. */
export const HAZARDOUS_DC_VOLTS = 60;
/** Charge above which a capacitance up to 15 kV counts as hazardous live (IEC 61010-1, from memory). */
export const HAZARDOUS_COULOMBS = 45e-6;
/** Energy above which a capacitance over 15 kV counts as hazardous live (IEC 61010-1, from memory). */
export const HAZARDOUS_JOULES = 0.35;
export const CHARGE_RULE_MOST_VOLTS = 15_000;

/** Less than a usual meter tells from nothing, V, and less than is worth a figure, J and C. */
export const LEAST_TOLD = { V: 1, J: 1e-6, C: 1e-9 } as const;

export type StoredCharge = {
  /** Sum of C V^2 / 2 over all capacitors and what stands behind the ladder, J. */
  joules: number;
  /** Most charge that a short across the terminal can draw, C. */
  terminalCoulombs: number;
  /** Whether the charge (to 15 kV) or energy (above) exceeds the limit used for wording. */
  hazardous: boolean;
};

/** Whether charge (to 15 kV) or energy (above) is over the limit at this voltage (IEC 61010-1, from memory). */
export const isHazardous = (volts: number, coulombs: number, joules: number): boolean =>
  volts > HAZARDOUS_DC_VOLTS &&
  (volts <= CHARGE_RULE_MOST_VOLTS ? coulombs > HAZARDOUS_COULOMBS : joules > HAZARDOUS_JOULES);

/** A capacitance behind the ladder, F, and at what voltage, V. */
export type ChargedOutput = { farads: number; volts: number };

/** The charge of all capacitors of each stage of each side. */
function levels(network: LadderNetwork, volts: readonly number[]) {
  const byStage = new Map<string, { coulombs: number }>();
  network.capacitors.forEach((part, index) => {
    const key = `${part.side} ${part.stage}`;
    const level = byStage.get(key) ?? { coulombs: 0 };
    level.coulombs += part.farads * volts[index];
    byStage.set(key, level);
  });
  return [...byStage.values()];
}

/**
 * Energy and charge a ladder holds with its capacitors at these voltages.
 *
 * @param volts of each capacitor, in the network's order
 * @param terminalVolts at the output
 * @param behind every capacitance behind it, with what stands on it
 */
export function storedCharge(
  network: LadderNetwork,
  volts: readonly number[],
  terminalVolts: number,
  behind: readonly ChargedOutput[] = [],
): StoredCharge {
  const joules =
    network.capacitors.reduce((sum, part, index) => sum + (part.farads * volts[index] ** 2) / 2, 0) +
    behind.reduce((sum, one) => sum + (one.farads * one.volts ** 2) / 2, 0);
  const terminalCoulombs =
    Math.max(0, ...levels(network, volts).map((level) => level.coulombs)) +
    behind.reduce((sum, one) => sum + one.farads * Math.abs(one.volts), 0);
  return { joules, terminalCoulombs, hazardous: isHazardous(terminalVolts, terminalCoulombs, joules) };
}
