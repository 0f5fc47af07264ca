import { amplitudeVolts, hasFastEdges } from '../drive/drive';
import { conductsAtPositivePeak } from '../ladder/capacitive';
import { rippleAt, type Droop, type LoadedLadder } from '../ladder/loaded';
import { sharedCoupling } from '../topology/network';
import { pulseShape } from '../ladder/pulse-shape';
import { recoveryOf } from './recovery';

/** Currents in the places of a ladder, in the network's order. */
export type PartCurrents = {
  /** RMS, A; null where an ideal square charges in no time. */
  capacitors: (number | null)[];
  diodes: DiodeCurrent[];
};

export type DiodeCurrent = {
  rmsAmps: number | null;
  /** Forward charge in a cycle, what recovery lets flow back included, C. */
  forwardCoulombs: number;
  /** Charge that flows back in a cycle, C, and the reverse voltage that the drive has reached by then, V. */
  recoveredCoulombs: number;
  recoveredVolts: number;
};

type Peak = 'positive' | 'negative';
type Instant = keyof LoadedLadder['lightLoad']['instants'];

/** Where strays leave less of the output than this part, no closed form counts for anything. */
const LEAST_NARROWING = 0.1;

/**
 * What alternates in every capacitor and diode of a loaded ladder.
 *
 * Bookkeeping tells the charges that each moves about either peak of the drive
 * and between them; the form of the winding's pulse tells how fast. One diode
 * after another takes a pulse over, and the capacitors on the way with it, so
 * that a part which moves a share s of the winding's charge sees s of its mean
 * square. What strays draw through a capacitor adds as a sine of its own. On a
 * square the winding's RMS stands for the form. Recovery lets charge flow back
 * after each pulse: of a sine as its fall goes on, at an edge what is stored of
 * the current just then. Source: derived; left out are leakage inductance and
 * leakage of the diodes.
 *
 * @param amps out of the ladder, A
 * @param windingAmps RMS in a winding, as `sourceDemand` tells
 * @param transitSeconds charge that a diode stores for each ampere, s
 * @returns what the hardest pressed capacitor and diode carry; those further up
 *   are estimates from above. How near: docs/physics.md
 */
export function partCurrents(
  ladder: LoadedLadder,
  amps: number,
  droop: Pick<Droop, 'sourceAngle' | 'reactive'>,
  windingAmps: number | null,
  transitSeconds: number,
): PartCurrents {
  const { network, lightLoad, unloaded, drive } = ladder;
  const { frequencyHertz, duty } = drive;
  const { instants, windingPulses } = lightLoad;
  const omega = 2 * Math.PI * frequencyHertz;
  const swept = hasFastEdges(drive);
  const { square, endSlope } = pulseShape(droop, rippleAt(ladder, amps, droop.sourceAngle).chargingAngle);
  const coulombs = amps / frequencyHertz;
  const peaks = network.diodes.map((diode): Peak =>
    conductsAtPositivePeak(diode, unloaded.response.swings) ? 'positive' : 'negative',
  );
  /** The most that a winding gives at a peak: to one side for the load alone, and with what strays take at an edge. */
  const given = (peak: Peak) => {
    // Two sides of a ladder may take their charges from one pulse of a sine at once, each through couplings of its own.
    const sides = sharedCoupling(network)
      ? 1
      : Math.max(1, new Set(network.diodes.flatMap(({ side }, at) => (peaks[at] === peak ? [side] : []))).size);
    const loads = windingPulses.map((pulse) => (coulombs * pulse[peak]) / (swept ? 1 : sides));
    const load = Math.max(...loads);
    const strays = swept ? 2 * amplitudeVolts(drive) : 0;
    const all = Math.max(...loads.map((one, at) => one + strays * ladder.inputFarads[at]));
    return { load, all, recovery: recoveryOf(endSlope * load * omega ** 2, load, transitSeconds) };
  };
  const gives = { positive: given('positive'), negative: given('negative') };
  /** Mean square of a charge moved about a peak as part of what the winding gives in the same time, A². */
  const pulsed = (charge: number, peak: Peak, whole: number): number => {
    const product = charge * Math.max(charge, whole);
    if (product === 0) return 0;
    if (!swept) return Math.PI * square * product * frequencyHertz ** 2 * gives[peak].recovery.squareFactor;
    return windingAmps === null ? NaN : ((windingAmps / gives[peak].all) ** 2 * product) / 2;
  };
  // Strays leave the upper diodes less of the swing, by which the winding's pulse is taken for wider than the lower ones' are (fitted).
  const narrowing = swept ? 1 : Math.max(LEAST_NARROWING, ladder.strayFactor);
  const across = (index: number, at: ReadonlyMap<string, number>) => {
    const { upper, lower } = network.capacitors[index];
    return at.get(upper)! - at.get(lower)!;
  };
  const root = (meanSquare: number) => (Number.isNaN(meanSquare) ? null : Math.sqrt(meanSquare));
  return {
    capacitors: network.capacitors.map(({ farads }, index) => {
      const moved = (from: Instant, to: Instant) =>
        farads * coulombs * Math.abs(across(index, instants[to]) - across(index, instants[from]));
      const swing = farads * Math.abs(across(index, unloaded.nodeSwings));
      // A square holds its diodes conducting all the time it stands at a peak.
      if (swept)
        return root(
          pulsed(moved('beforePositive', 'beforeNegative') + 2 * swing, 'positive', gives.positive.all) +
            pulsed(moved('beforeNegative', 'beforePositive') + 2 * swing, 'negative', gives.negative.all),
        );
      return root(
        pulsed(moved('beforePositive', 'afterPositive'), 'positive', gives.positive.load) +
          pulsed(moved('beforeNegative', 'afterNegative'), 'negative', gives.negative.load) +
          (moved('afterPositive', 'beforeNegative') * frequencyHertz) ** 2 / duty +
          (moved('afterNegative', 'beforePositive') * frequencyHertz) ** 2 / (1 - duty) +
          (omega * swing) ** 2 / 2,
      );
    }),
    diodes: network.diodes.map((_, index) => {
      const peak = peaks[index];
      const { load, recovery } = gives[peak];
      const charge = coulombs * lightLoad.diodeCharges[index];
      const standing = (peak === 'positive' ? duty : 1 - duty) / frequencyHertz;
      const back = swept ? (transitSeconds * charge) / standing : recovery.coulombs;
      return {
        rmsAmps: root(pulsed(charge, peak, load) / narrowing),
        forwardCoulombs: charge + back,
        recoveredCoulombs: back,
        recoveredVolts: amplitudeVolts(drive) * (swept ? 2 : 1 - Math.cos(omega * recovery.seconds)),
      };
    }),
  };
}
