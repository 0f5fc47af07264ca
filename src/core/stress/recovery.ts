import { rootBetween } from '../numeric/root';

/** What a pulse that falls evenly to zero does beyond it, in a diode that holds charge. */
export type Recovery = {
  /** Charge that flows back before the diode blocks, C. */
  coulombs: number;
  /** From zero of the forced current to the end of its flow back, s. */
  seconds: number;
  /** Mean square of the whole pulse, the flow back and what makes it good included, over that without recovery. */
  squareFactor: number;
};

/**
 * Charge that a diode stores for each ampere, s: driven from equal forward into
 * equal reverse current it recovers in ln 2 of its transit time (from memory).
 *
 * @param recoverySeconds null where it is not known, and then not counted
 */
export const transitOf = (recoverySeconds: number | null): number => (recoverySeconds ?? 0) / Math.LN2;

const NONE: Recovery = { coulombs: 0, seconds: 0, squareFactor: 1 };

/**
 * Recovery of a diode whose current ends in an even fall, as where a sine charges
 * a capacitor.
 *
 * The current that the circuit forces is -a t, from the start of conduction
 * through zero at the peak of the drive; the diode stores transit time times what
 * it conducts and blocks when that is gone. With s the time of conduction and t1
 * that after the peak, both in transit times, t1 = 1 - s / (e^s - 1), and the net
 * charge is s (s - 2 t1) a tau^2 / 2. Nothing that flows back was not passed
 * before. Source: derived.
 *
 * @param slope of the fall, A/s, above zero
 * @param coulombs net in each pulse, zero or more
 * @param transitSeconds charge stored for each ampere conducted; zero or more
 */
export function recoveryOf(slope: number, coulombs: number, transitSeconds: number): Recovery {
  const unit = (slope * transitSeconds ** 2) / 2;
  if (!(unit > 0 && coulombs > 0)) return NONE;
  const net = coulombs / unit;
  // A hundred thousand transit times long: nothing of it shows.
  if (net > 1e10) return NONE;
  const after = (s: number) => 1 - s / Math.expm1(s);
  const excess = (s: number) => s * (s - 2 * after(s)) - net;
  const most = 1 + Math.sqrt(1 + net);
  const s = rootBetween(excess, [0, -net], [most, excess(most)], 1e-9 * net, 1e-12 * most);
  const t1 = after(s);
  return {
    coulombs: unit * t1 ** 2,
    seconds: transitSeconds * t1,
    squareFactor: ((s - t1) ** 3 + t1 ** 3) / net ** 1.5,
  };
}
