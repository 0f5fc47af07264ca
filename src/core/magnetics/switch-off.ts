import { LEAKAGE_QUALITY } from './transformer';

/** A primary let go at its peak current, with leakage between it and the capacitance on its secondary. */
export type ReleasedPrimary = {
  supplyVolts: number;
  peakAmps: number;
  primaryHenries: number;
  /** Secondary over primary turns. */
  ratio: number;
  coupling: number;
  /** Across the switch, and of secondary and ladder, F. */
  switchFarads: number;
  secondaryFarads: number;
};

/** Steps in a radian of the fastest ringing, and how many are taken at most. */
const STEPS_A_RADIAN = 12;
const MOST_STEPS = 20_000;

/** The same primary seen with all leakage on its own side, in an equivalent of two coupled windings; all in units of the primary. */
type Released = {
  leakHenries: number;
  magnetising: number;
  coreFarads: number;
  /** Angular frequency of the slow swing, rad/s, and a step that follows the fastest, s. */
  slowest: number;
  stepSeconds: number;
};

function equivalentOf({ primaryHenries, ratio, coupling, switchFarads, secondaryFarads }: ReleasedPrimary): Released {
  const leakHenries = (1 - coupling ** 2) * primaryHenries;
  const magnetising = coupling ** 2 * primaryHenries;
  const coreFarads = (ratio ** 2 * secondaryFarads) / coupling ** 2;
  const fastest = Math.sqrt(
    1 / (leakHenries * switchFarads) + 1 / (leakHenries * coreFarads) + 1 / (magnetising * coreFarads),
  );
  return {
    leakHenries,
    magnetising,
    coreFarads,
    slowest: 1 / Math.sqrt(primaryHenries * (switchFarads + coreFarads)),
    stepSeconds: 1 / (STEPS_A_RADIAN * fastest),
  };
}

/** Whether following both swings takes too long: leakage then rings far faster than the core. */
const tooFarApart = ({ slowest, stepSeconds }: Released) => Math.PI / slowest / stepSeconds > MOST_STEPS;

/**
 * Steps a released primary by the leapfrog scheme, which keeps the energy, until the slow swing is past its top, and tells
 * the most that stands on switch and secondary, V.
 *
 * @param clampVolts at which the switch is held, and conductance beside the leakage, S, in which its ringing dies
 */
function swing(
  { supplyVolts, peakAmps, coupling, switchFarads, ratio }: ReleasedPrimary,
  { leakHenries, magnetising, coreFarads, slowest, stepSeconds }: Released,
  { clampVolts, dampingSiemens }: { clampVolts: number; dampingSiemens: number },
): { switchVolts: number; secondaryVolts: number } {
  let leakAmps = peakAmps;
  let coreAmps = peakAmps;
  let switchVolts = 0;
  let coreVolts = -(coupling ** 2) * supplyVolts;
  let onSwitch = 0;
  let onCore = 0;
  for (let step = 0; step * stepSeconds * slowest < Math.PI; step += 1) {
    const across = supplyVolts - switchVolts + coreVolts;
    leakAmps += (stepSeconds * across) / leakHenries;
    coreAmps -= (stepSeconds * coreVolts) / magnetising;
    const passing = leakAmps + across * dampingSiemens;
    switchVolts = Math.min(clampVolts, switchVolts + (stepSeconds * passing) / switchFarads);
    coreVolts += (stepSeconds * (coreAmps - passing)) / coreFarads;
    onSwitch = Math.max(onSwitch, switchVolts);
    onCore = Math.max(onCore, coreVolts);
  }
  return { switchVolts: onSwitch, secondaryVolts: (onCore * ratio) / coupling };
}

/**
 * The highest that a switch sees after it opens on a current, V: the leakage
 * inductance rings with the switch's capacitance on top of the slower swing of
 * the core with all of it.
 *
 * Two coupled windings, L i' = v with L = [L1, M; M, L2], M = k r L1, and a
 * capacitance on each, stepped (derived; handbook circuit). Loss is left
 * out, so it is from above. The secondary starts where the forward stroke left it.
 *
 * @returns Infinity where leakage meets no capacitance at the switch
 */
export function switchOffPeakVolts(parts: ReleasedPrimary): number {
  const { supplyVolts, peakAmps, primaryHenries, ratio, coupling, switchFarads, secondaryFarads } = parts;
  const leak = 1 - coupling ** 2;
  // Everything seen from the primary.
  const referred = ratio ** 2 * secondaryFarads;
  if (leak === 0 || referred === 0) {
    const farads = switchFarads + referred;
    if (farads === 0) return Infinity;
    const start = referred > 0 ? (referred * -supplyVolts) / farads : -supplyVolts;
    return supplyVolts + Math.hypot(peakAmps * Math.sqrt(primaryHenries / farads), start);
  }
  if (switchFarads === 0) return Infinity;
  const released = equivalentOf(parts);
  const { leakHenries, coreFarads } = released;
  // So far apart that following both takes too long: the two swings on top of each other, from above.
  if (tooFarApart(released))
    return (
      supplyVolts +
      Math.hypot(peakAmps * Math.sqrt(primaryHenries / (switchFarads + coreFarads)), supplyVolts) +
      Math.hypot(peakAmps * Math.sqrt(leakHenries / switchFarads), supplyVolts)
    );
  return swing(parts, released, { clampVolts: Infinity, dampingSiemens: 0 }).switchVolts;
}

/**
 * The highest that an unloaded secondary swings to while a clamp holds the
 * switch, V: its capacitance rings behind the leakage inductance on above what
 * the clamp leaves (derived; the same two windings, stepped with the loss of a
 * ring of {@link LEAKAGE_QUALITY}). From rest at the forward stroke, so that what
 * rings on from the cycle before is left out.
 *
 * @param clampVolts at which the switch is held, V, above the supply
 * @returns null where leakage is too little to be followed: then it is what the clamp leaves
 */
export function clampedSecondaryVolts(parts: ReleasedPrimary, clampVolts: number): number | null {
  const { coupling, ratio, switchFarads, secondaryFarads } = parts;
  if (coupling === 1 || ratio * secondaryFarads * switchFarads === 0) return null;
  const released = equivalentOf(parts);
  if (tooFarApart(released)) return null;
  const { leakHenries, coreFarads } = released;
  const both = (coreFarads * switchFarads) / (coreFarads + switchFarads);
  const ohms = LEAKAGE_QUALITY * Math.sqrt(leakHenries / Math.sqrt(coreFarads * both));
  return swing(parts, released, { clampVolts, dampingSiemens: 1 / ohms }).secondaryVolts;
}
