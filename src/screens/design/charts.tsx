'use client';

import {
  Chart as ChartJs,
  Legend,
  LinearScale,
  LineElement,
  PointElement,
  Tooltip,
  type ChartOptions,
  type Plugin,
} from 'chart.js';
import { useTheme } from 'next-themes';
import { Tabs } from 'radix-ui';
import { memo, useMemo, useSyncExternalStore, type ReactNode } from 'react';
import { Line } from 'react-chartjs-2';
import type { Design } from '@/core/design/design-schema';
import { loadLine, stagesCurve } from '@/core/predict/curves';
import type { Prediction } from '@/core/predict/prediction';
import { engineeringScale, sayQuantity } from '@/core/quantity/print-quantity';

type Colours = Record<'ink' | 'soft' | 'rule' | 'copper' | 'climb' | 'summit' | 'line' | 'sheet', string>;

/** The palette as Chart.js wants it: computed colours, read again when the theme changes. */
function useColours(): Colours | null {
  const { resolvedTheme } = useTheme();
  const mounted = useSyncExternalStore(
    () => () => undefined,
    () => true,
    () => false,
  );
  return useMemo(() => {
    if (!mounted || !resolvedTheme) return null;
    const style = getComputedStyle(document.documentElement);
    const read = (name: string) => style.getPropertyValue(`--${name}`).trim();
    return {
      ink: read('ink'),
      soft: read('soft'),
      rule: read('rule'),
      copper: read('copper'),
      climb: read('climb'),
      summit: read('summit'),
      line: read('line'),
      sheet: read('sheet'),
    };
  }, [mounted, resolvedTheme]);
}

/** Load line and stages, in tabs. */
export const Charts = memo(function Charts({
  design,
  prediction,
  tab,
  onTab,
}: {
  design: Design;
  prediction: Prediction;
  tab: string;
  onTab: (tab: string) => void;
}) {
  const colours = useColours();
  return (
    <Tabs.Root value={tab} onValueChange={onTab} className="flex h-full flex-col">
      <Tabs.List aria-label="Charts" className="flex gap-5 px-4 pt-1.5">
        <ChartTab value="load-line">Load line</ChartTab>
        <ChartTab value="stages">Stages</ChartTab>
      </Tabs.List>
      <Tabs.Content value="load-line" className="min-h-0 flex-1 px-3 pb-1">
        {colours ? <LoadLineChart design={design} prediction={prediction} colours={colours} /> : null}
      </Tabs.Content>
      <Tabs.Content value="stages" className="min-h-0 flex-1 px-3 pb-1">
        {colours ? <StagesChart design={design} prediction={prediction} colours={colours} /> : null}
      </Tabs.Content>
    </Tabs.Root>
  );
});

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

const FACE = 'Spline Sans Mono Variable, monospace';

function commonOptions(colours: Colours, xTitle: string, yTitle: string): ChartOptions<'line'> {
  const axis = (title: string) => ({
    type: 'linear' as const,
    grid: { color: colours.rule, lineWidth: 0.8 },
    border: { color: colours.rule },
    ticks: { color: colours.soft, font: { family: FACE, size: 11 }, maxTicksLimit: 7, includeBounds: false },
    title: { display: true, text: title, color: colours.soft, font: { family: FACE, size: 11 } },
    beginAtZero: true,
  });
  return {
    responsive: true,
    maintainAspectRatio: false,
    animation: false,
    interaction: { mode: 'nearest', intersect: false },
    scales: { x: axis(xTitle), y: axis(yTitle) },
    plugins: {
      legend: { display: false },
      tooltip: {
        backgroundColor: colours.sheet,
        titleColor: colours.soft,
        bodyColor: colours.ink,
        borderColor: colours.rule,
        borderWidth: 1,
        displayColors: false,
        bodyFont: { family: FACE, size: 12 },
      },
    },
  };
}

/** Words beside one point, and a level line with its name: what our two drawing plugins read from a chart's options. */
type Marks = {
  point: { words: string; x: number; y: number; colour: string } | null;
  level: { words: string; y: number; colour: string; side: 'left' | 'right'; below: boolean } | null;
};

/** Chart.js types only the options of plugins it knows; ours stand under the plugin's own id. */
const withMarks = (options: ChartOptions<'line'>, marks: Marks) => {
  options.plugins = { ...options.plugins, marks } as ChartOptions<'line'>['plugins'];
};

/** Text with a rim of paper, readable where lines pass. */
function haloedText(ctx: CanvasRenderingContext2D, words: string, x: number, y: number) {
  ctx.setLineDash([]);
  ctx.lineWidth = 4;
  ctx.lineJoin = 'round';
  ctx.strokeStyle = getComputedStyle(ctx.canvas).getPropertyValue('--paper');
  ctx.strokeText(words, x, y);
  ctx.fillText(words, x, y);
}

/** Draws what `options.plugins.marks` names; reading it at each drawing lets a chart be updated in place. */
const marksPlugin: Plugin<'line'> = {
  id: 'marks',
  afterDatasetsDraw(chart) {
    const marks = (chart.options.plugins as { marks?: Marks }).marks;
    const { ctx, chartArea, scales } = chart;
    ctx.save();
    if (marks?.level?.words) {
      const { words, y, colour, side, below } = marks.level;
      const height = scales.y.getPixelForValue(y);
      if (height >= chartArea.top && height <= chartArea.bottom) {
        ctx.strokeStyle = colour;
        ctx.fillStyle = colour;
        ctx.setLineDash([2, 3]);
        ctx.beginPath();
        ctx.moveTo(chartArea.left, height);
        ctx.lineTo(chartArea.right, height);
        ctx.stroke();
        ctx.font = `11px ${FACE}`;
        ctx.textAlign = side;
        const at = side === 'left' ? chartArea.left + 6 : chartArea.right - 4;
        haloedText(ctx, words, at, below && height + 13 < chartArea.bottom ? height + 13 : height - 5);
      }
    }
    if (marks?.point?.words) {
      const { words, x, y, colour } = marks.point;
      const left = scales.x.getPixelForValue(x);
      const height = scales.y.getPixelForValue(y);
      ctx.font = `12px ${FACE}`;
      ctx.fillStyle = colour;
      const fitsRight = left + 10 + ctx.measureText(words).width < chartArea.right;
      ctx.textAlign = fitsRight ? 'left' : 'right';
      haloedText(ctx, words, fitsRight ? left + 10 : left - 10, Math.max(chartArea.top + 11, height - 9));
    }
    ctx.restore();
  },
};

ChartJs.register(LinearScale, LineElement, PointElement, Tooltip, Legend, marksPlugin);

type ChartProps = { design: Design; prediction: Prediction; colours: Colours };

function LoadLineChart({ design, prediction, colours }: ChartProps) {
  const { output } = prediction;
  const target = design.target;
  // Far past the working point the line only makes it harder to read.
  const interest = output.amps === null ? 0 : 4 * Math.max(output.amps + (output.bleederAmps ?? 0), target?.amps ?? 0);
  const line = useMemo(() => loadLine(design, 41, interest > 0 ? interest : Infinity), [design, interest]);
  const volts = engineeringScale(Math.max(output.noLoadVolts, target?.volts ?? 0), 'V');
  const amps = engineeringScale(line[line.length - 1]?.amps ?? 0, 'A');
  const working =
    output.meanVolts === null || output.amps === null
      ? null
      : { x: output.amps / amps.per, y: output.meanVolts / volts.per };
  const words = working ? `${sayQuantity(output.amps!, 'A')}, ${sayQuantity(output.meanVolts!, 'V')}` : '';
  const options = commonOptions(
    colours,
    `load current, ${amps.name}`,
    `output${output.polarity === 'negative' ? ', negative' : ''}, ${volts.name}`,
  );
  options.plugins!.tooltip!.callbacks = {
    title: () => '',
    label: (item) =>
      `${sayQuantity(item.parsed.x! * amps.per, 'A')}: ${sayQuantity(item.parsed.y! * volts.per, 'V', 4)}`,
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
      aria-label={`Load line: ${sayQuantity(output.noLoadVolts, 'V')} without load, falling to where the closed form ends at ${sayQuantity(output.closedFormAmps, 'A')}${words ? `; works at ${words}` : ''}`}
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
        ],
      }}
    />
  );
}

function StagesChart({ design, prediction, colours }: ChartProps) {
  const { optimumStages, output } = prediction;
  const { stages } = design.ladder;
  const curve = useMemo(
    () => stagesCurve(design, [stages, ...(optimumStages === null ? [] : [optimumStages])]),
    [design, stages, optimumStages],
  );
  const volts = engineeringScale(Math.max(...curve.map((point) => point.noLoadVolts)), 'V');
  const best = optimumStages === null ? null : curve[optimumStages - 1];
  const options = commonOptions(colours, 'stages', volts.name);
  options.scales!.x!.ticks = { ...options.scales!.x!.ticks, precision: 0, maxTicksLimit: 14 } as never;
  options.plugins!.legend = {
    display: true,
    align: 'end',
    labels: { color: colours.soft, boxWidth: 16, boxHeight: 1, font: { family: FACE, size: 11 } },
  };
  options.plugins!.tooltip!.callbacks = {
    title: (items) => `${items[0].parsed.x} stages`,
    label: (item) => `${item.dataset.label}: ${sayQuantity(item.parsed.y! * volts.per, 'V')}`,
  };
  const series = (
    label: string,
    read: (point: (typeof curve)[number]) => number | null,
    colour: string,
    dash: number[] = [],
  ) => ({
    label,
    data: curve.map((point) => ({ x: point.stages, y: read(point) === null ? NaN : read(point)! / volts.per })),
    borderColor: colour,
    backgroundColor: colour,
    borderWidth: 2,
    borderDash: dash,
    pointRadius: 2,
  });
  const target = design.target;
  withMarks(options, {
    level: target
      ? { words: 'target', y: target.volts / volts.per, colour: colours.copper, side: 'right', below: true }
      : null,
    point:
      best && best.meanVolts !== null
        ? { words: `most at ${optimumStages}`, x: best.stages, y: best.meanVolts / volts.per, colour: colours.ink }
        : null,
  });
  return (
    <Line
      role="img"
      aria-label={`Output and droop against stage count${optimumStages === null ? '' : `; most output at ${optimumStages} stages`}`}
      options={options}
      data={{
        datasets: [
          series('output', (point) => point.meanVolts, colours.climb),
          series('without load', (point) => point.noLoadVolts, colours.line, [3, 3]),
          series('droop', (point) => point.droopVolts, colours.copper, [6, 3]),
          {
            label: 'this design',
            data: output.meanVolts === null ? [] : [{ x: stages, y: output.meanVolts / volts.per }],
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
