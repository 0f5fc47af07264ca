import { changeDesign } from '../design/change-design';
import type { Design } from '../design/design-schema';
import type { Meter } from '../drive/meter-sense';
import type { Air } from '../load/air/air';
import { strikeMetres, type AirGap } from '../load/air/air-gap';
import { bankFarads } from '../parts/bank';
import { forwardDrop } from '../parts/forward-drop';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import type { Prediction } from '../predict/prediction';
import { SOURCE } from '../topology/network';
import type { Expected } from './agreement';
import { IDLE, type ReadingKind } from './entries';
import { atLoad } from './measured-curves';
import { resistancesOf } from './resistances';

/** A diode's test current in a hand meter, A (common practice, no source). */
const METER_TEST_AMPS = 1e-3;

/** The electrodes between which a gap is measured, and the air that it is in. */
type Gapped = { gap: Omit<AirGap, 'gapMetres'>; air: Air };

/**
 * What a meter is to show of a reading that is taken by itself: the design's own
 * figure, within what the design says that it may be off and the meter's
 * accuracy (sum of squares, handbook). Of a gap, how far the output jumps at
 * full drive without load, within the law's own band at its lowest and highest.
 *
 * @param at as the entry has it
 * @returns null where nothing is known to expect
 */
export function expectedOf(
  design: Design,
  prediction: Prediction,
  { kind, at, meter, between }: { kind: ReadingKind; at: string; meter: Meter; between: Gapped },
): Expected | null {
  const { spread, ladder } = design;
  const within = (value: number | null | undefined, off: number): Expected | null => {
    if (value === null || value === undefined || !(value > 0)) return null;
    const away = value * Math.hypot(off, meter.accuracy);
    return { value, low: value - away, high: value + away };
  };
  switch (kind) {
    case 'frequency':
      return within(frequencyWith(design, prediction, at), spread.frequency);
    case 'supply-current':
      return at === IDLE ? within(prediction.source.figures.idleAmps, spread.source) : null;
    case 'capacitance': {
      const part = prediction.capacitors.find(({ id }) => id === at);
      return within(part?.farads, ladder.capacitor.tolerance);
    }
    case 'drop':
      return prediction.diodes.some(({ id }) => id === at)
        ? within(
            ladder.diode.series * forwardDrop(ladder.diode.forwardVolts, ladder.diode.forwardAmps, METER_TEST_AMPS),
            spread.forward,
          )
        : null;
    case 'peak':
      return at === SOURCE.id ? within(prediction.drive.positivePeakVolts / meter.probeRatio, spread.peaks) : null;
    case 'ripple':
      // In proportion to 1 / (f C) (handbook).
      return at === prediction.terminals.output && prediction.output.ripplePeakToPeakVolts !== null
        ? within(
            prediction.output.ripplePeakToPeakVolts / meter.probeRatio,
            Math.hypot(ladder.capacitor.tolerance, spread.frequency),
          )
        : null;
    case 'resistance': {
      const part = resistancesOf(design).find(({ id }) => id === at);
      return part ? within(part.ohms, part.tolerance) : null;
    }
    case 'gap':
      return jumpOf(prediction.output.noLoadPeakVolts, spread.peaks, between);
    case 'loaded':
      return atLoad(design, Number(at), meter).shown;
    default:
      return null;
  }
}

/** How far a peak voltage jumps, m, with the voltage off by a fraction either way; null where an end lies outside the law. */
function jumpOf(volts: number, off: number, { gap, air }: Gapped): Expected | null {
  const [low, likely, high] = [1 - off, 1, 1 + off].map((part) => strikeMetres(gap, volts * part, air));
  if ('at' in low || 'at' in likely || 'at' in high || low.least === null || high.most === null) return null;
  return { value: likely.likely, low: low.least, high: high.most };
}

/** Frequency of the drive, Hz; of a tank with another capacitance than the design's where one is named, as far as its driver has one. */
function frequencyWith(design: Design, prediction: Prediction, tankFarads: string): number | null {
  if (tankFarads === '') return prediction.drive.frequencyHertz;
  const { driver } = design;
  if (driver.kind !== 'resonant-push-pull') return null;
  const each = Number(tankFarads) / bankFarads(1, driver.tankSeries, driver.tankParallel);
  const other = changeDesign(design, { path: '$.driver.tankFarads', value: each });
  return predict(other, WITHOUT_OPTIMUM).drive.frequencyHertz;
}
