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

/**
 * The highest that a switch sees after it opens on a current, V: the leakage
 * inductance rings with the switch's capacitance on top of the slower swing of
 * the core with all of it.
 *
 * Two coupled windings, L i' = v with L = [L1, M; M, L2], M = k r L1, and a
 * capacitance on each, stepped by the leapfrog scheme, which keeps the energy,
 * until the slow swing is past its top (derived; handbook circuit). Loss is left
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
  const leakHenries = leak * primaryHenries;
  const magnetising = coupling ** 2 * primaryHenries;
  // The secondary seen from the primary, in an equivalent with all leakage on the primary's side.
  const coreFarads = referred / coupling ** 2;
  const fastest = Math.sqrt(
    1 / (leakHenries * switchFarads) + 1 / (leakHenries * coreFarads) + 1 / (magnetising * coreFarads),
  );
  const slowest = 1 / Math.sqrt(primaryHenries * (switchFarads + coreFarads));
  const seconds = 1 / (STEPS_A_RADIAN * fastest);
  // So far apart that following both takes too long: the two swings on top of each other, from above.
  if (Math.PI / slowest / seconds > MOST_STEPS)
    return (
      supplyVolts +
      Math.hypot(peakAmps * Math.sqrt(primaryHenries / (switchFarads + coreFarads)), supplyVolts) +
      Math.hypot(peakAmps * Math.sqrt(leakHenries / switchFarads), supplyVolts)
    );
  let leakAmps = peakAmps;
  let coreAmps = peakAmps;
  let switchVolts = 0;
  let coreVolts = -(coupling ** 2) * supplyVolts;
  let most = 0;
  for (let step = 0; step * seconds * slowest < Math.PI; step += 1) {
    leakAmps += (seconds * (supplyVolts - switchVolts + coreVolts)) / leakHenries;
    coreAmps -= (seconds * coreVolts) / magnetising;
    switchVolts += (seconds * leakAmps) / switchFarads;
    coreVolts += (seconds * (coreAmps - leakAmps)) / coreFarads;
    most = Math.max(most, switchVolts);
  }
  return most;
}
