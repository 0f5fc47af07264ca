'use client';

import {
  Chart as ChartJs,
  Filler,
  Legend,
  LinearScale,
  LineElement,
  PointElement,
  Tooltip,
  type ChartOptions,
  type Plugin,
} from 'chart.js';
import zoomPlugin from 'chartjs-plugin-zoom';
import { useTheme } from 'next-themes';
import { useMemo } from 'react';
import { useMounted } from './use-mounted';

export type Colours = Record<
  'ink' | 'soft' | 'rule' | 'copper' | 'climb' | 'summit' | 'line' | 'sheet' | 'fits' | 'close' | 'over',
  string
>;

/** The palette as Chart.js wants it: computed colours, read again when the theme changes. */
export function useColours(): Colours | null {
  const { resolvedTheme } = useTheme();
  const mounted = useMounted();
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
      fits: read('fits'),
      close: read('close'),
      over: read('over'),
    };
  }, [mounted, resolvedTheme]);
}

export const FACE = 'Spline Sans Mono Variable, monospace';

export function commonOptions(colours: Colours, xTitle: string, yTitle: string): ChartOptions<'line'> {
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
export const withMarks = (options: ChartOptions<'line'>, marks: Marks) => {
  options.plugins = { ...options.plugins, marks } as ChartOptions<'line'>['plugins'];
};

/** Text with a rim of paper, readable where lines pass. */
function haloedText(ctx: CanvasRenderingContext2D, words: string, x: number, y: number) {
  ctx.setLineDash([]);
  ctx.lineWidth = 4;
  ctx.lineJoin = 'round';
  ctx.strokeStyle = getComputedStyle(document.documentElement).getPropertyValue('--paper');
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

ChartJs.register(Filler, LinearScale, LineElement, PointElement, Tooltip, Legend, marksPlugin, zoomPlugin);
