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

/**
 * The same for one that swings so far from the drop at which it conducts, F: to
 * its drop it goes with what it has at no voltage, which is less than it then
 * holds.
 *
 * @param swingVolts from conducting to the most that it blocks, zero or more
 * @param dropVolts at which it conducts
 */
export function swungJunction(
  {
    junctionFarads,
    measuredVolts,
    forwardVolts,
  }: { junctionFarads: number; measuredVolts: number | null; forwardVolts: number },
  swingVolts: number,
  dropVolts: number,
): number {
  const blockedVolts = Math.max(0, swingVolts - dropVolts);
  const [atNone, blocking] = [0, blockedVolts].map((volts) =>
    effectiveJunction(junctionFarads, measuredVolts, volts, forwardVolts),
  );
  const over = blockedVolts + dropVolts;
  return over > 0 ? (blocking * blockedVolts + atNone * dropVolts) / over : atNone;
}

/** What a junction holds more, for each volt that it is nearer to none than a reverse voltage. */
export type JunctionStep = { reverseVolts: number; farads: number };

/**
 * Parts of the most that it blocks at which the steps of a junction's capacitance
 * lie, and what its charge is raised by there, of the most: it is then within
 * 0.7 % of the most everywhere, above and below. Found for a charge that
 * goes with V^0.6, the most curved there is.
 */
const STEPS = [0.0055, 0.0365, 0.12, 0.285, 0.566];
const RAISED = 0.0041;

/**
 * The same junction by its voltage, in steps, with a straight charge between them.
 *
 * @returns what it has at the most that it blocks, F, and what it gains below each step
 */
export function junctionByVoltage(
  junctionFarads: number,
  measuredVolts: number | null,
  blockedVolts: number,
  forwardVolts: number,
): { farads: number; steps: JunctionStep[] } {
  if (measuredVolts === null || junctionFarads === 0 || !(blockedVolts > 0))
    return { farads: effectiveJunction(junctionFarads, measuredVolts, 0, forwardVolts), steps: [] };
  const chargeAt = (volts: number) => volts * effectiveJunction(junctionFarads, measuredVolts, volts, forwardVolts);
  const most = chargeAt(blockedVolts);
  const corners = [
    { volts: 0, charge: 0 },
    ...STEPS.map((part) => ({ volts: part * blockedVolts, charge: chargeAt(part * blockedVolts) + RAISED * most })),
    { volts: blockedVolts, charge: most },
  ];
  const slopes = corners.slice(1).map(({ volts, charge }, index) => {
    const before = corners[index];
    return (charge - before.charge) / (volts - before.volts);
  });
  return {
    farads: slopes[slopes.length - 1],
    steps: STEPS.map((_, index) => ({
      reverseVolts: corners[index + 1].volts,
      farads: slopes[index] - slopes[index + 1],
    })),
  };
}
