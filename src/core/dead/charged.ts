import { atRest } from '../topology/at-rest';
import type { Design } from '../design/design-schema';
import { operatingPoint } from '../operating/operating-point';
import { storedCharge } from '../output/discharge';
import type { LadderNetwork } from '../topology/network';

/** A ladder as it stands charged, its capacitances as they are marked, so that nothing is counted too low. */
export type Charged = {
  network: LadderNetwork;
  /** Without load, the drive at its full peaks, of each capacitor in the network's order, V. */
  volts: readonly number[];
};

export function chargedOf(design: Design): Charged {
  const { atFullDrive, inputs } = operatingPoint(design);
  return { network: inputs.marked, volts: atFullDrive.unloaded.capacitorVolts };
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
  capacitors: Held[];
};

/**
 * Energy and charge of a ladder with its capacitors at these voltages.
 *
 * @param volts of each capacitor, in the network's order
 */
export function energyCase(id: EnergyCase['id'], network: LadderNetwork, volts: readonly number[]): EnergyCase {
  const capacitors = network.capacitors.map((part, at) => ({
    id: part.id,
    volts: volts[at],
    joules: (part.farads * volts[at] ** 2) / 2,
    coulombs: part.farads * volts[at],
  }));
  const nodes = atRest(network, volts);
  const terminalVolts = (nodes.get(network.output) ?? 0) - (nodes.get(network.return) ?? 0);
  const { joules, terminalCoulombs, hazardous } = storedCharge(network, volts, terminalVolts);
  return { id, terminalVolts, joules, coulombs: terminalCoulombs, hazardous, capacitors };
}

/** Which capacitor holds most of the energy; null where there is none. */
export const mostOf = ({ capacitors }: EnergyCase): Held | null =>
  capacitors.reduce<Held | null>((most, one) => (most && most.joules >= one.joules ? most : one), null);

/** What is left after a discharge, V: on the capacitor that keeps most, and at the terminal. */
export type Left = { capacitor: string; volts: number; terminalVolts: number };
