import { sharedCoupling, type LadderNetwork } from '../topology/network';

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
  /** Sum of C V^2 / 2 over all capacitors and what hangs on the output, J. */
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

/** What hangs on an output, F, and at what voltage, V. */
export type Electrode = { farads: number; volts: number };
const NO_ELECTRODE: Electrode = { farads: 0, volts: 0 };

/** The capacitors of each stage of each side and their total charge and capacitance. */
function levels(network: LadderNetwork, volts: readonly number[]) {
  const byStage = new Map<string, { coulombs: number; farads: number; holds: boolean }>();
  network.capacitors.forEach((part, index) => {
    const key = `${part.side} ${part.stage}`;
    const level = byStage.get(key) ?? { coulombs: 0, farads: 0, holds: false };
    level.coulombs += part.farads * volts[index];
    level.farads += part.farads;
    // A half stage at the foot of a taller ladder is bypassed by its own diode from the start.
    level.holds ||= part.column !== 'smoothing' || network.topology === 'bridge-doubler';
    byStage.set(key, level);
  });
  return [...byStage.values()];
}

/**
 * Energy and charge a ladder holds with its capacitors at these voltages.
 *
 * @param volts of each capacitor, in the network's order
 * @param terminalVolts at the output
 * @param electrode what hangs there, with what stands on it
 */
export function storedCharge(
  network: LadderNetwork,
  volts: readonly number[],
  terminalVolts: number,
  electrode: Electrode = NO_ELECTRODE,
): StoredCharge {
  const joules =
    network.capacitors.reduce((sum, part, index) => sum + (part.farads * volts[index] ** 2) / 2, 0) +
    (electrode.farads * electrode.volts ** 2) / 2;
  const terminalCoulombs =
    Math.max(0, ...levels(network, volts).map((level) => level.coulombs)) +
    electrode.farads * Math.abs(electrode.volts);
  return { joules, terminalCoulombs, hazardous: isHazardous(terminalVolts, terminalCoulombs, joules) };
}

/**
 * Time for a bleeder across the terminal to bring the output under 60 V after
 * the drive stops and the load is gone, s; never less than the true time for
 * equal capacitors.
 *
 * As the output falls, diodes join each oscillating capacitor to the smoothing
 * one beside it, so every stage gives up the same charge; a stage that is
 * empty is bypassed by its diodes and the rest go on as a shorter string; the
 * two sides of a two-sided ladder are one string. Where a shared coupling ties both
 * sides to the winding that does not hold: there no more than one stage's joint
 * capacitance and the coupling's is taken to stand behind the whole output, 1.3
 * to 4 times the true time for one to six stages a side. The output is at least the sum over stages of their remaining charge over their
 * joint capacitance, which gives a bound. A half stage at the foot counts as
 * empty from the start. What hangs on the output is added as if it fell by itself,
 * through the bleeder and what it hangs behind. Source: derived; checked against
 * integration.
 *
 * @param volts of each capacitor at the start, in the network's order
 * @param hanging on the output, F, behind so much, Ω
 * @returns 0 when the output starts under 60 V
 */
export function bleedSeconds(
  network: LadderNetwork,
  volts: readonly number[],
  terminalVolts: number,
  bleederOhms: number,
  hanging = { farads: 0, seriesOhms: 0 },
): number {
  if (terminalVolts <= HAZARDOUS_DC_VOLTS) return 0;
  const byItself = (bleederOhms + hanging.seriesOhms) * hanging.farads * Math.log(terminalVolts / HAZARDOUS_DC_VOLTS);
  return ladderBleedSeconds(network, volts, terminalVolts, bleederOhms) + byItself;
}

function ladderBleedSeconds(
  network: LadderNetwork,
  volts: readonly number[],
  terminalVolts: number,
  bleederOhms: number,
): number {
  if (network.capacitors.length === 1) {
    return bleederOhms * network.capacitors[0].farads * Math.log(terminalVolts / HAZARDOUS_DC_VOLTS);
  }
  const coupling = sharedCoupling(network);
  if (coupling) {
    const most = Math.max(...levels(network, volts).map(({ farads }) => farads)) + coupling.farads;
    return bleederOhms * most * Math.log(terminalVolts / HAZARDOUS_DC_VOLTS);
  }
  const holding = levels(network, volts)
    .filter((level) => level.holds)
    .sort((a, b) => a.coulombs - b.coulombs);
  let drawn = 0;
  let seconds = 0;
  for (let empty = 0; empty < holding.length; empty += 1) {
    const left = holding.slice(empty);
    const elastance = left.reduce((sum, level) => sum + 1 / level.farads, 0);
    const sumVolts = left.reduce((sum, level) => sum + (level.coulombs - drawn) / level.farads, 0);
    const atNextEmpty = sumVolts - (left[0].coulombs - drawn) * elastance;
    const until = Math.max(HAZARDOUS_DC_VOLTS, atNextEmpty);
    if (sumVolts > until) seconds += (bleederOhms / elastance) * Math.log(sumVolts / until);
    if (until === HAZARDOUS_DC_VOLTS) break;
    drawn = left[0].coulombs;
  }
  return seconds;
}
