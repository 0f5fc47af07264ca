import type { Design } from '../design/design-schema';
import type { Meter } from '../drive/meter-sense';
import { loadLine, type LoadLinePoint } from '../predict/curves';
import { interpolator } from '../numeric/interpolator';
import { predict, WITHOUT_OPTIMUM } from '../predict/predict';
import { isReading, type Entry } from './entries';
import { standing } from './session';
import { stepsUpOf, type StepUp } from './steps-up';

/** The most points of a load line that is drawn. */
const LINE_POINTS = 61;

/** The design's load line at full drive, and what was read along it; A and V, magnitudes, ascending in current. */
export type AgainstLoad = { line: LoadLinePoint[]; points: { amps: number; volts: number }[] };

/**
 * Readings of the output at load currents beside the design's load line.
 *
 * @param meter the session's; where the design has a divider, that is what it reads
 * @returns null where none was read
 */
export function againstLoad(design: Design, meter: Meter, entries: readonly Entry[]): AgainstLoad | null {
  const own = standing(entries)
    .filter(isReading)
    .filter(({ kind, at }) => kind === 'loaded' && Number(at) >= 0);
  if (own.length === 0) return null;
  const { divider } = predict(design, WITHOUT_OPTIMUM);
  return {
    line: loadLine(design, LINE_POINTS),
    points: own
      .map(({ at, value, meter: other }) => ({
        amps: Number(at),
        volts: Math.abs(value) * (divider?.ratio ?? (other ?? meter).probeRatio),
      }))
      .toSorted((one, other) => one.amps - other.amps),
  };
}

/** The output at full drive with a load of so much current, A: what the meter is to show, and whether it may be on. */
export const atLoad = (design: Design, amps: number, meter: Meter): StepUp =>
  stepsUpOf({ ...design, load: amps > 0 ? { kind: 'current', amps } : { kind: 'open' } }, [1], meter)[0];

/** A scope record and the engine's waveform over one period, aligned in phase; V, evenly. */
export type Overlay = {
  read: number[];
  computed: number[];
  /** How far the record was moved, as a fraction of the period. */
  shift: number;
};

/**
 * A recorded period over a computed one: the record is turned to where the two
 * go together most, by the greatest circular cross-correlation of what alternates
 * (handbook). Levels stay as they are.
 *
 * @param samples evenly over one period, at least two
 * @param times of the computed one, s, ascending from 0, the last the period's end
 */
export function inPhase(samples: readonly number[], times: ArrayLike<number>, values: ArrayLike<number>): Overlay {
  const count = samples.length;
  const at = interpolator(times, values);
  const period = times[times.length - 1];
  const computed = Array.from({ length: count }, (_, sample) => at((sample / count) * period));
  const [a, b] = [samples, computed].map((list) => {
    const mean = list.reduce((sum, one) => sum + one, 0) / count;
    return list.map((one) => one - mean);
  });
  let best = { shift: 0, sum: -Infinity };
  for (let shift = 0; shift < count; shift += 1) {
    let sum = 0;
    for (let sample = 0; sample < count; sample += 1) sum += a[(sample + shift) % count] * b[sample];
    if (sum > best.sum) best = { shift, sum };
  }
  return {
    read: computed.map((_, sample) => samples[(sample + best.shift) % count]),
    computed,
    shift: best.shift / count,
  };
}
