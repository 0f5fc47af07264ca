'use client';

import type { Chart, ChartData, ChartOptions } from 'chart.js';
import Plus from 'lucide-react/icons/plus';
import X from 'lucide-react/icons/x';
import { useMemo, useRef, useState } from 'react';
import { Line } from 'react-chartjs-2';
import { MomentOnChart } from '@/climb/moment-on-chart';
import type { Player } from '@/climb/player';
import type { Prediction } from '@/core/predict/prediction';
import { signedVolts } from '@/core/quantity/polarity';
import { engineeringScale, formatQuantity } from '@/core/quantity/format-quantity';
import type { Waveforms } from '@/core/transient/measure';
import { Traces, type Trace } from '@/core/transient/traces';
import { buttonStyle } from '@/ui/button';
import { commonOptions, FACE, type Colours } from '@/ui/chart-style';
import { TimeDomainWaits } from './time-domain-waits';
import { downloadWaveforms } from './waveforms-file';
import type { TimeDomain } from '../use-transient';

type Shown = {
  output: Trace;
  drive: Trace;
  chosen: readonly Trace[];
  /** Output and chosen ones of the same ladder without its fault, in the same order; empty where there is none. */
  without: readonly (Trace | null)[];
  times: Float64Array;
  /** Whether drive and output are of like size and share an axis, so that equal heights are equal volts. */
  together: boolean;
};

const greatestOf = (list: readonly Trace[]) =>
  Math.max(1e-12, ...list.map((trace) => trace.values.reduce((most, value) => Math.max(most, Math.abs(value)), 0)));

/** Up to this ratio two voltages can be read on one axis. */
const LIKE_SIZE = 5;

/** The scale each axis is drawn in. */
function scalesOf({ output, drive, chosen: own, without, times, together }: Shown) {
  const chosen = [...own, ...without.filter((trace) => trace !== null)];
  return {
    time: engineeringScale(times[times.length - 1], 's'),
    y: engineeringScale(
      greatestOf([output, ...(together ? [drive] : []), ...chosen.filter((trace) => axisOf(trace) === 'y')]),
      'V',
    ),
    drive: engineeringScale(greatestOf([drive]), 'V'),
    amps: engineeringScale(greatestOf(chosen.filter((trace) => axisOf(trace) === 'amps')), 'A'),
    driverVolts: engineeringScale(greatestOf(chosen.filter((trace) => axisOf(trace) === 'driverVolts')), 'V'),
    driverAmps: engineeringScale(greatestOf(chosen.filter((trace) => axisOf(trace) === 'driverAmps')), 'A'),
  };
}

/** The driver's volts and amperes are of another size than the ladder's. */
const axisOf = ({ unit, ofDriver }: Trace) =>
  unit === 'A' ? (ofDriver ? 'driverAmps' : 'amps') : ofDriver ? 'driverVolts' : 'y';

const TITLES = { amps: 'current', driverVolts: 'driver', driverAmps: 'driver' } as const;

/** A part of the period, s. */
type Magnified = { from: number; to: number };

type Scales = ReturnType<typeof scalesOf>;
type Axis = Exclude<keyof Scales, 'time'>;

/** Volts of the output and of nodes on the left; the drive, and currents where some are shown, on the right. */
function waveformOptions(
  { times, chosen, together }: Shown,
  scales: Scales,
  colours: Colours,
  magnified: Magnified | null,
  onMagnified: (part: Magnified) => void,
): ChartOptions<'line'> {
  const { time } = scales;
  const { from, to } = magnified ?? { from: 0, to: times[times.length - 1] };
  const options = commonOptions(
    colours,
    `time in the period, ${time.name}`,
    `${together ? 'output and drive' : 'output'}, ${scales.y.name}`,
  );
  const base = options.scales!.y! as object;
  const onTheRight = (text: string) => ({
    ...base,
    position: 'right',
    grid: { display: false },
    title: { display: true, text, color: colours.soft, font: { family: FACE, size: 11 } },
  });
  options.scales = {
    x: { ...options.scales!.x!, min: from / time.per, max: to / time.per } as never,
    y: { ...base, beginAtZero: false } as never,
    ...(together ? {} : { drive: { ...onTheRight(`drive, ${scales.drive.name}`), beginAtZero: false } as never }),
    ...Object.fromEntries(
      (Object.keys(TITLES) as (keyof typeof TITLES)[])
        .filter((axis) => chosen.some((trace) => axisOf(trace) === axis))
        .map((axis) => [axis, onTheRight(`${TITLES[axis]}, ${scales[axis].name}`) as never]),
    ),
  };
  options.interaction = { mode: 'index', intersect: false };
  options.plugins!.tooltip!.callbacks = {
    title: (items) => formatQuantity(items[0].parsed.x! * time.per, 's', 3),
    label: (item) => {
      const axis = (item.dataset as { yAxisID?: Axis }).yAxisID ?? 'y';
      const unit = axis === 'amps' || axis === 'driverAmps' ? 'A' : 'V';
      const value = formatQuantity(item.parsed.y! * scales[axis].per, unit, 4);
      return `${item.dataset.label}: ${value}`;
    },
  };
  options.plugins!.zoom = {
    zoom: {
      drag: { enabled: true, modifierKey: 'shift', backgroundColor: 'rgba(164, 82, 31, 0.16)' },
      mode: 'x',
      // Kept outside the chart, whose own is lost with the next options that it is given.
      onZoomComplete: ({ chart }) =>
        onMagnified({ from: chart.scales.x.min * time.per, to: chart.scales.x.max * time.per }),
    },
  };
  return options;
}

const paletteOf = (colours: Colours) => [colours.copper, colours.fits, colours.close, colours.over, colours.soft];
const colourAt = (colours: Colours, index: number) => paletteOf(colours)[index % paletteOf(colours).length];

function waveformData(
  { output, drive, chosen, without, times, together }: Shown,
  scales: Scales,
  colours: Colours,
): ChartData<'line'> {
  const series = (trace: Trace, axis: Axis, colour: string, dash: number[] = []) => ({
    label: trace.name,
    data: Array.from(trace.values, (value, step) => ({
      x: times[step] / scales.time.per,
      y: value / scales[axis].per,
    })),
    yAxisID: axis,
    borderColor: colour,
    backgroundColor: colour,
    borderWidth: 1.6,
    borderDash: dash,
    pointRadius: 0,
    pointHitRadius: 6,
  });
  return {
    datasets: [
      series(output, 'y', colours.climb),
      series(drive, together ? 'y' : 'drive', colours.line, [4, 3]),
      ...chosen.map((trace, index) => series(trace, axisOf(trace), colourAt(colours, index))),
      ...without.flatMap((trace, index) =>
        trace
          ? [
              series(
                { ...trace, name: `${trace.name} without the fault` },
                axisOf(trace),
                index === 0 ? colours.climb : colourAt(colours, index - 1),
                [1.5, 3],
              ),
            ]
          : [],
      ),
    ],
  };
}

/** The last period in time: drive and output on their own scales, and whatever was chosen in the Climb. */
export function WaveformChart({
  prediction,
  timeDomain,
  withoutFault,
  traces,
  onTraces,
  colours,
  player,
}: {
  prediction: Prediction;
  timeDomain: TimeDomain;
  /** Of the same ladder without the fault that is in it. */
  withoutFault: Waveforms | null;
  traces: readonly string[];
  onTraces: (traces: string[]) => void;
  colours: Colours;
  player: Player;
}) {
  const chart = useRef<Chart<'line'> | null>(null);
  const [kept, setKept] = useState<{ seconds: number; part: Magnified } | null>(null);
  const waveforms = timeDomain.kind === 'ready' ? timeDomain.run.waveforms : null;
  const found = useMemo(() => (waveforms ? new Traces(prediction, waveforms) : null), [prediction, waveforms]);
  if (!found || timeDomain.kind !== 'ready') return <TimeDomainWaits timeDomain={timeDomain} />;
  const chosen = traces.flatMap((id) => found.of(id) ?? []);
  const [output, drive] = [found.output(), found.drive()];
  const ratio = greatestOf([output]) / greatestOf([drive]);
  const together = ratio < LIKE_SIZE && ratio > 1 / LIKE_SIZE;
  const sound = withoutFault && new Traces(prediction, withoutFault);
  // Both run on the same steps.
  const without = sound ? [sound.output(), ...traces.flatMap((id) => (found.of(id) ? [sound.of(id)] : []))] : [];
  const shown = { output, drive, chosen, without, times: found.times, together };
  const scales = scalesOf(shown);
  // A part of another period says nothing about this one.
  const seconds = found.times[found.times.length - 1];
  const magnified = kept?.seconds === seconds ? kept.part : null;
  const { alternating } = prediction.output;
  const meanVolts = signedVolts(timeDomain.run.transient.terminalMeanVolts, prediction.output.polarity);
  const save = () => downloadWaveforms(prediction, timeDomain.run.waveforms);
  return (
    <div className="flex h-full flex-col">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-0.5 text-[12.5px]">
        <Keys
          chosen={chosen}
          hint={!alternating}
          isFaulty={sound !== null}
          offered={found.driver().filter(({ id }) => !traces.includes(id))}
          colours={colours}
          onTake={(id) => onTraces([...traces, id])}
          onTakeOut={(out) => onTraces(traces.filter((id) => id !== out))}
        />
        <span className="ml-auto flex gap-1">
          <button
            type="button"
            className={buttonStyle('quiet')}
            title="Shift and drag to magnify a part of it"
            onClick={() => setKept(null)}
          >
            Whole period
          </button>
          <button type="button" className={buttonStyle('quiet')} onClick={save}>
            Save as CSV
          </button>
        </span>
      </div>
      <div className={`grid min-h-0 flex-1 gap-2 ${alternating ? '' : 'sm:grid-cols-[minmax(0,1fr)_30%]'}`}>
        <div className="min-h-0 min-w-0">
          <MomentOnChart player={player} kind="settled" chart={chart} secondsPer={scales.time.per}>
            <Line
              ref={(line) => {
                chart.current = line ?? null;
              }}
              role="img"
              aria-label={`Waveforms over one period: output ${alternating ? `${formatQuantity(timeDomain.run.transient.rmsVolts, 'V', 4)} RMS` : `${formatQuantity(meanVolts, 'V', 4)} mean`}${chosen.map((trace) => `, ${trace.name}`).join('')}`}
              options={waveformOptions(shown, scales, colours, magnified, (part) => setKept({ seconds, part }))}
              data={waveformData(shown, scales, colours)}
            />
          </MomentOnChart>
        </div>
        {alternating ? null : (
          <div className="hidden min-h-0 min-w-0 sm:block">
            <RippleChart output={shown.output} times={found.times} colours={colours} />
          </div>
        )}
      </div>
    </div>
  );
}

/** Which line is which; those chosen can be taken out again, and what the driver has is offered. */
function Keys({
  chosen,
  hint,
  isFaulty,
  offered,
  colours,
  onTake,
  onTakeOut,
}: {
  chosen: readonly Trace[];
  /** Whether there is a Climb to choose more from. */
  hint: boolean;
  /** Whether the same ladder without a fault is beside them. */
  isFaulty: boolean;
  offered: readonly { id: string; name: string }[];
  colours: Colours;
  onTake: (id: string) => void;
  onTakeOut: (id: string) => void;
}) {
  return (
    <>
      <Key colour={colours.climb} name="output" />
      <Key colour={colours.line} name="drive" />
      {chosen.map((trace, index) => (
        <span key={trace.id} className="inline-flex items-center gap-0.5">
          <Key colour={colourAt(colours, index)} name={trace.name} />
          <button
            type="button"
            aria-label={`Take ${trace.ofDriver ? trace.name : trace.id} out`}
            className="text-soft hover:text-ink"
            onClick={() => onTakeOut(trace.id)}
          >
            <X className="size-3" aria-hidden="true" />
          </button>
        </span>
      ))}
      {offered.map(({ id, name }) => (
        <button
          key={id}
          type="button"
          className="inline-flex items-center gap-0.5 text-soft hover:text-ink"
          onClick={() => onTake(id)}
        >
          <Plus className="size-3" aria-hidden="true" />
          {name}
        </button>
      ))}
      {isFaulty ? <span className="text-soft">dotted: without the fault</span> : null}
      {hint && chosen.length === 0 ? <span className="text-soft">Choose nodes and parts in the Climb.</span> : null}
    </>
  );
}

function Key({ colour, name }: { colour: string; name: string }) {
  return (
    <span className="inline-flex items-center gap-1">
      <span aria-hidden="true" className="inline-block h-[2px] w-3.5" style={{ background: colour }} />
      {name}
    </span>
  );
}

/** The output about its middle, magnified to its own ripple. */
function RippleChart({ output, times, colours }: { output: Trace; times: Float64Array; colours: Colours }) {
  const least = output.values.reduce((a, b) => Math.min(a, b));
  const most = output.values.reduce((a, b) => Math.max(a, b));
  const middle = (least + most) / 2;
  const volts = engineeringScale(Math.max(most - least, 1e-12), 'V');
  const time = engineeringScale(times[times.length - 1], 's');
  const options = commonOptions(colours, `ripple ${formatQuantity(most - least, 'V')} peak to peak`, volts.name);
  options.scales!.y! = { ...options.scales!.y!, beginAtZero: false } as never;
  options.scales!.x! = {
    ...options.scales!.x!,
    max: times[times.length - 1] / time.per,
    ticks: { display: false },
  } as never;
  options.plugins!.tooltip!.callbacks = {
    title: () => '',
    label: (item) => formatQuantity(middle + item.parsed.y! * volts.per, 'V', 6),
  };
  return (
    <Line
      role="img"
      aria-label={`Output ripple magnified: ${formatQuantity(most - least, 'V')} peak to peak`}
      options={options}
      data={{
        datasets: [
          {
            data: Array.from(output.values, (value, step) => ({
              x: times[step] / time.per,
              y: (value - middle) / volts.per,
            })),
            borderColor: colours.climb,
            borderWidth: 1.6,
            pointRadius: 0,
            pointHitRadius: 6,
          },
        ],
      }}
    />
  );
}
