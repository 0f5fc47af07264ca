'use client';

import { Tabs } from 'radix-ui';
import { memo, useMemo, useRef, type ReactNode } from 'react';
import { Line } from 'react-chartjs-2';
import { pictureFile } from '@/client/design-file';
import type { Player } from '@/climb/player';
import type { Design } from '@/core/design/design-schema';
import { loadLine, stagesCurve } from '@/core/predict/curves';
import type { Prediction } from '@/core/predict/prediction';
import type { Waveforms } from '@/core/transient/measure';
import { engineeringScale, formatQuantity } from '@/core/quantity/format-quantity';
import type { TransientClient } from '@/worker/transient-client';
import { countOf, stagesOf } from '@/core/quantity/counting';
import { stagesInWords } from '@/core/topology/stage-words';
import { useCounting } from '@/ui/use-counting';
import { ChargeUpChart } from './charge-up-chart';
import { commonOptions, FACE, useColours, withMarks, type Colours } from '@/ui/chart-style';
import { PictureMenu } from '@/ui/picture-menu';
import { ToleranceChart } from './tolerance-chart';
import { useTolerance, type ToleranceRun } from './use-tolerance';
import { DischargeChart } from './discharge-chart';
import type { OnMoments } from '../use-motion';
import type { TimeDomain } from '../use-transient';
import { WaveformChart } from './waveform-chart';

/** Load line, stages and the time domain, in tabs. */
export const Charts = memo(function Charts({
  design,
  prediction,
  timeDomain,
  waveforms,
  withoutFault,
  client,
  traces,
  onTraces,
  tab,
  onTab,
  onEdit,
  player,
  onMoments,
}: {
  design: Design;
  prediction: Prediction;
  timeDomain: TimeDomain;
  /** The one whose waveforms are drawn. */
  waveforms: TimeDomain;
  /** Of the same ladder without the fault that is in it; null where there is none. */
  withoutFault: Waveforms | null;
  client: TransientClient;
  /** Ids of the nodes and parts whose waveforms are drawn. */
  traces: readonly string[];
  onTraces: (traces: string[]) => void;
  tab: string;
  onTab: (tab: string) => void;
  onEdit: (path: string, value: unknown) => string | null;
  player: Player;
  onMoments: OnMoments;
}) {
  const colours = useColours();
  const run = useTolerance(design, client, interestAmps(design, prediction));
  const ofTimeDomain = { prediction, timeDomain, player };
  const frame = useRef<HTMLDivElement>(null);
  return (
    <Tabs.Root ref={frame} value={tab} onValueChange={onTab} className="flex h-full flex-col">
      <div className="flex items-start justify-between pr-3">
        <Tabs.List aria-label="Charts" className="flex flex-wrap gap-x-4 px-4 pt-1.5 whitespace-nowrap sm:gap-x-5">
          <ChartTab value="load-line">Load line</ChartTab>
          <ChartTab value="stages">Stages</ChartTab>
          <ChartTab value="waveforms">Waveforms</ChartTab>
          <ChartTab value="charge-up">Charge-up</ChartTab>
          <ChartTab value="discharge">Discharge</ChartTab>
          <ChartTab value="tolerance">Tolerance</ChartTab>
        </Tabs.List>
        <PictureMenu
          name="the chart"
          title={`${design.name}, ${tab}`}
          find={() => frame.current?.querySelector('canvas') ?? null}
          onPicture={pictureFile(design.name, tab)}
        />
      </div>
      {colours ? (
        <>
          <LadderPane value="load-line" prediction={prediction}>
            <LoadLineChart design={design} prediction={prediction} run={run} colours={colours} />
          </LadderPane>
          <LadderPane value="stages" prediction={prediction}>
            <StagesChart design={design} prediction={prediction} colours={colours} />
          </LadderPane>
          <ChartPane value="waveforms">
            <WaveformChart
              {...ofTimeDomain}
              timeDomain={waveforms}
              withoutFault={withoutFault}
              traces={traces}
              onTraces={onTraces}
              colours={colours}
            />
          </ChartPane>
          <LadderPane value="charge-up" prediction={prediction}>
            <ChargeUpChart {...ofTimeDomain} design={design} client={client} colours={colours} onMoments={onMoments} />
          </LadderPane>
          <LadderPane value="discharge" prediction={prediction}>
            <DischargeChart {...ofTimeDomain} design={design} client={client} colours={colours} onMoments={onMoments} />
          </LadderPane>
          <LadderPane value="tolerance" prediction={prediction}>
            <ToleranceChart design={design} prediction={prediction} run={run} colours={colours} onEdit={onEdit} />
          </LadderPane>
        </>
      ) : null}
    </Tabs.Root>
  );
});

/** A pane that has nothing to show of an output which alternates. */
function LadderPane({ value, prediction, children }: { value: string; prediction: Prediction; children: ReactNode }) {
  return (
    <ChartPane value={value}>
      {prediction.output.alternating ? (
        <p className="px-1 py-6 text-soft">
          Nothing is rectified and nothing stored here: see Waveforms for what stands at the load.
        </p>
      ) : (
        children
      )}
    </ChartPane>
  );
}

function ChartPane({ value, children }: { value: string; children: ReactNode }) {
  return (
    <Tabs.Content value={value} className="min-h-0 flex-1 px-3 pb-1">
      {children}
    </Tabs.Content>
  );
}

function ChartTab({ value, children }: { value: string; children: ReactNode }) {
  return (
    <Tabs.Trigger
      value={value}
      className="border-b-2 border-transparent pb-1 text-soft hover:text-ink data-[state=active]:border-copper data-[state=active]:font-medium data-[state=active]:text-ink"
    >
      {children}
    </Tabs.Trigger>
  );
}

type ChartProps = { design: Design; prediction: Prediction; colours: Colours };

/** How far the load line is drawn, A: far past the working point it only gets harder to read; 0 without one. */
function interestAmps({ target }: Design, { output }: Prediction): number {
  return output.amps === null
    ? 0
    : 4 * Math.max(output.amps + (output.bleederAmps ?? 0) + (output.dividerAmps ?? 0), target?.amps ?? 0);
}

function LoadLineChart({ design, prediction, run, colours }: ChartProps & { run: ToleranceRun }) {
  const { output } = prediction;
  const target = design.target;
  const interest = interestAmps(design, prediction);
  const band = run.kind === 'ready' ? (run.result.tolerance?.loadLine ?? []) : [];
  const line = useMemo(() => loadLine(design, 41, interest > 0 ? interest : Infinity), [design, interest]);
  const volts = engineeringScale(Math.max(output.noLoadVolts, target?.volts ?? 0), 'V');
  const end = line.at(-1);
  const amps = engineeringScale(end?.amps ?? 0, 'A');
  const working =
    output.meanVolts === null || output.amps === null
      ? null
      : { x: output.amps / amps.per, y: output.meanVolts / volts.per };
  const words = working ? `${formatQuantity(output.amps!, 'A')}, ${formatQuantity(output.meanVolts!, 'V')}` : '';
  const options = commonOptions(
    colours,
    `load current, ${amps.name}`,
    `output${output.polarity === 'negative' ? ', negative' : ''}, ${volts.name}`,
  );
  options.plugins!.tooltip!.callbacks = {
    title: () => '',
    label: (item) =>
      `${formatQuantity(item.parsed.x! * amps.per, 'A')}: ${formatQuantity(item.parsed.y! * volts.per, 'V', 4)}`,
  };
  options.scales!.y!.suggestedMax = (Math.max(output.noLoadVolts, target?.volts ?? 0) / volts.per) * 1.12;
  options.scales!.x!.max = (line[line.length - 1]?.amps ?? 0) / amps.per || undefined;
  withMarks(options, {
    level: target
      ? {
          words: 'target',
          y: target.volts / volts.per,
          colour: colours.copper,
          side: 'left',
          below: output.noLoadVolts > target.volts,
        }
      : null,
    point: working ? { words, ...working, colour: colours.ink } : null,
  });
  return (
    <Line
      aria-label={`Load line: ${formatQuantity(output.noLoadVolts, 'V')} without load${end ? `, falling to ${formatQuantity(end.meanVolts, 'V')} at ${formatQuantity(end.amps, 'A')}` : ''}${words ? `; works at ${words}` : ''}`}
      role="img"
      options={options}
      data={{
        datasets: [
          {
            data: line.map((point) => ({ x: point.amps / amps.per, y: point.meanVolts / volts.per })),
            borderColor: colours.climb,
            borderWidth: 2,
            pointRadius: 0,
            pointHitRadius: 12,
          },
          {
            data: working ? [working] : [],
            borderColor: colours.summit,
            backgroundColor: colours.sheet,
            borderWidth: 2.5,
            pointRadius: 5,
            pointHoverRadius: 6,
            showLine: false,
          },
          // Nine of ten built like this lie between these two.
          ...(['low', 'high'] as const).map((edge) => ({
            data: band.map((point) => ({ x: point.amps / amps.per, y: point[edge] / volts.per })),
            borderWidth: 0,
            backgroundColor: `${colours.climb}26`,
            pointRadius: 0,
            pointHitRadius: 0,
            fill: edge === 'high' ? '-1' : false,
          })),
        ],
      }}
    />
  );
}

function StagesChart({ design, prediction, colours }: ChartProps) {
  const { optimumStages, output } = prediction;
  const { stages, topology } = design.ladder;
  const { counting } = useCounting();
  const curve = useMemo(
    () => stagesCurve(design, [stages, ...(optimumStages === null ? [] : [optimumStages])]),
    [design, stages, optimumStages],
  );
  const volts = engineeringScale(Math.max(0, ...curve.map((point) => point.noLoadVolts)), 'V');
  const best = optimumStages === null ? null : curve[optimumStages - 1];
  const options = commonOptions(colours, 'stages', volts.name);
  options.scales!.x!.ticks = { ...options.scales!.x!.ticks, precision: 0, maxTicksLimit: 14 } as never;
  options.plugins!.legend = {
    display: true,
    align: 'end',
    labels: { color: colours.soft, boxWidth: 16, boxHeight: 1, font: { family: FACE, size: 11 } },
  };
  options.plugins!.tooltip!.callbacks = {
    title: (items) => stagesInWords(topology, stagesOf(items[0].parsed.x!, counting), counting),
    label: (item) => `${item.dataset.label}: ${formatQuantity(item.parsed.y! * volts.per, 'V')}`,
  };
  const series = (
    label: string,
    read: (point: (typeof curve)[number]) => number | null,
    colour: string,
    dash: number[] = [],
  ) => ({
    label,
    data: curve.map((point) => ({
      x: countOf(point.stages, counting),
      y: read(point) === null ? NaN : read(point)! / volts.per,
    })),
    borderColor: colour,
    backgroundColor: colour,
    borderWidth: 2,
    borderDash: dash,
    pointRadius: 2,
  });
  const target = design.target;
  if (curve.length === 0)
    return <p className="px-1 py-6 text-soft">This topology has one form: there are no stages to add or take away.</p>;
  withMarks(options, {
    level: target
      ? { words: 'target', y: target.volts / volts.per, colour: colours.copper, side: 'right', below: true }
      : null,
    point:
      best && best.meanVolts !== null
        ? {
            words: `most at ${countOf(best.stages, counting)}`,
            x: countOf(best.stages, counting),
            y: best.meanVolts / volts.per,
            colour: colours.ink,
          }
        : null,
  });
  return (
    <Line
      role="img"
      aria-label={`Output and droop against stage count${optimumStages === null ? '' : `; most output at ${stagesInWords(topology, optimumStages, counting)}`}`}
      options={options}
      data={{
        datasets: [
          series('output', (point) => point.meanVolts, colours.climb),
          series('without load', (point) => point.noLoadVolts, colours.line, [3, 3]),
          series('droop', (point) => point.droopVolts, colours.copper, [6, 3]),
          {
            label: 'this design',
            data: output.meanVolts === null ? [] : [{ x: countOf(stages, counting), y: output.meanVolts / volts.per }],
            borderColor: colours.summit,
            backgroundColor: colours.sheet,
            borderWidth: 2.5,
            pointRadius: 5,
            showLine: false,
          },
        ],
      }}
    />
  );
}
