import { junctionsOf } from './forward-drop';

/** Built-in potential of one junction, V, and the exponent of its capacitance (common practice, no source: 0.3 to 0.5). */
const BUILT_IN_VOLTS = 0.7;
const GRADING = 0.4;

/**
 * What a diode's junction comes to for a ladder, F: its charge over its voltage
 * between zero and the most that it blocks.
 *
 * C = C0 / (1 + V / phi)^m for a rectifier's junctions in series, phi 0.7 V each,
 * m 0.4 (depletion capacitance, handbook; values common practice); its charge C0
 * phi ((1 + V / phi)^(1 - m) - 1) / (1 - m) over V. A data sheet's value at a few
 * volts is several times what counts at kilovolts.
 *
 * @param junctionFarads as measured, zero or more
 * @param measuredVolts reverse voltage at which it was; null where it is to stand at any
 * @param blockedVolts the most that the diode blocks in each cycle, zero or more
 * @param forwardVolts its rated drop, by which its junctions are counted
 */
export function effectiveJunction(
  junctionFarads: number,
  measuredVolts: number | null,
  blockedVolts: number,
  forwardVolts: number,
): number {
  if (measuredVolts === null || junctionFarads === 0) return junctionFarads;
  const potential = BUILT_IN_VOLTS * junctionsOf(forwardVolts);
  const atZero = junctionFarads * (1 + measuredVolts / potential) ** GRADING;
  const times = blockedVolts / potential;
  // As the voltage goes to zero so does the difference; its leading term is then the capacitance at zero.
  if (times < 1e-6) return atZero;
  return (atZero * ((1 + times) ** (1 - GRADING) - 1)) / ((1 - GRADING) * times);
}
