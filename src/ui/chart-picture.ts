'use client';

import { BasicPlatform, Chart, type ChartConfiguration, type LegendItem } from 'chart.js';
import { Element as SvgCanvas } from 'svgcanvas';
import { FACE } from './chart-style';
import { blobOf, PlainColours, SCALE, type Still } from './still';

const paper = () => getComputedStyle(document.body).backgroundColor;

/** Lines with a name; those that only bound a band have no width. */
const namedLines = ({ data }: Chart) => data.datasets.filter(({ label, borderWidth }) => label && borderWidth !== 0);

/**
 * A chart once more, on another canvas. Lines that are named beside the chart on
 * screen are named in it, for nothing stands beside it there.
 */
function drawnAgain(shown: Chart, canvas: HTMLCanvasElement, devicePixelRatio: number): Chart {
  const { type, options, plugins } = shown.config as ChartConfiguration;
  const named = namedLines(shown);
  const legend = {
    display: true,
    align: 'end' as const,
    labels: {
      color: getComputedStyle(document.documentElement).getPropertyValue('--soft'),
      boxWidth: 16,
      boxHeight: 1,
      font: { family: FACE, size: 11 },
      filter: ({ datasetIndex }: LegendItem) => namedLines(shown).includes(shown.data.datasets[datasetIndex!]),
    },
  };
  return new Chart(canvas, {
    type,
    // A line with a style for its segments is drawn stroke by stroke, and not as one path that an SVG canvas has not.
    data: { ...shown.data, datasets: shown.data.datasets.map((dataset) => ({ ...dataset, segment: {} })) },
    options: {
      ...options,
      responsive: false,
      animation: false,
      devicePixelRatio,
      events: [],
      scales: Object.fromEntries(
        Object.values(shown.scales).map(({ id, min, max }) => [
          id,
          // A part that is magnified stays so.
          { ...options?.scales?.[id], ...(shown.isZoomedOrPanned() ? { min, max } : {}) },
        ]),
      ),
      plugins: {
        ...options?.plugins,
        ...(options?.plugins?.legend?.display || named.length < 2 ? {} : { legend }),
        // What follows a pointer has none here.
        zoom: false as never,
      },
    },
    plugins,
    platform: BasicPlatform,
  } as ChartConfiguration);
}

/**
 * A chart as it stands on screen as an SVG document of its own.
 *
 * @param title what it shows, for whoever opens the file
 * @returns null where the canvas has no chart
 */
export function stillOfChart(canvas: HTMLCanvasElement, title: string): Still | null {
  const shown = Chart.getChart(canvas);
  if (!shown) return null;
  const { width, height } = shown;
  const page = new SvgCanvas({ width, height });
  // A context in a page knows its canvas.
  Object.assign(page.getContext('2d'), { canvas: page });
  const drawn = drawnAgain(shown, page as unknown as HTMLCanvasElement, 1);
  const svg = page.getContext('2d').getSvg().cloneNode(true) as SVGSVGElement;
  drawn.destroy();
  const colours = new PlainColours();
  for (const element of svg.querySelectorAll('*')) colours.spread(element);
  svg.setAttribute('viewBox', `0 0 ${width} ${height}`);
  svg.setAttribute('width', String(width));
  svg.setAttribute('height', String(height));
  const ground = document.createElementNS(svg.namespaceURI!, 'rect');
  for (const [name, value] of [
    ['width', '100%'],
    ['height', '100%'],
    ['fill', colours.parts(paper()).plain],
  ])
    ground.setAttribute(name, value);
  const name = document.createElementNS(svg.namespaceURI!, 'title');
  name.textContent = title;
  svg.prepend(name, ground);
  return { svg: new XMLSerializer().serializeToString(svg), width, height };
}

/** The same as a picture of points, in the page's own letters; null where the canvas has no chart. */
export async function pngOfChart(canvas: HTMLCanvasElement): Promise<Blob | null> {
  const shown = Chart.getChart(canvas);
  if (!shown) return null;
  const { width, height } = shown;
  const picture = Object.assign(document.createElement('canvas'), { width, height });
  const drawn = drawnAgain(shown, picture, SCALE);
  const brush = picture.getContext('2d')!;
  // Behind all that is drawn.
  brush.globalCompositeOperation = 'destination-over';
  brush.fillStyle = paper();
  brush.fillRect(0, 0, width, height);
  const png = await blobOf(picture);
  drawn.destroy();
  return png;
}
