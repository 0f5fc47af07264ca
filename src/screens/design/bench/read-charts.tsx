'use client';

import { Line } from 'react-chartjs-2';
import type { ChartDataset } from 'chart.js';
import type { AgainstLoad, Overlay } from '@/core/bench/measured-curves';
import type { StepUp } from '@/core/bench/steps-up';
import { engineeringScale, formatQuantity } from '@/core/quantity/format-quantity';
import { commonOptions, useColours, type Colours } from '@/ui/chart-style';
import { Framed } from './framed';

/** What was read at fractions of the drive, V. */
type StepsRead = ReadonlyMap<number, number>;

const largest = (values: readonly number[]): number => Math.max(1e-12, ...values.map(Math.abs));

const dots = (label: string, data: { x: number; y: number }[], colour: string): ChartDataset<'line', unknown> => ({
  label,
  data,
  showLine: false,
  pointRadius: 4,
  pointBackgroundColor: colour,
  borderColor: colour,
});
const line = (label: string, data: { x: number; y: number }[], colour: string): ChartDataset<'line', unknown> => ({
  label,
  data,
  borderColor: colour,
  borderWidth: 1.6,
  pointRadius: 0,
});

/** Against the drive: what the meter shows of the output by the prediction, its band, and what it showed. */
export function StepsChart({
  designName,
  steps,
  read,
  others,
}: {
  designName: string;
  steps: readonly StepUp[];
  read: StepsRead;
  /** Of other sessions on the same revision through the same meter. */
  others: readonly StepsRead[];
}) {
  const colours = useColours();
  const expected = steps.flatMap(({ fraction, shown }) => (shown ? [{ x: 100 * fraction, ...shown }] : []));
  if (!colours || expected.length < 2 || read.size === 0) return null;
  const volts = engineeringScale(largest(expected.map(({ value }) => value)), 'V');
  const along = (of: (one: (typeof expected)[number]) => number) =>
    expected.map((one) => ({ x: one.x, y: of(one) / volts.per }));
  const pointsOf = (one: StepsRead) =>
    [...one].map(([fraction, value]) => ({ x: 100 * fraction, y: value / volts.per }));
  const points = pointsOf(read);
  const edge = { borderWidth: 0, pointRadius: 0, pointHitRadius: 0 };
  return (
    <Framed
      designName={designName}
      what="against the drive"
      label={`Against the drive: ${points.length} of ${expected.length} steps read`}
    >
      <Line
        options={{ ...xyOptions(colours, 'drive, %', `meter shows, ${volts.name}`, 'x %', volts) }}
        data={{
          datasets: [
            dots('read', points, colours.copper),
            ...others.map((one) => ({
              ...dots('read in another session', pointsOf(one), colours.soft),
              pointRadius: 2.5,
            })),
            line(
              'expected',
              along(({ value }) => value),
              colours.climb,
            ),
            { label: 'least', data: along(({ low }) => low), ...edge },
            {
              label: 'most',
              data: along(({ high }) => high),
              ...edge,
              fill: '-1',
              backgroundColor: `color-mix(in srgb, ${colours.climb} 18%, transparent)`,
            },
          ] as ChartDataset<'line', { x: number; y: number }[]>[],
        }}
      />
    </Framed>
  );
}

/** Against the load: the design's load line, and what was read along it. */
export function LoadChart({
  designName,
  against: { line: course, points },
}: {
  designName: string;
  against: AgainstLoad;
}) {
  const colours = useColours();
  if (!colours) return null;
  // As far as was read, with a little beyond: the line goes on to where it breaks down.
  const reach = Math.max(1.25 * Math.max(...points.map(({ amps }) => amps)), (course.at(-1)?.amps ?? 0) / 20);
  const shown = course.filter(({ amps }) => amps <= reach);
  const amps = engineeringScale(reach, 'A');
  const volts = engineeringScale(
    largest([...shown.map(({ meanVolts }) => meanVolts), ...points.map((one) => one.volts)]),
    'V',
  );
  return (
    <Framed
      designName={designName}
      what="against the load"
      label={`Against the load: ${points.length} ${points.length === 1 ? 'point' : 'points'} read`}
    >
      <Line
        options={xyOptions(colours, `load current, ${amps.name}`, `output, mean, ${volts.name}`, amps, volts)}
        data={{
          datasets: [
            dots(
              'read',
              points.map((one) => ({ x: one.amps / amps.per, y: one.volts / volts.per })),
              colours.copper,
            ),
            line(
              'load line',
              shown.map((one) => ({ x: one.amps / amps.per, y: one.meanVolts / volts.per })),
              colours.climb,
            ),
          ] as ChartDataset<'line', { x: number; y: number }[]>[],
        }}
      />
    </Framed>
  );
}

/** A scope record over the engine's waveform, one period. */
export function OverlayChart({ designName, overlay, at }: { designName: string; overlay: Overlay; at: string }) {
  const colours = useColours();
  if (!colours) return null;
  const volts = engineeringScale(largest([...overlay.read, ...overlay.computed]), 'V');
  const along = (list: readonly number[]) =>
    list.map((value, sample) => ({ x: (100 * sample) / list.length, y: value / volts.per }));
  const options = xyOptions(colours, 'of the period, %', `${at}, ${volts.name}`, 'x %', volts);
  options.scales!.y = { ...options.scales!.y, beginAtZero: false } as never;
  return (
    <Framed
      designName={designName}
      what={`scope record at ${at}`}
      label={`Scope record at ${at} over the computed waveform`}
    >
      <Line
        options={options}
        data={{
          datasets: [
            line('recorded', along(overlay.read), colours.copper),
            line('computed', along(overlay.computed), colours.climb),
          ] as ChartDataset<'line', { x: number; y: number }[]>[],
        }}
      />
    </Framed>
  );
}

type Scale = ReturnType<typeof engineeringScale>;

function xyOptions(colours: Colours, x: string, y: string, along: Scale | 'x %', volts: Scale) {
  const options = commonOptions(colours, x, y);
  options.plugins!.tooltip!.callbacks = {
    title: ([item]) =>
      along === 'x %' ? `${formatQuantity(item.parsed.x!, '', 3)} %` : formatQuantity(item.parsed.x! * along.per, 'A'),
    label: (item) => `${item.dataset.label}: ${formatQuantity(item.parsed.y! * volts.per, 'V', 4)}`,
  };
  return options;
}
