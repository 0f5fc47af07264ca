import { driveAt, type Drive } from '../drive/drive';
import { loadOhms, steadyAmpsOf } from '../load/load-kinds';
import { resistancesOf, type OutputElement } from './elements';

/** An alternating output at its load, and what it takes of the winding. */
export type AlternatingPoint = {
  /** Across the load, V. */
  rmsVolts: number;
  /** The greatest magnitude that it reaches in a cycle, V. */
  peakVolts: number;
  /** Through the load, A. */
  rmsAmps: number;
  loadWatts: number;
  /** Out of the winding: RMS, A, and W with what its resistance takes. */
  sourceRmsAmps: number;
  sourceWatts: number;
};

/** Steps of a period; a step of a square or of samples falls between two of them. */
const STEPS = 1440;

/**
 * A winding straight onto its load: L i' + (R + Rload) i = v(t) solved over one
 * period that closes on itself, the drive steady through each step (handbook: a
 * resistance behind R and L).
 *
 * @param elements behind the winding: bleeder, divider, series resistor, load. A steady
 *   current counts as its RMS, drawn in step with the voltage as a resistance
 *   draws it
 * @returns null for a load whose current is no resistance's: corona, or a gap;
 *   for anything but a sine through a capacitor in series; and behind smoothing,
 *   which is for what is rectified
 */
export function alternatingPoint(drive: Drive, elements: readonly OutputElement[]): AlternatingPoint | null {
  if (drive.seriesFarads !== null && drive.waveform !== 'sine') return null;
  const load = elements.find((element) => element.kind === 'load')!.load;
  const steady = steadyAmpsOf(load);
  if (load.kind !== 'open' && steady === null && loadOhms(load) === null) return null;
  if (elements.some((element) => 'id' in element && element.id === 'smoothing')) return null;
  const { seriesOhms, bleederSiemens, dividerSiemens } = resistancesOf(elements);
  const path = { seriesOhms, acrossOhms: 1 / (bleederSiemens + dividerSiemens) };
  if (steady === null || steady === 0) return through(drive, path, loadOhms(load) ?? Infinity);
  return drawing(drive, path, steady);
}

type Path = { seriesOhms: number; acrossOhms: number };

function through(drive: Drive, { seriesOhms, acrossOhms }: Path, ohms: number): AlternatingPoint {
  const branchOhms = seriesOhms + ohms;
  const terminalOhms = 1 / (1 / acrossOhms + 1 / branchOhms);
  const amps = windingAmps(drive, terminalOhms);
  /** What arrives at the load of each ampere or volt at the terminal. */
  const share = Number.isFinite(ohms) ? ohms / branchOhms : 1;
  const volts = (at: number) =>
    (Number.isFinite(terminalOhms) ? amps[at] * terminalOhms : driveAt(drive, (at + 0.5) / STEPS)) * share;
  let [square, peak, current] = [0, 0, 0];
  for (let at = 0; at < STEPS; at += 1) {
    const one = volts(at);
    square += one ** 2;
    peak = Math.max(peak, Math.abs(one));
    current += amps[at] ** 2;
  }
  const [rmsVolts, sourceRmsAmps] = [Math.sqrt(square / STEPS), Math.sqrt(current / STEPS)];
  return {
    rmsVolts,
    peakVolts: peak,
    rmsAmps: rmsVolts / ohms,
    loadWatts: rmsVolts ** 2 / ohms,
    sourceRmsAmps,
    sourceWatts: sourceRmsAmps ** 2 * (drive.seriesOhms + (Number.isFinite(terminalOhms) ? terminalOhms : 0)),
  };
}

/** Part of the greatest value that a sum over a period may be off by. */
const ROUNDING = 1e-13;

const CLOSE = 1e-9;
const LEAST_PART = 1e-6;
const LEAST_OHMS = 1e-6;

/** The resistance that draws an RMS current; null where not even a short does. */
function drawing(drive: Drive, path: Path, rmsAmps: number): AlternatingPoint | null {
  // So little beside what is in series that it is as good as a short, and no less: a loop of no resistance closes on nothing.
  const least = LEAST_OHMS + LEAST_PART * (drive.seriesOhms + path.seriesOhms + reactanceOf(drive));
  if (!(through(drive, path, least).rmsAmps > rmsAmps)) return null;
  // Current falls as the resistance grows: the root closed in on in logarithms.
  let low = Math.log(least);
  let high = Math.log(1e15);
  let found = through(drive, path, Math.exp(high));
  while (high - low > CLOSE) {
    const middle = (low + high) / 2;
    found = through(drive, path, Math.exp(middle));
    if (found.rmsAmps > rmsAmps) low = middle;
    else high = middle;
  }
  return found;
}

/** Size of what is in series with a winding beside resistance, Ω; of a sine it does not matter which way it turns. */
function reactanceOf({ frequencyHertz, seriesHenries, seriesFarads }: Drive): number {
  const omega = 2 * Math.PI * frequencyHertz;
  return Math.abs(omega * seriesHenries - (seriesFarads === null ? 0 : 1 / (omega * seriesFarads)));
}

/** Current out of the winding at every step. */
function windingAmps(drive: Drive, terminalOhms: number): Float64Array {
  const amps = new Float64Array(STEPS);
  if (!Number.isFinite(terminalOhms)) return amps;
  const seriesHenries = reactanceOf(drive) / (2 * Math.PI * drive.frequencyHertz);
  const ohms = drive.seriesOhms + terminalOhms;
  const volts = amps.map((_, at) => driveAt(drive, (at + 0.5) / STEPS));
  if (seriesHenries === 0) return volts.map((one) => one / ohms);
  const decay = ohms / (seriesHenries * drive.frequencyHertz * STEPS);
  const stays = Math.exp(-decay);
  const gained = -Math.expm1(-decay);
  /** One period from a current on; returns what it ends with. */
  const run = (start: number) => {
    let now = start;
    volts.forEach((one, at) => {
      const next = now * stays + (one / ohms) * gained;
      amps[at] = (now + next) / 2;
      now = next;
    });
    return now;
  };
  const end = run(0);
  if (decay * STEPS > 1) run(end / (1 - stays ** STEPS));
  // Where a period hardly decays, what closes it is the mean, which inductance leaves alone.
  else run(((meanOf(volts) / ohms - meanOf(amps)) * decay * STEPS) / -Math.expm1(-decay * STEPS));
  return amps;
}

/** A mean of nothing but rounding is none. */
function meanOf(values: Float64Array): number {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  const most = values.reduce((so, value) => Math.max(so, Math.abs(value)), 0);
  return Math.abs(mean) > ROUNDING * most ? mean : 0;
}
