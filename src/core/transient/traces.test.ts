import { benchDesign } from '../../../tests/reference/bench-design';
import { predict } from '../predict/predict';
import { Traces } from './traces';
import { transientOf } from './transient';
import { finish } from '../numeric/finish';

const traced = (changes: Parameters<typeof benchDesign>[0]) => {
  const design = benchDesign({ load: { kind: 'resistance', ohms: 200 }, ...changes });
  const { transient, waveforms } = finish(transientOf(design, 200));
  return { transient, traces: new Traces(predict(design), waveforms) };
};
const range = (values: Float64Array) => [Math.min(...values), Math.max(...values)];

it('a stiff source, ground and the second half of a winding have waveforms too', () => {
  const { traces } = traced({ ladder: { topology: 'full-wave', stages: 1 } });
  const [source, other] = ['source', 'antisource'].map((id) => traces.of(id)!.values);
  source.forEach((volts, step) => expect(other[step]).toBe(-volts));
  expect(range(traces.of('source')!.values)[1]).toBeCloseTo(1, 2);
});

it('a negative supply has negative voltages and forward currents', () => {
  const { traces, transient } = traced({ ladder: { stages: 2 }, polarity: 'negative' });
  const [least, most] = range(traces.output().values);
  expect(most).toBeLessThan(0);
  expect(least).toBeGreaterThan(-transient.maxVolts * 1.01);
  expect(range(traces.of('D2')!.values)[1]).toBeGreaterThan(0);
  expect(traces.of('D9')).toBeNull();
});

it('the capacitors of the smoothing column add up to the output at every step', () => {
  const { traces } = traced({ ladder: { stages: 2 }, driver: { seriesOhms: 0.05 } });
  const [lower, upper] = ['C2', 'C4'].map((id) => traces.of(id)!.values);
  traces.output().values.forEach((volts, step) => expect(lower[step] + upper[step]).toBeCloseTo(volts, 12));
});

it('the table has a name for every column and a row for every step', () => {
  const { traces } = traced({ ladder: { topology: 'bipolar', stages: 1 } });
  const table = traces.table();
  expect(table).toHaveLength(traces.times.length + 1);
  for (const row of table) expect(row).toHaveLength(table[0].length);
  expect(new Set(table[0]).size).toBe(table[0].length);
});
