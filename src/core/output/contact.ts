/** Resistance of a body between hands at high voltage, lowest and highest that is counted with, Ω (IEC 60479-1, from memory). */
export const BODY_OHMS = [500, 2000] as const;

/** Time constants after which a capacitance counts as empty. */
const FALLEN_CONSTANTS = 5;

/**
 * The most that leaves a shorted output, and so the most that a diode carries
 * then, A: through the series resistor (conservation of charge at the terminal;
 * an upper bound).
 *
 * @returns null without a series resistor: then only the diodes themselves limit it
 */
export function shortedAmps(noLoadPeakVolts: number, seriesOhms: number): number | null {
  return seriesOhms > 0 ? noLoadPeakVolts / seriesOhms : null;
}

/** Time constants in which a capacitance comes within 5 % of what charges it (handbook). */
const CHARGED_CONSTANTS = 3;

/** What hangs on an output once it is charged: J and C at the highest voltage, and how long its series resistor takes to bring it within 5 %, s. */
export const hungOn = (farads: number, volts: number, seriesOhms: number) => ({
  joules: (farads * volts ** 2) / 2,
  coulombs: farads * volts,
  chargedSeconds: CHARGED_CONSTANTS * farads * seriesOhms,
});

/** What comes out of an output that is touched or shorted, at most, before anything else of the drive. */
export type Contact = {
  /** At the first instant through a body, A: as its resistance is highest and lowest. */
  leastBodyAmps: number;
  mostBodyAmps: number;
  /** At the first instant into a short, A; null where no resistor limits it. */
  shortAmps: number | null;
  /** Of what is stored, what ends in a body, J: the highest resistance takes most. */
  bodyJoules: number;
  /** On each resistor of the series string: shorted, V; at the load, V and W. Null without one, or where the load is not known. */
  shortVoltsEach: number | null;
  loadVoltsEach: number | null;
  loadWattsEach: number | null;
  /** What hangs at the load gives before any of that, with no resistor but the body: at first, A, for so long at most, s, and in all, J and C. Null where nothing hangs there. */
  front: { amps: number; seconds: number; joules: number; coulombs: number } | null;
};

/**
 * Current and energy of the first contact between output and return: all the
 * output's voltage over what is in series, and of all that is stored the body's
 * share of the resistance. Upper bounds (conservation of charge and energy):
 * the ladder's own capacitors and diodes keep some of both. What hangs at the
 * load, and a last smoothing capacitor without one, stand in front of the series resistor and are told apart; what the drive
 * goes on giving comes on top.
 *
 * @param noLoadPeakVolts highest at the output, V
 * @param storedJoules in the ladder, J
 * @param series resistance in all, Ω, and of how many equal ones it is made
 * @param loadAmps through it at the load, A; null where that is not known
 * @param frontFarads of what no resistor stands before at the load
 */
export function contactOf(
  noLoadPeakVolts: number,
  storedJoules: number,
  { seriesOhms, count }: { seriesOhms: number; count: number },
  loadAmps: number | null,
  frontFarads = 0,
): Contact {
  const [least, most] = BODY_OHMS;
  const each = seriesOhms > 0 && loadAmps !== null ? seriesOhms / count : null;
  return {
    leastBodyAmps: noLoadPeakVolts / (seriesOhms + most),
    mostBodyAmps: noLoadPeakVolts / (seriesOhms + least),
    shortAmps: shortedAmps(noLoadPeakVolts, seriesOhms),
    bodyJoules: (storedJoules * most) / (seriesOhms + most),
    shortVoltsEach: seriesOhms > 0 ? noLoadPeakVolts / count : null,
    loadVoltsEach: each && loadAmps! * each,
    loadWattsEach: each && loadAmps! ** 2 * each,
    front:
      frontFarads > 0
        ? {
            amps: noLoadPeakVolts / least,
            seconds: FALLEN_CONSTANTS * most * frontFarads,
            joules: (frontFarads * noLoadPeakVolts ** 2) / 2,
            coulombs: frontFarads * noLoadPeakVolts,
          }
        : null,
  };
}
