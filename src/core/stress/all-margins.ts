import type { Design } from '../design/design-schema';
import type { Prediction } from '../predict/prediction';
import type { LoadedLadder } from '../ladder/loaded';
import type { StoredCharge } from '../output/discharge';
import { AMPS_PER_SQUARE_METRE, primaryAmpsOf, sectionOf } from '../winding/wire';
import { MOST_RISE, ratedDiodeWatts } from './heat';
import { marginOf } from './margin';
import { ladderParts } from './strings';
import { shortedAmps, surgeRating, switchOnAmps } from './surge';

/** One part's rating against what it is asked, in the case that asks most of it. */
export type PartMargin = {
  part: string;
  /** What is rated. */
  what: string;
  case: 'no load' | 'drive high' | 'loaded' | 'shorted output' | 'switched on';
  stress: number;
  rated: number;
  unit: 'V' | 'A' | 'W' | 'J' | 'K' | 'mT';
  margin: number;
};

/**
 * Every part whose rating is known against its stress, weakest first: ladder
 * capacitors and diodes, output resistors, and what of driver and transformer is
 * rated. Voltages are those without load, the worst case, and of the ladder's
 * parts also with the drive as high as its spread; a shorted output puts all of
 * it, and all that is stored, across the series resistor; currents, powers and
 * heating are those at the load, surges upper bounds.
 */
export function marginsOf(
  design: Design,
  full: LoadedLadder,
  prediction: Pick<Prediction, 'capacitors' | 'diodes' | 'output' | 'source' | 'input'> & {
    energy: Pick<StoredCharge, 'joules' | 'terminalCoulombs'>;
  },
): PartMargin[] {
  const { output, resistors, driver, transformer, ladder, spread } = design;
  const margins: PartMargin[] = [];
  const add = (
    part: string,
    what: string,
    when: PartMargin['case'],
    unit: PartMargin['unit'],
    stress: number | null,
    rated: number | null,
  ) => {
    const margin = stress === null ? null : marginOf(rated, stress);
    if (margin !== null) margins.push({ part, what, case: when, stress: stress!, rated: rated!, unit, margin });
  };
  const figure = (key: string) => prediction.source.figures.find((one) => one.key === key)?.value ?? null;
  const each = ladderParts(ladder).capacitor;
  const capacitor = weakest(prediction.capacitors);
  const diode = weakest(prediction.diodes);
  add(named(capacitor), 'voltage', 'no load', 'V', capacitor.workingVolts, capacitor.ratedVolts);
  add(named(diode), 'reverse', 'no load', 'V', diode.reverseVolts, diode.ratedVolts);
  if (spread.peaks > 0) {
    const high = 1 + spread.peaks;
    add(named(capacitor), 'voltage', 'drive high', 'V', high * capacitor.workingVolts, capacitor.ratedVolts);
    add(named(diode), 'reverse', 'drive high', 'V', high * diode.reverseVolts, diode.ratedVolts);
  }
  const busiest = most(prediction.capacitors, ({ rmsAmps }) => rmsAmps);
  const busiestAmps = busiest.value === null ? null : each.currentShare * busiest.value;
  add(named(busiest.part), 'current, RMS', 'loaded', 'A', busiestAmps, ladder.capacitor.ratedRmsAmps);
  const warmest = most(prediction.capacitors, ({ riseKelvin }) => riseKelvin);
  add(named(warmest.part), 'warmer by', 'loaded', 'K', warmest.value, MOST_RISE);
  const hottest = most(prediction.diodes, ({ watts }) => watts);
  add(named(hottest.part), 'heat', 'loaded', 'W', hottest.value, ratedDiodeWatts(ladder.diode));
  const ripple = most(prediction.capacitors, ({ ripplePeakToPeakVolts }) => ripplePeakToPeakVolts);
  // No waveform has more RMS than half its peak to peak.
  const acVolts = ripple.value === null ? null : ripple.value / 2 / each.series;
  add(named(ripple.part), 'alternating, RMS', 'loaded', 'V', acVolts, ladder.capacitor.ratedAcVolts);
  const { surgeAmps, onOhms, series } = ladder.diode;
  const surge = (seconds: number) => (surgeAmps === null ? null : surgeRating(surgeAmps, seconds));
  const halfPeriod = 1 / (2 * full.drive.frequencyHertz);
  add('Diodes', 'surge', 'switched on', 'A', switchOnAmps(full, onOhms * series), surge(halfPeriod));
  const shorted = shortedAmps(prediction.output.noLoadVolts, output.seriesOhms);
  // What a short draws at the terminal lasts about as long as its charge at the first current.
  const shortSeconds = shorted === null ? 0 : prediction.energy.terminalCoulombs / shorted;
  add('Diodes', 'surge', 'shorted output', 'A', shorted, surge(shortSeconds));
  const carrying = most(prediction.diodes, ({ averageAmps }) => averageAmps);
  add(named(carrying.part), 'average', 'loaded', 'A', carrying.value, ladder.diode.averageAmps);

  const { noLoadVolts, amps } = prediction.output;
  const { seriesOhms, bleederOhms } = output;
  if (seriesOhms > 0) {
    const { watts, bodyVolts, count } = resistors.series;
    add('Series resistor', 'power', 'loaded', 'W', amps === null ? null : (amps ** 2 * seriesOhms) / count, watts);
    add('Series resistor', 'over its body', 'shorted output', 'V', noLoadVolts / count, bodyVolts);
    const { pulseJoules } = resistors.series;
    add('Series resistor', 'pulse', 'shorted output', 'J', prediction.energy.joules / count, pulseJoules);
  }
  if (bleederOhms !== null) {
    const { watts, bodyVolts, count } = resistors.bleeder;
    add('Bleeder', 'power', 'no load', 'W', noLoadVolts ** 2 / bleederOhms / count, watts);
    add('Bleeder', 'over its body', 'no load', 'V', noLoadVolts / count, bodyVolts);
  }
  if ('ratedVolts' in driver) {
    const amps = figure('transistor-amps') ?? figure('primary-rms');
    add('Transistor', 'current, RMS', 'loaded', 'A', amps, driver.ratedAmps);
    add('Transistor', 'blocks', 'no load', 'V', figure('transistor-peak') ?? figure('switch-peak'), driver.ratedVolts);
  }
  if (driver.kind === 'resonant-push-pull') {
    add(
      'Tank capacitor',
      'voltage',
      'loaded',
      'V',
      figure('tank-each-volts') ?? figure('tank-peak'),
      driver.tankRatedVolts,
    );
    add('Tank capacitor', 'RMS', 'loaded', 'A', figure('tank-each-amps') ?? figure('tank-amps'), driver.tankRatedAmps);
    add('Gate resistor', 'power', 'loaded', 'W', figure('gate-watts'), driver.gateResistorWatts);
  }
  if (transformer) add('Core', 'flux', 'loaded', 'mT', figure('flux'), transformer.saturationTesla * 1e3);
  const { primary } = design.winding ?? { primary: null };
  if (primary && primary.wireMetres !== null)
    add(
      'Primary wire',
      'current, RMS',
      'loaded',
      'A',
      primaryAmpsOf(driver.kind, prediction.source.figures, prediction.input.amps),
      AMPS_PER_SQUARE_METRE * primary.strands * sectionOf(primary.wireMetres),
    );
  return margins.sort((a, b) => a.margin - b.margin);
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

/** Of a ladder, by its letter. */
const named = ({ id }: { id: string }) => `${id.startsWith('C') ? 'Capacitors' : 'Diodes'} (${id})`;

const weakest = <T extends { margin: number | null }>(parts: readonly T[]) =>
  parts.reduce((a, b) => ((b.margin ?? Infinity) < (a.margin ?? Infinity) ? b : a));
