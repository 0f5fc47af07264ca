import type { Design } from '../design/design-schema';
import { preferredAtLeast } from '../quantity/preferred-values';
import { bodiesFor, gentleOhms, judgeDischarge, type DischargeJudgement } from '../transient/discharge-resistor';

/** The resistor on an insulated stick that a plan works with. */
export type Stick = {
  ohms: number;
  /** Of so many ordinary resistors in series it would be made, each of the next E12 value; more than some sixty ask for one made for it. */
  count: number;
  ohmsEach: number;
  voltsEach: number;
  joulesEach: number;
  /** What a tool put across it begins with instead, limited by nothing but its own leads and arc, A; and the surge rating of a diode, A, null where that is not known. */
  bareAmps: number;
  surgeAmps: number | null;
} & DischargeJudgement;

/** What is left of resistance in a short by a tool, Ω (common practice, no source). */
export const LEADS_OHMS = 1;

/**
 * What a stick must stand where it is put on the charged terminal.
 *
 * @param ohms above zero
 * @param samples of the terminal as it falls through it, V
 * @param joules all that is stored: no more can end in it
 */
export function stickFor(
  { ladder: { diode } }: Design,
  ohms: number,
  samples: { seconds: number; volts: number; joules: number }[],
  joules: number,
): Stick {
  const volts = Math.abs(samples[0].volts);
  // What leaves through it is the most that any diode carries meanwhile.
  const judged = judgeDischarge(
    { samples, diodePeakAmps: volts / ohms, joules: { start: joules, end: 0, resistor: joules } },
    ohms,
    diode.surgeAmps,
  );
  const count = bodiesFor(volts, joules);
  // Of how many it is made is said with it.
  const findings = judged.findings.filter(({ code }) => code !== 'resistor-over');
  return {
    ...judged,
    findings,
    ohms,
    count,
    ohmsEach: preferredAtLeast(12, ohms / count),
    voltsEach: volts / count,
    joulesEach: joules / count,
    bareAmps: volts / LEADS_OHMS,
    surgeAmps: diode.surgeAmps,
  };
}

/** The stick's resistance that is used where none is given, Ω. */
export const usualStickOhms = (volts: number): number => gentleOhms(Math.max(volts, 1));
