import type { Design } from '../design/design-schema';
import type { Prediction } from '../predict/prediction';
import type { LoadedLadder } from '../ladder/loaded';
import type { StoredCharge } from '../output/discharge';
import { marginOf } from './margin';
import { shortedAmps, surgeRating, switchOnAmps } from './surge';

/** One part's rating against what it is asked, in the case that asks most of it. */
export type PartMargin = {
  part: string;
  /** What is rated. */
  what: string;
  case: 'no load' | 'loaded' | 'shorted output' | 'switched on';
  stress: number;
  rated: number;
  unit: 'V' | 'A' | 'W' | 'J' | 'mT';
  margin: number;
};

/**
 * Every part whose rating is known against its stress, weakest first: ladder
 * capacitors and diodes, output resistors, and what of driver and transformer is
 * rated. Voltages are those without load, the worst case; a shorted output puts
 * all of it, and all that is stored, across the series resistor; currents and
 * powers are those at the load, surges upper bounds.
 */
export function marginsOf(
  { output, resistors, driver, transformer, ladder }: Design,
  full: LoadedLadder,
  prediction: Pick<Prediction, 'capacitors' | 'diodes' | 'output' | 'source'> & {
    energy: Pick<StoredCharge, 'joules' | 'terminalCoulombs'>;
  },
): PartMargin[] {
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
  const capacitor = weakest(prediction.capacitors);
  const diode = weakest(prediction.diodes);
  add(`Capacitors (${capacitor.id})`, 'voltage', 'no load', 'V', capacitor.workingVolts, capacitor.ratedVolts);
  add(`Diodes (${diode.id})`, 'reverse', 'no load', 'V', diode.reverseVolts, diode.ratedVolts);
  const averages = prediction.diodes.flatMap((one) => (one.averageAmps === null ? [] : [one.averageAmps]));
  const ripples = prediction.capacitors.flatMap((one) => one.ripplePeakToPeakVolts ?? []);
  // No waveform has more RMS than half its peak to peak.
  const acVolts = ripples.length ? Math.max(...ripples) / 2 / ladder.capacitor.series : null;
  add('Capacitors', 'alternating, RMS', 'loaded', 'V', acVolts, ladder.capacitor.ratedAcVolts);
  const { surgeAmps, onOhms, series } = ladder.diode;
  const surge = (seconds: number) => (surgeAmps === null ? null : surgeRating(surgeAmps, seconds));
  const halfPeriod = 1 / (2 * full.drive.frequencyHertz);
  add('Diodes', 'surge', 'switched on', 'A', switchOnAmps(full, onOhms * series), surge(halfPeriod));
  const shorted = shortedAmps(prediction.output.noLoadVolts, output.seriesOhms);
  // What a short draws at the terminal lasts about as long as its charge at the first current.
  const shortSeconds = shorted === null ? 0 : prediction.energy.terminalCoulombs / shorted;
  add('Diodes', 'surge', 'shorted output', 'A', shorted, surge(shortSeconds));
  add('Diodes', 'average', 'loaded', 'A', averages.length ? Math.max(...averages) : null, ladder.diode.averageAmps);

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
  if ('ratedVolts' in driver)
    add('Transistor', 'blocks', 'no load', 'V', figure('transistor-peak') ?? figure('switch-peak'), driver.ratedVolts);
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
  return margins.sort((a, b) => a.margin - b.margin);
}

const weakest = <T extends { margin: number | null }>(parts: readonly T[]) =>
  parts.reduce((a, b) => ((b.margin ?? Infinity) < (a.margin ?? Infinity) ? b : a));
