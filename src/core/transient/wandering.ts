import type { Circuit } from './circuit';
import { measurePeriod, type Measured, type Waveforms } from './measure';
import { PeriodRunner, type State } from './period';
import { Stepper } from './stepper';
import type { TimeGrid } from './time-grid';

/** Cycles run before any is counted, and counted. */
const WARM_CYCLES = 250;
const COUNTED_CYCLES = 80;
/** Most that the output may differ between the two halves of what is counted, as a fraction of it. */
const MOST_DRIFT = 0.01;
/** Most of the current drawn that a capacitor may take up or give meanwhile: past it the ladder still fills or empties. */
const MOST_GAINED = 0.1;
/** Most of the power in that may be stored or come out of store meanwhile. */
const MOST_STORED = 0.01;

/** Means over many cycles of a circuit that comes to no period, and how far its output strays from their mean, V. */
export type Wandering = {
  measured: Measured;
  waveforms: Waveforms;
  cycles: number;
  strayVolts: number;
  driftVolts: number;
};

/**
 * A driver whose ringing meets each stroke at another phase repeats in no
 * period, and yet has a steady mean: what many cycles show, averaged.
 *
 * @param state where to start; left at the end
 * @yields the cycles run
 * @returns null where a cycle cannot be run, the mean itself still moves, or some diode never conducts: then the ladder stands
 *   higher than its drive lifts it, and with nothing drawn would stay there
 */
export function* wander(circuit: Circuit, grid: TimeGrid, state: State): Generator<number, Wandering | null> {
  const counted: Measured[] = [];
  let waveforms: Waveforms | null = null;
  const stepper = new Stepper(circuit);
  const runner = new PeriodRunner(stepper, grid);
  for (let cycle = 0; cycle < WARM_CYCLES; cycle += 1) {
    if (!runner.period(state)) return null;
    yield cycle;
  }
  for (let cycle = 0; cycle < COUNTED_CYCLES; cycle += 1) {
    const whole = measurePeriod(circuit, grid, state, stepper);
    if (!whole) return null;
    counted.push(whole.measured);
    waveforms = whole.waveforms;
    yield WARM_CYCLES + cycle;
  }
  const outputs = counted.map(({ load }) => load.mean);
  const meanOf = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
  const half = outputs.length / 2;
  const mean = meanOf(outputs);
  const driftVolts = Math.abs(meanOf(outputs.slice(0, half)) - meanOf(outputs.slice(half)));
  if (
    !(driftVolts <= MOST_DRIFT * Math.abs(mean)) ||
    stillCharging(circuit, counted) ||
    standsTooHigh(circuit, counted)
  )
    return null;
  return {
    measured: overCycles(counted, circuit),
    waveforms: waveforms!,
    cycles: counted.length,
    strayVolts: Math.sqrt(meanOf(outputs.map((volts) => (volts - mean) ** 2))),
    driftVolts,
  };
}

/**
 * Whether a capacitor of the ladder takes up or gives a part of what is drawn, or all that stores together a part of the power
 * in: slow as that moves the output, it would end elsewhere.
 */
function stillCharging({ capacitors, ladderCapacitors }: Circuit, counted: readonly Measured[]): boolean {
  const half = counted.length / 2;
  const meanOf = (cycles: readonly Measured[], read: (from: Measured) => number) =>
    cycles.reduce((sum, one) => sum + read(one), 0) / cycles.length;
  const stored = Math.abs(meanOf(counted, ({ power }) => power.stored));
  if (stored > MOST_STORED * meanOf(counted, ({ power }) => power.in)) return true;
  const drawnAmps = meanOf(counted, ({ loadAmps, acrossAmps }) => Math.abs(loadAmps + acrossAmps));
  const seconds = half * meanOf(counted, (one) => one.seconds);
  return capacitors.slice(0, ladderCapacitors).some(({ farads }, index) => {
    const volts = (cycles: readonly Measured[]) => meanOf(cycles, (one) => one.capacitors[index].mean);
    const gained = Math.abs(volts(counted.slice(half)) - volts(counted.slice(0, half)));
    return drawnAmps > 0 && (farads * gained) / seconds > MOST_GAINED * drawnAmps;
  });
}

const standsTooHigh = ({ ladderDiodes }: Circuit, counted: readonly Measured[]): boolean =>
  Array.from({ length: ladderDiodes }, (_, index) => index).some((index) =>
    counted.every(({ diodes }) => !(diodes[index].peakAmps > 0)),
  );

/** Extremes stand as the worst of all cycles, everything else as its mean. */
const EXTREMES: Record<string, (...values: number[]) => number> = {
  most: Math.max,
  least: Math.min,
  reverseVolts: Math.max,
  peakAmps: Math.max,
};

function overCycles(counted: readonly Measured[], { supply }: Circuit): Measured {
  const probes = supply!.probes.map(({ tells }, at) => {
    const read = counted.map((one) => one.probes[at]);
    return tells === 'most' ? Math.max(...read) : averaged(read);
  });
  return { ...averaged(counted), probes };
}

/** Every number of the same measurements, averaged, extremes apart. */
function averaged<T>(all: readonly T[]): T {
  const [first] = all;
  if (typeof first === 'number') return (all.reduce((sum, one) => sum + (one as number), 0) / all.length) as T;
  if (first instanceof Float64Array)
    return Float64Array.from(first, (_, at) => averaged(all.map((one) => (one as Float64Array)[at]))) as T;
  if (Array.isArray(first)) return first.map((_, at) => averaged(all.map((one) => (one as unknown[])[at]))) as T;
  return Object.fromEntries(
    Object.keys(first as object).map((key) => {
      const values = all.map((one) => (one as Record<string, unknown>)[key]);
      return [key, key in EXTREMES ? extreme(values, EXTREMES[key]) : averaged(values)];
    }),
  ) as T;
}

function extreme(values: readonly unknown[], worst: (...values: number[]) => number): unknown {
  const [first] = values;
  return first instanceof Float64Array
    ? first.map((_, at) => worst(...values.map((one) => (one as Float64Array)[at])))
    : worst(...(values as number[]));
}
