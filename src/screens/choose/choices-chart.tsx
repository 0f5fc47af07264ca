'use client';

import { useState } from 'react';
import { Line } from 'react-chartjs-2';
import type { ChoiceRow } from '@/core/choose/row';
import { signedVolts, type Polarity } from '@/core/quantity/polarity';
import { engineeringScale, formatQuantity } from '@/core/quantity/format-quantity';
import { commonOptions, useColours } from '@/ui/chart-style';
import { CHOICE_FIGURES, figureOf, type FigureId } from './choice-figures';

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
  const [across, setAcross] = useState<FigureId>('parts');
  const [up, setUp] = useState<FigureId>('energy');
  const [x, y] = [figureOf(across), figureOf(up)];
  const drawn = rows.filter((row) => x.of(row) !== null && y.of(row) !== null);
  const scaleOf = (figure: typeof x) => {
    const most = Math.max(...drawn.map((row) => Math.abs(figure.of(row)!)), 0);
    return figure.unit === '%' ? { per: 0.01, name: '%' } : engineeringScale(most, figure.unit);
  };
  const [scaleX, scaleY] = [scaleOf(x), scaleOf(y)];
  if (!colours) return null;
  const title = (figure: typeof x, scale: { name: string }) =>
    scale.name === '' ? figure.name.toLowerCase() : `${figure.name.toLowerCase()}, ${scale.name}`;
  const options = commonOptions(colours, title(x, scaleX), title(y, scaleY));
  for (const axis of ['x', 'y'] as const) Object.assign(options.scales![axis]!, { beginAtZero: false, grace: '6%' });
  if (across === 'parts') Object.assign(options.scales!.x!.ticks!, { precision: 0 });
  if (up === 'parts') Object.assign(options.scales!.y!.ticks!, { precision: 0 });
  options.interaction = { mode: 'nearest', intersect: true };
  options.onClick = (_event, hits) => {
    const row = hits[0] && drawn[hits[0].index];
    if (row) onChoose(row.key);
  };
  options.plugins!.tooltip!.callbacks = {
    title: (items) => drawn[items[0].dataIndex].form,
    label: (item) => {
      const row = drawn[item.dataIndex];
      const say = (figure: typeof x) =>
        `${figure.name}: ${formatQuantity(figure.id === 'output' ? signedVolts(figure.of(row)!, polarity) : figure.of(row)!, figure.unit)}`;
      return [say(x), say(y)];
    },
  };
  const isChosen = (row: ChoiceRow) => row.key === chosen?.key;
  return (
    <div className="flex h-full min-h-0 flex-col">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 px-1 text-[13px]">
        <Axis label="Up" value={up} onValue={setUp} />
        <Axis label="Across" value={across} onValue={setAcross} />
        <span className="text-xs text-soft">
          Better: {y.more ? 'higher' : 'lower'} and further {x.more ? 'right' : 'left'}
        </span>
      </div>
      <div className="min-h-0 min-w-0 flex-1">
        <Line
          role="img"
          aria-label={`${drawn.length} choices, ${y.name.toLowerCase()} over ${x.name.toLowerCase()}`}
          options={options}
          data={{
            datasets: [
              {
                data: drawn.map((row) => ({ x: x.of(row)! / scaleX.per, y: y.of(row)! / scaleY.per })),
                showLine: false,
                pointStyle: drawn.map((row) => (isChosen(row) ? 'rectRot' : 'circle')),
                pointRadius: drawn.map((row) => (isChosen(row) ? 8 : 4.5)),
                pointHoverRadius: 8,
                pointBackgroundColor: drawn.map((row) => (isChosen(row) ? colours.copper : `${colours.climb}aa`)),
                pointBorderColor: drawn.map((row) => (isChosen(row) ? colours.copper : colours.climb)),
              },
            ],
          }}
        />
      </div>
    </div>
  );
}

function Axis({ label, value, onValue }: { label: string; value: FigureId; onValue: (value: FigureId) => void }) {
  return (
    <label className="text-soft">
      {label}{' '}
      <select
        aria-label={label}
        value={value}
        onChange={(event) => onValue(event.target.value as FigureId)}
        className="ml-1 rounded border border-rule bg-sheet px-1.5 py-[2px] text-ink"
      >
        {CHOICE_FIGURES.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
