import type { Design } from '../design/design-schema';
import type { Prediction } from '../predict/prediction';
import type { LoadedLadder } from '../ladder/loaded';
import type { StoredCharge } from '../output/discharge';
import { AMPS_PER_SQUARE_METRE, primaryAmpsOf, sectionOf } from '../magnetics/wire';
import { MOST_RISE, ratedDiodeWatts } from './heat';
import { atHighest, marginOf } from '../quantity/margin';
import { ladderParts } from './strings';
import { shortedAmps, surgeRating, switchOnAmps } from './surge';

/** What is rated, and what it is called. */
const NAMES = {
  capacitors: 'Capacitors',
  diodes: 'Diodes',
  series: 'Series resistor',
  bleeder: 'Bleeder',
  transistor: 'Transistor',
  tank: 'Tank capacitor',
  gate: 'Gate resistor',
  core: 'Core',
  primary: 'Primary wire',
  secondary: 'Secondary wire',
} as const;
export type Rated = keyof typeof NAMES;

/** Which of its ratings. */
type Rating =
  | 'voltage'
  | 'reverse'
  | 'blocks'
  | 'alternating, RMS'
  | 'over its body'
  | 'current, RMS'
  | 'average'
  | 'surge'
  | 'power'
  | 'heat'
  | 'warmer by'
  | 'pulse'
  | 'flux';

/** One part's rating against what it is asked, in one case. */
export type PartMargin = {
  of: Rated;
  /** By its name, with the id of the one that counts among several. */
  part: string;
  what: Rating;
  case: 'no load' | 'drive high' | 'loaded' | 'shorted output' | 'switched on';
  stress: number;
  rated: number;
  unit: 'V' | 'A' | 'W' | 'J' | 'K' | 'mT';
  margin: number;
};

/** What margins are told from, beside the design. */
type Told = Pick<Prediction, 'capacitors' | 'diodes' | 'output' | 'source' | 'input'> & {
  energy: Pick<StoredCharge, 'joules' | 'terminalCoulombs'>;
};

/** Margins as they are told, one rating after another; what is not known, or not stressed, is left out. */
class Margins {
  readonly list: PartMargin[] = [];

  add(
    of: Rated,
    what: Rating,
    when: PartMargin['case'],
    unit: PartMargin['unit'],
    stress: number | null,
    rated: number | null,
    one: { id: string } | null = null,
  ): void {
    const margin = stress === null ? null : marginOf(rated, stress);
    if (margin === null) return;
    const part = one ? `${NAMES[of]} (${one.id})` : NAMES[of];
    this.list.push({ of, part, what, case: when, stress: stress!, rated: rated!, unit, margin });
  }
}

/**
 * Every part whose rating is known against its stress, weakest first: ladder
 * capacitors and diodes, output resistors, and what of driver and transformer is
 * rated. Voltages are those without load, the worst case, and of the ladder's
 * parts also with the drive as high as its spread; a shorted output puts all of
 * it, and all that is stored, across the series resistor; currents, powers and
 * heating are those at the load, surges upper bounds.
 */
export function marginsOf(design: Design, full: LoadedLadder, told: Told): PartMargin[] {
  const margins = new Margins();
  ofVoltage(margins, design, told);
  ofCurrent(margins, design, told);
  ofSurge(margins, design, full, told);
  ofOutput(margins, design, told);
  ofDrive(margins, design, told);
  return margins.list.sort((a, b) => a.margin - b.margin);
}

/** What capacitors and diodes stand without load, and with the drive at its highest. */
function ofVoltage(margins: Margins, { spread }: Design, told: Told): void {
  const capacitor = weakest(told.capacitors);
  const diode = weakest(told.diodes);
  const high = atHighest(spread);
  for (const [when, times] of [['no load', 1] as const, ...(high > 1 ? [['drive high', high] as const] : [])]) {
    margins.add('capacitors', 'voltage', when, 'V', times * capacitor.workingVolts, capacitor.ratedVolts, capacitor);
    margins.add('diodes', 'reverse', when, 'V', times * diode.reverseVolts, diode.ratedVolts, diode);
  }
}

/** What capacitors and diodes carry at the load, and how it heats them. */
function ofCurrent(margins: Margins, { ladder }: Design, { capacitors, diodes }: Told): void {
  const { currentShare, series } = ladderParts(ladder).capacitor;
  const times = (factor: number, value: number | null) => (value === null ? null : factor * value);
  const busiest = most(capacitors, ({ rmsAmps }) => rmsAmps);
  const { ratedRmsAmps, ratedAcVolts } = ladder.capacitor;
  margins.add(
    'capacitors',
    'current, RMS',
    'loaded',
    'A',
    times(currentShare, busiest.value),
    ratedRmsAmps,
    busiest.part,
  );
  const warmest = most(capacitors, ({ riseKelvin }) => riseKelvin);
  margins.add('capacitors', 'warmer by', 'loaded', 'K', warmest.value, MOST_RISE, warmest.part);
  const ripple = most(capacitors, ({ ripplePeakToPeakVolts }) => ripplePeakToPeakVolts);
  // No waveform has more RMS than half its peak to peak.
  margins.add(
    'capacitors',
    'alternating, RMS',
    'loaded',
    'V',
    times(0.5 / series, ripple.value),
    ratedAcVolts,
    ripple.part,
  );
  const carrying = most(diodes, ({ averageAmps }) => averageAmps);
  margins.add('diodes', 'average', 'loaded', 'A', carrying.value, ladder.diode.averageAmps, carrying.part);
  const hottest = most(diodes, ({ watts }) => watts);
  margins.add('diodes', 'heat', 'loaded', 'W', hottest.value, ratedDiodeWatts(ladder.diode), hottest.part);
}

/** What a diode carries for a moment, switched on and shorted. */
function ofSurge(margins: Margins, { ladder, output }: Design, full: LoadedLadder, told: Told): void {
  const { surgeAmps, onOhms, series } = ladder.diode;
  const surge = (seconds: number) => (surgeAmps === null ? null : surgeRating(surgeAmps, seconds));
  const halfPeriod = 1 / (2 * full.drive.frequencyHertz);
  margins.add('diodes', 'surge', 'switched on', 'A', switchOnAmps(full, onOhms * series), surge(halfPeriod));
  const shorted = shortedAmps(told.output.noLoadVolts, output.seriesOhms);
  // What a short draws at the terminal lasts about as long as its charge at the first current.
  const shortSeconds = shorted === null ? 0 : told.energy.terminalCoulombs / shorted;
  margins.add('diodes', 'surge', 'shorted output', 'A', shorted, surge(shortSeconds));
}

/** What the output's resistors take. */
function ofOutput(margins: Margins, { output, resistors }: Design, told: Told): void {
  const { noLoadVolts, amps } = told.output;
  const { seriesOhms, bleederOhms } = output;
  if (seriesOhms > 0) {
    const { watts, bodyVolts, count } = resistors.series;
    margins.add('series', 'power', 'loaded', 'W', amps === null ? null : (amps ** 2 * seriesOhms) / count, watts);
    margins.add('series', 'over its body', 'shorted output', 'V', noLoadVolts / count, bodyVolts);
    const { pulseJoules } = resistors.series;
    margins.add('series', 'pulse', 'shorted output', 'J', told.energy.joules / count, pulseJoules);
  }
  if (bleederOhms !== null) {
    const { watts, bodyVolts, count } = resistors.bleeder;
    margins.add('bleeder', 'power', 'no load', 'W', noLoadVolts ** 2 / bleederOhms / count, watts);
    margins.add('bleeder', 'over its body', 'no load', 'V', noLoadVolts / count, bodyVolts);
  }
}

/** What of driver and transformer is rated. */
function ofDrive(margins: Margins, { driver, transformer, winding }: Design, { source, input }: Told): void {
  const figure = (key: string) => source.figures.find((one) => one.key === key)?.value ?? null;
  if ('ratedVolts' in driver) {
    const amps = figure('transistor-amps') ?? figure('primary-rms');
    margins.add('transistor', 'current, RMS', 'loaded', 'A', amps, driver.ratedAmps);
    margins.add(
      'transistor',
      'blocks',
      'no load',
      'V',
      figure('transistor-peak') ?? figure('switch-peak'),
      driver.ratedVolts,
    );
  }
  if (driver.kind === 'resonant-push-pull') {
    margins.add(
      'tank',
      'voltage',
      'loaded',
      'V',
      figure('tank-each-volts') ?? figure('tank-peak'),
      driver.tankRatedVolts,
    );
    margins.add(
      'tank',
      'current, RMS',
      'loaded',
      'A',
      figure('tank-each-amps') ?? figure('tank-amps'),
      driver.tankRatedAmps,
    );
    margins.add('gate', 'power', 'loaded', 'W', figure('gate-watts'), driver.gateResistorWatts);
  }
  if (transformer) margins.add('core', 'flux', 'loaded', 'mT', figure('flux'), transformer.saturationTesla * 1e3);
  if (!transformer || !winding) return;
  const { primary, secondary } = winding;
  const carries = (wireMetres: number | null, strands: number) =>
    wireMetres === null ? null : AMPS_PER_SQUARE_METRE * strands * sectionOf(wireMetres);
  const primaryAmps = primaryAmpsOf(driver.kind, source.figures, input.amps);
  const [ofPrimary, ofSecondary] = [carries(primary.wireMetres, primary.strands), carries(secondary.wireMetres, 1)];
  margins.add('primary', 'current, RMS', 'loaded', 'A', primaryAmps, ofPrimary);
  margins.add('secondary', 'current, RMS', 'loaded', 'A', input.amps, ofSecondary);
}

/** The part with the greatest figure, among those whose figure is known. */
function most<T extends { id: string }>(parts: readonly T[], of: (part: T) => number | null) {
  return parts.reduce(
    (found: { part: T; value: number | null }, part) => {
      const value = of(part);
      return value !== null && (found.value === null || value > found.value) ? { part, value } : found;
    },
    { part: parts[0], value: null },
  );
}

const weakest = <T extends { margin: number | null }>(parts: readonly T[]) =>
  parts.reduce((a, b) => ((b.margin ?? Infinity) < (a.margin ?? Infinity) ? b : a));
