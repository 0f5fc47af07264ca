'use client';

import { useRef, useState } from 'react';
import { Line } from 'react-chartjs-2';
import { pictureFile } from '@/client/design-file';
import { formOf, type ChoiceRow } from '@/core/choose/row';
import { signedVolts, type Polarity } from '@/core/quantity/polarity';
import { engineeringScale, formatQuantity } from '@/core/quantity/format-quantity';
import { commonOptions, useColours } from '@/ui/chart-style';
import { PictureMenu } from '@/ui/picture-menu';
import { Pick } from '@/ui/pick';
import { useCounting } from '@/ui/use-counting';
import { CHOICE_FIGURE_IDS, CHOICE_FIGURES, type ChoiceFigureId } from './choice-figures';

const AXES = CHOICE_FIGURE_IDS.map((value) => ({ value, name: CHOICE_FIGURES[value].label }));

/** Each choice as a point over two figures; a point is a row of the table. */
export function ChoicesChart({
  rows,
  chosen,
  polarity,
  onChoose,
}: {
  rows: readonly ChoiceRow[];
  chosen: ChoiceRow | null;
  polarity: Polarity;
  onChoose: (key: string) => void;
}) {
  const colours = useColours();
  const { counting } = useCounting();
  const frame = useRef<HTMLDivElement>(null);
  const [horizontal, setHorizontal] = useState<ChoiceFigureId>('parts');
  const [vertical, setVertical] = useState<ChoiceFigureId>('storedJoules');
  const [x, y] = [CHOICE_FIGURES[horizontal], CHOICE_FIGURES[vertical]];
  const plotted = rows.filter((row) => x.of(row) !== null && y.of(row) !== null);
  const scaleOf = (figure: typeof x) => {
    const most = Math.max(...plotted.map((row) => Math.abs(figure.of(row)!)), 0);
    return engineeringScale(most, figure.unit);
  };
  const [scaleX, scaleY] = [scaleOf(x), scaleOf(y)];
  if (!colours) return null;
  const title = (figure: typeof x, scale: { name: string }) =>
    scale.name === '' ? figure.label.toLowerCase() : `${figure.label.toLowerCase()}, ${scale.name}`;
  const options = commonOptions(colours, title(x, scaleX), title(y, scaleY));
  for (const axis of ['x', 'y'] as const) Object.assign(options.scales![axis]!, { beginAtZero: false, grace: '6%' });
  if (horizontal === 'parts') Object.assign(options.scales!.x!.ticks!, { precision: 0 });
  if (vertical === 'parts') Object.assign(options.scales!.y!.ticks!, { precision: 0 });
  options.interaction = { mode: 'nearest', intersect: true };
  options.onClick = (_event, hits) => {
    const row = hits[0] && plotted[hits[0].index];
    if (row) onChoose(row.key);
  };
  options.plugins!.tooltip!.callbacks = {
    title: (items) => formOf(plotted[items[0].dataIndex].shape, counting),
    label: (item) => {
      const row = plotted[item.dataIndex];
      const say = (figure: typeof x) =>
        `${figure.label}: ${formatQuantity(figure === CHOICE_FIGURES.outputMeanVolts ? signedVolts(figure.of(row)!, polarity) : figure.of(row)!, figure.unit)}`;
      return [say(x), say(y)];
    },
  };
  const isChosen = (row: ChoiceRow) => row.key === chosen?.key;
  return (
    <div className="flex h-full min-h-0 flex-col">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 px-1 text-[13px]">
        <Axis label="Vertical axis" value={vertical} onValue={setVertical} />
        <Axis label="Horizontal axis" value={horizontal} onValue={setHorizontal} />
        <span className="text-xs text-soft">
          Better: {y.more ? 'higher' : 'lower'} and further {x.more ? 'right' : 'left'}
        </span>
        <span className="ml-auto">
          <PictureMenu
            name="choices"
            title={`${y.label} over ${x.label.toLowerCase()}`}
            find={() => frame.current?.querySelector('canvas') ?? null}
            onPicture={pictureFile('choices', `${vertical}-over-${horizontal}`)}
          />
        </span>
      </div>
      <div ref={frame} className="min-h-0 min-w-0 flex-1">
        <Line
          role="img"
          aria-label={`${plotted.length} choices, ${y.label.toLowerCase()} over ${x.label.toLowerCase()}`}
          options={options}
          data={{
            datasets: [
              {
                data: plotted.map((row) => ({ x: x.of(row)! / scaleX.per, y: y.of(row)! / scaleY.per })),
                showLine: false,
                pointStyle: plotted.map((row) => (isChosen(row) ? 'rectRot' : 'circle')),
                pointRadius: plotted.map((row) => (isChosen(row) ? 8 : 4.5)),
                pointHoverRadius: 8,
                pointBackgroundColor: plotted.map((row) => (isChosen(row) ? colours.copper : `${colours.climb}aa`)),
                pointBorderColor: plotted.map((row) => (isChosen(row) ? colours.copper : colours.climb)),
              },
            ],
          }}
        />
      </div>
    </div>
  );
}

function Axis({
  label,
  value,
  onValue,
}: {
  label: string;
  value: ChoiceFigureId;
  onValue: (value: ChoiceFigureId) => void;
}) {
  return (
    <span className="text-soft">
      <span aria-hidden="true">{label}</span>{' '}
      <Pick label={label} value={value} options={AXES} onValue={onValue} className="ml-1" />
    </span>
  );
}
