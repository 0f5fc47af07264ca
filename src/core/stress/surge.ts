import { amplitudeVolts, edgeFraction, hasFastEdges, type Drive } from '../drive/drive';
import type { LoadedLadder } from '../ladder/loaded';

/** How far the second pulse, into a capacitor that the first has charged, may pass the first (against integration). */
const SECOND_PULSE = 1.1;

/** Drives up to this frequency are lines and their transformers, switched on as they stand, at any phase (common practice, no source). */
const SWITCHED_HERTZ = 400;

/** Whether a drive is switched on as it stands, at any phase; others build up from nothing. */
export const isSwitchedAtAnyPhase = (drive: Drive) => !hasFastEdges(drive) && drive.frequencyHertz <= SWITCHED_HERTZ;

/**
 * The most that a diode carries when the drive is switched on with every
 * capacitor empty, A. On a sine that an oscillator builds up the peak through the source's resistance and the
 * largest capacitance that one diode charges at the input, V / sqrt(R^2 + X^2),
 * never more than V / X. A mains switch closes at any phase, at worst at the
 * peak: V / R, or V over the surge impedance sqrt(L / C) where that is more
 * (derived: no v from 0 to V drives more through R, or through L and C, from
 * rest); and as much for the second pulse as behind an oscillator, twice that
 * where inductance may ring it up. On a pulse its whole step through the resistance, or
 * what its slope asks of that capacitance (derived; integration gives 0.6 to
 * 1.0 of it on a sine from zero, 0.9 to 1.0 at the peak through a resistance, less on steps).
 *
 * @param onOhms of the diodes in one place
 * @returns null where nothing in the design limits it
 */
export function switchOnAmps({ network, drive }: LoadedLadder, onOhms: number): number | null {
  const sources = new Set(network.sources.map(({ node }) => node));
  // What one diode can charge in a pulse: a capacitor on a source, or beyond a diode that stands on one.
  const fed = new Set(
    network.diodes.flatMap(({ anode, cathode }) =>
      sources.has(anode) ? [cathode] : sources.has(cathode) ? [anode] : [],
    ),
  );
  const farads = Math.max(
    ...network.capacitors
      .filter((part) => [part.lower, part.upper].some((node) => sources.has(node) || fed.has(node)))
      .map((part) => part.farads),
  );
  const volts = amplitudeVolts(drive);
  const ohms = drive.seriesOhms + onOhms;
  if (!hasFastEdges(drive)) {
    const reactance = 1 / (2 * Math.PI * drive.frequencyHertz * farads);
    const risen = Math.min(volts / reactance, (SECOND_PULSE * volts) / Math.hypot(ohms, reactance));
    if (!isSwitchedAtAnyPhase(drive)) return risen;
    const impedance = Math.max(ohms, Math.sqrt(drive.seriesHenries / farads));
    if (impedance === 0) return null;
    return Math.max(volts / impedance, drive.seriesHenries > 0 ? Math.min(2 * risen, (2 * volts) / impedance) : risen);
  }
  const edgeSeconds = edgeFraction(drive) / drive.frequencyHertz;
  const most = Math.min(
    edgeSeconds > 0 ? (2 * volts * farads) / edgeSeconds : Infinity,
    ohms > 0 ? (2 * volts) / ohms : Infinity,
  );
  return Number.isFinite(most) ? most : null;
}

/** Half a period of the mains, for which surge ratings are stated, and the shortest pulse over which heat still adds up alike, s. */
const RATED_SECONDS = 10e-3;
const SHORTEST_SECONDS = 1e-3;

/**
 * What a diode's surge rating comes to for a pulse of another length, A: heat in
 * proportion to I^2 t, down to a millisecond; shorter pulses are taken as that
 * (common practice of data sheets, no source).
 *
 * @param surgeAmps once, for half a period of the mains
 * @param seconds that the pulse lasts
 */
export function surgeRating(surgeAmps: number, seconds: number): number {
  return surgeAmps * Math.sqrt(RATED_SECONDS / Math.max(seconds, SHORTEST_SECONDS));
}
