'use client';

import type { Chart } from 'chart.js';
import X from 'lucide-react/icons/x';
import Papa from 'papaparse';
import { useMemo, useRef } from 'react';
import { Line } from 'react-chartjs-2';
import { designFileName, downloadText } from '@/client/design-file';
import type { Prediction } from '@/core/predict/prediction';
import { signedVolts } from '@/core/quantity/polarity';
import { engineeringScale, formatQuantity } from '@/core/quantity/format-quantity';
import { Traces, type Trace } from '@/core/transient/traces';
import { buttonStyle } from '@/ui/button';
import { commonOptions, FACE, type Colours } from '@/ui/chart-style';
import { TimeDomainWaits } from './time-domain-waits';
import type { TimeDomain } from '../use-transient';

/** The last period in time: drive and output on their own scales, and whatever was chosen in the Climb. */
export function WaveformChart({
  prediction,
  timeDomain,
  traces,
  onTraces,
  colours,
}: {
  prediction: Prediction;
  timeDomain: TimeDomain;
  traces: readonly string[];
  onTraces: (traces: string[]) => void;
  colours: Colours;
}) {
  const chart = useRef<Chart<'line'> | null>(null);
  const waveforms = timeDomain.kind === 'ready' ? timeDomain.run.waveforms : null;
  const found = useMemo(() => (waveforms ? new Traces(prediction, waveforms) : null), [prediction, waveforms]);
  if (!found || timeDomain.kind !== 'ready') return <TimeDomainWaits timeDomain={timeDomain} />;
  const outputMeanVolts = timeDomain.run.transient.terminalMeanVolts;
  const output = found.output();
  const drive = found.drive();
  const chosen = traces.flatMap((id) => found.of(id) ?? []);
  const period = found.times[found.times.length - 1];
  const time = engineeringScale(period, 's');
  const greatest = (list: Trace[]) => Math.max(1e-12, ...list.flatMap((trace) => Array.from(trace.values, Math.abs)));
  const left = [output, ...chosen.filter((trace) => trace.unit === 'V')];
  const currents = chosen.filter((trace) => trace.unit === 'A');
  const volts = engineeringScale(greatest(left), 'V');
  const driveVolts = engineeringScale(greatest([drive]), 'V');
  const amps = engineeringScale(greatest(currents), 'A');
  const palette = [colours.copper, colours.fits, colours.close, colours.over, colours.soft];
  const points = (trace: Trace, per: number) =>
    Array.from(trace.values, (value, step) => ({ x: found.times[step] / time.per, y: value / per }));
  const series = (trace: Trace, axis: string, per: number, colour: string, dash: number[] = []) => ({
    label: trace.name,
    data: points(trace, per),
    yAxisID: axis,
    borderColor: colour,
    backgroundColor: colour,
    borderWidth: 1.6,
    borderDash: dash,
    pointRadius: 0,
    pointHitRadius: 6,
  });
  const options = commonOptions(colours, `time in the period, ${time.name}`, `output, ${volts.name}`);
  const base = options.scales!.y! as object;
  options.scales = {
    x: { ...options.scales!.x!, min: 0, max: period / time.per } as never,
    y: { ...base, beginAtZero: false } as never,
    drive: {
      ...base,
      position: 'right',
      beginAtZero: false,
      grid: { display: false },
      title: {
        display: true,
        text: `drive, ${driveVolts.name}`,
        color: colours.soft,
        font: { family: FACE, size: 11 },
      },
    } as never,
    ...(currents.length
      ? {
          amps: {
            ...base,
            position: 'right',
            grid: { display: false },
            title: {
              display: true,
              text: `current, ${amps.name}`,
              color: colours.soft,
              font: { family: FACE, size: 11 },
            },
          } as never,
        }
      : {}),
  };
  options.interaction = { mode: 'index', intersect: false };
  const unitOf = (axis: string | undefined) => (axis === 'amps' ? amps : axis === 'drive' ? driveVolts : volts);
  options.plugins!.tooltip!.callbacks = {
    title: (items) => formatQuantity(items[0].parsed.x! * time.per, 's', 3),
    label: (item) => {
      const axis = unitOf((item.dataset as { yAxisID?: string }).yAxisID);
      return `${item.dataset.label}: ${formatQuantity(item.parsed.y! * axis.per, axis === amps ? 'A' : 'V', 4)}`;
    },
  };
  options.plugins!.zoom = {
    zoom: { drag: { enabled: true, backgroundColor: 'rgba(164, 82, 31, 0.16)' }, mode: 'x' },
  };
  const save = () =>
    downloadText(
      designFileName(prediction.name, 'waveforms.csv'),
      'text/csv',
      Papa.unparse(found.table(), { newline: '\n' }),
    );
  return (
    <div className="flex h-full flex-col">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-0.5 text-[12.5px]">
        <Key colour={colours.climb} name="output" />
        <Key colour={colours.line} name="drive" />
        {chosen.map((trace, index) => (
          <span key={trace.id} className="inline-flex items-center gap-0.5">
            <Key colour={palette[index % palette.length]} name={trace.name} />
            <button
              type="button"
              aria-label={`Take ${trace.id} out`}
              className="text-soft hover:text-ink"
              onClick={() => onTraces(traces.filter((id) => id !== trace.id))}
            >
              <X className="size-3" aria-hidden="true" />
            </button>
          </span>
        ))}
        {chosen.length === 0 ? <span className="text-soft">Choose nodes and parts in the Climb.</span> : null}
        <span className="ml-auto flex gap-1">
          <button type="button" className={buttonStyle('quiet')} onClick={() => chart.current?.resetZoom()}>
            Whole period
          </button>
          <button type="button" className={buttonStyle('quiet')} onClick={save}>
            Save as CSV
          </button>
        </span>
      </div>
      <div className="grid min-h-0 flex-1 gap-2 sm:grid-cols-[minmax(0,1fr)_30%]">
        <div className="min-h-0 min-w-0">
          <Line
            ref={(line) => {
              chart.current = line ?? null;
            }}
            role="img"
            aria-label={`Waveforms over one period: output ${formatQuantity(signedVolts(outputMeanVolts, prediction.output.polarity), 'V', 4)} mean${chosen.map((trace) => `, ${trace.name}`).join('')}`}
            options={options}
            data={{
              datasets: [
                series(output, 'y', volts.per, colours.climb),
                series(drive, 'drive', driveVolts.per, colours.line, [4, 3]),
                ...chosen.map((trace, index) =>
                  series(
                    trace,
                    trace.unit === 'A' ? 'amps' : 'y',
                    trace.unit === 'A' ? amps.per : volts.per,
                    palette[index % palette.length],
                  ),
                ),
              ],
            }}
          />
        </div>
        <div className="hidden min-h-0 min-w-0 sm:block">
          <RippleChart output={output} times={found.times} colours={colours} />
        </div>
      </div>
    </div>
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
