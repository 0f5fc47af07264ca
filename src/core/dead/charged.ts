import { atRest } from '../topology/at-rest';
import type { Design } from '../design/design-schema';
import { operatingPoint } from '../operating/operating-point';
import { storedCharge, type Electrode } from '../output/discharge';
import type { LadderNetwork } from '../topology/network';

/** A ladder as it stands charged, its capacitances as they are marked, so that nothing is counted too low. */
export type Charged = {
  network: LadderNetwork;
  /** Without load, the drive at its full peaks, of each capacitor in the network's order, V. */
  volts: readonly number[];
  /** What hangs on the output, F, and at what voltage, V. */
  electrode: Electrode;
};

/** What hangs on the output, by the name it goes by. */
export const ELECTRODE = 'what hangs on the output';

export function chargedOf(design: Design): Charged {
  const { atFullDrive, inputs } = operatingPoint(design);
  const { capacitorVolts, outputVolts } = atFullDrive.unloaded;
  const electrode = { farads: design.output.electrodeFarads, volts: outputVolts };
  return { network: inputs.marked, volts: capacitorVolts, electrode };
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
  /** With what hangs on the output as the last, where something does. */
  capacitors: Held[];
};

/**
 * Energy and charge of a ladder with its capacitors at these voltages.
 *
 * @param volts of each capacitor, in the network's order
 * @param electrode what hangs on the output, at its voltage
 */
export function energyCase(
  id: EnergyCase['id'],
  network: LadderNetwork,
  volts: readonly number[],
  electrode: Electrode,
): EnergyCase {
  const held = (part: string, farads: number, at: number): Held => ({
    id: part,
    volts: at,
    joules: (farads * at ** 2) / 2,
    coulombs: farads * at,
  });
  const capacitors = network.capacitors.map((part, at) => held(part.id, part.farads, volts[at]));
  if (electrode.farads > 0) capacitors.push(held(ELECTRODE, electrode.farads, electrode.volts));
  const nodes = atRest(network, volts);
  const terminalVolts = (nodes.get(network.output) ?? 0) - (nodes.get(network.return) ?? 0);
  const { joules, terminalCoulombs, hazardous } = storedCharge(network, volts, terminalVolts, electrode);
  return { id, terminalVolts, joules, coulombs: terminalCoulombs, hazardous, capacitors };
}

/** Which capacitor holds most of the energy; null where there is none. */
export const mostOf = ({ capacitors }: EnergyCase): Held | null =>
  capacitors.reduce<Held | null>((most, one) => (most && most.joules >= one.joules ? most : one), null);

/** What is left after a discharge, V: on the capacitor that keeps most, and at the terminal. */
export type Left = { capacitor: string; volts: number; terminalVolts: number };
