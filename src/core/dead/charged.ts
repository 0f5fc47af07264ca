import { atRest } from '../topology/at-rest';
import type { Design } from '../design/design-schema';
import { operatingPoint } from '../operating/operating-point';
import { outputCapacitors, type OutputCapacitor } from '../output/elements';
import { storedCharge } from '../output/discharge';
import type { LadderNetwork } from '../topology/network';

/** A ladder as it stands charged, its capacitances as they are marked, so that nothing is counted too low. */
export type Charged = {
  network: LadderNetwork;
  /** Without load, the drive at its full peaks, of each capacitor in the network's order, V. */
  volts: readonly number[];
  /** Every capacitance behind the ladder, at what voltage, V. */
  behind: readonly ChargedBehind[];
};

/** A capacitance behind the ladder, with what stands on it, V. */
export type ChargedBehind = OutputCapacitor & { volts: number };

export function chargedOf(design: Design): Charged {
  const { atFullDrive, inputs } = operatingPoint(design);
  const { capacitorVolts, outputVolts } = atFullDrive.unloaded;
  const behind = outputCapacitors(design.output).map((one) => ({ ...one, volts: outputVolts }));
  return { network: inputs.marked, volts: capacitorVolts, behind };
}

/** What one capacitor holds at a voltage. */
export type Held = { id: string; volts: number; joules: number; coulombs: number };

/** Charge and energy that stand in a ladder in one case. */
export type EnergyCase = {
  /** Highest, at the load, when a short was taken away too soon, when it was held, and after the bleeder's time. */
  id: 'charged' | 'running' | 'interrupted' | 'shorted' | 'bled';
  /** Mean at the terminal, V. */
  terminalVolts: number;
  /** Sum over the capacitors, J, and the most charge that a short across the terminal can draw, C. */
  joules: number;
  coulombs: number;
  /** Whether that is over the limit of IEC 61010-1 that applies at this voltage. */
  hazardous: boolean;
  /** With what stands behind the ladder as the last. */
  capacitors: Held[];
};

/**
 * Energy and charge of a ladder with its capacitors at these voltages.
 *
 * @param volts of each capacitor, in the network's order
 * @param behind what stands behind it, at its voltage
 */
export function energyCase(
  id: EnergyCase['id'],
  network: LadderNetwork,
  volts: readonly number[],
  behind: readonly ChargedBehind[],
): EnergyCase {
  const held = (part: string, farads: number, at: number): Held => ({
    id: part,
    volts: at,
    joules: (farads * at ** 2) / 2,
    coulombs: farads * at,
  });
  const capacitors = network.capacitors.map((part, at) => held(part.id, part.farads, volts[at]));
  capacitors.push(...behind.map((one) => held(one.name, one.farads, one.volts)));
  const nodes = atRest(network, volts);
  const terminalVolts = (nodes.get(network.output) ?? 0) - (nodes.get(network.return) ?? 0);
  const { joules, terminalCoulombs, hazardous } = storedCharge(network, volts, terminalVolts, behind);
  return { id, terminalVolts, joules, coulombs: terminalCoulombs, hazardous, capacitors };
}

/** Which capacitor holds most of the energy; null where there is none. */
export const mostOf = ({ capacitors }: EnergyCase): Held | null =>
  capacitors.reduce<Held | null>((most, one) => (most && most.joules >= one.joules ? most : one), null);

/** What is left after a discharge, V: on the capacitor that keeps most, and at the terminal. */
export type Left = { capacitor: string; volts: number; terminalVolts: number };
