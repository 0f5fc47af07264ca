import { interpolator } from '../numeric/interpolator';

/** A voltage against time as an oscilloscope wrote it; s and V. */
export type ScopeRecord = { seconds: number[]; volts: number[] };

/** One period of a record, and what it measures. */
export type ScopePeriod = {
  frequencyHertz: number;
  /** Evenly over one period from its rising crossing of the middle, whole periods averaged, V. */
  samples: number[];
  /** Periods that were averaged. */
  periods: number;
};

type Reading<T> = ({ ok: true } & T) | { ok: false; reason: string };

const TIME_UNITS: ReadonlyMap<string, number> = new Map([
  ['s', 1],
  ['ms', 1e-3],
  ['us', 1e-6],
  ['µs', 1e-6],
  ['μs', 1e-6],
  ['ns', 1e-9],
]);
const VOLT_UNITS: ReadonlyMap<string, number> = new Map([
  ['v', 1],
  ['mv', 1e-3],
  ['kv', 1e3],
]);
const SAMPLES = 256;
/** Part of peak to peak that the trace must fall under the middle before the next rise counts: noise does not. */
const HYSTERESIS = 0.1;
const MOST_ROWS = 200_000;

/** A number with decimal point or decimal comma; null for anything else. */
function numberOf(cell: string | undefined): number | null {
  const text = (cell ?? '').trim();
  if (!/^[-+]?(\d+[.,]?\d*|[.,]\d+)(e[-+]?\d+)?$/i.test(text)) return null;
  return Number(text.replace(',', '.'));
}

/**
 * Time and voltage from the rows of a table: the first two columns that hold
 * numbers, whatever stands above them. Units are looked for in the rows above
 * (`Time (ms)`, `mV`, `Volt`), s and V where there are none.
 *
 * @param rows cells as text
 */
export function readScopeRows(rows: readonly (readonly string[])[]): Reading<ScopeRecord> {
  const first = rows.findIndex((row) => row.filter((cell) => numberOf(cell) !== null).length >= 2);
  if (first < 0)
    return { ok: false, reason: 'No row with two numbers: a column of times and one of volts are wanted.' };
  const columns = rows[first].flatMap((cell, at) => (numberOf(cell) === null ? [] : [at])).slice(0, 2);
  const [timeColumn, voltColumn] = columns;
  const unitIn = (column: number, units: ReadonlyMap<string, number>) => {
    for (const row of rows.slice(0, first)) {
      const words = (row[column] ?? '').toLowerCase().split(/[^a-zµμ]+/);
      for (const word of words) if (units.has(word)) return units.get(word)!;
    }
    return 1;
  };
  const timeUnit = unitIn(timeColumn, TIME_UNITS);
  const voltUnit = unitIn(voltColumn, VOLT_UNITS);
  const seconds: number[] = [];
  const volts: number[] = [];
  for (const row of rows.slice(first, first + MOST_ROWS)) {
    const time = numberOf(row[timeColumn]);
    const volt = numberOf(row[voltColumn]);
    if (time === null || volt === null) continue;
    if (seconds.length && time * timeUnit <= seconds[seconds.length - 1])
      return { ok: false, reason: `Time does not go on at ${time}: the first column of numbers must be the time.` };
    seconds.push(time * timeUnit);
    volts.push(volt * voltUnit);
  }
  return seconds.length < 16
    ? { ok: false, reason: `Only ${seconds.length} samples: a whole period with at least 16 is wanted.` }
    : { ok: true, seconds, volts };
}

/** One period of a record that can drive a ladder: as `wholePeriodOf`, of a voltage that changes sign. */
export function periodOf(record: ScopeRecord): Reading<ScopePeriod> {
  const found = wholePeriodOf(record);
  const { least, most } = extremesOf(record.volts);
  return found.ok && !(least < 0 && most > 0)
    ? {
        ok: false,
        reason:
          'It never changes sign, so it cannot pump a ladder. Check the probe’s ground, and whether a rectifier is inside.',
      }
    : found;
}

function extremesOf(volts: readonly number[]): { least: number; most: number } {
  let least = Infinity;
  let most = -Infinity;
  for (const volt of volts) {
    least = Math.min(least, volt);
    most = Math.max(most, volt);
  }
  return { least, most };
}

/**
 * One period of a record, found by its rising crossings of the middle between
 * its extremes; whole periods are averaged point by point.
 */
export function wholePeriodOf({ seconds, volts }: ScopeRecord): Reading<ScopePeriod> {
  const { least, most } = extremesOf(volts);
  const middle = (least + most) / 2;
  const armed = middle - HYSTERESIS * (most - least);
  const crossings: number[] = [];
  let ready = false;
  for (let at = 1; at < volts.length; at += 1) {
    if (volts[at] < armed) ready = true;
    if (!ready || volts[at] < middle || volts[at - 1] >= middle) continue;
    ready = false;
    const part = (middle - volts[at - 1]) / (volts[at] - volts[at - 1]);
    crossings.push(seconds[at - 1] + part * (seconds[at] - seconds[at - 1]));
  }
  if (crossings.length < 2)
    return {
      ok: false,
      reason: 'No whole period: the trace must rise through its middle twice. Record a longer stretch.',
    };
  const periods = crossings.length - 1;
  const seen = (crossings[periods] - crossings[0]) / periods;
  const at = interpolator(seconds, volts);
  const samples = Array.from({ length: SAMPLES }, (_, sample) => {
    let sum = 0;
    for (let period = 0; period < periods; period += 1) sum += at(crossings[0] + (period + sample / SAMPLES) * seen);
    return Number((sum / periods).toPrecision(6));
  });
  return { ok: true, frequencyHertz: 1 / seen, samples, periods };
}
