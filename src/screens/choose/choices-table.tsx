'use client';

import { useMemo } from 'react';
import type { ChoiceTimeDomain } from '@/core/choose/choice-time-domain';
import { formOf, type ChoiceRow } from '@/core/choose/row';
import { signedVolts, type Polarity } from '@/core/quantity/polarity';
import { fitOf } from '@/core/quantity/margin';
import { FitMark } from '@/ui/fit-mark';
import { Quantity } from '@/ui/quantity';
import { SortableTable, sortableColumns } from '@/ui/sortable-table';
import { useCounting } from '@/ui/use-counting';
import { CHOICE_FIGURE_IDS, CHOICE_FIGURES } from './choice-figures';

const column = sortableColumns<ChoiceRow>();

const HEADINGS: Record<string, string> = {
  form: 'Ladder',
  ...Object.fromEntries(CHOICE_FIGURE_IDS.map((id) => [id, CHOICE_FIGURES[id].label])),
};

/** Every choice with its figures, sortable by each; a row is selected by its name. */
export function ChoicesTable({
  rows,
  chosen,
  polarity,
  settled: timeDomains,
  onChoose,
}: {
  rows: ChoiceRow[];
  chosen: ChoiceRow | null;
  polarity: Polarity;
  /** What the engine says of rows, by their key. */
  settled: ReadonlyMap<string, ChoiceTimeDomain | null>;
  onChoose: (key: string) => void;
}) {
  const { counting } = useCounting();
  const columns = useMemo(
    () =>
      column.columns([
        column.accessor((row) => formOf(row.shape, counting), {
          id: 'form',
          sortFn: 'alphanumeric',
          cell: ({ row: { original } }) => (
            <button
              type="button"
              data-choice={original.key}
              aria-pressed={original.key === chosen?.key}
              onClick={() => onChoose(original.key)}
              className="block w-full border-l-[3px] border-transparent pl-2 text-left hover:text-copper aria-pressed:border-copper"
            >
              <span className="font-medium">{formOf(original.shape, counting)}</span>
              <span className="block text-[13px] text-soft">
                {original.capacitors}; {original.diodes}
                {original.drive === '' ? '' : `; ${original.drive}`}
                {original.taken.map(({ name, missing }) =>
                  missing > 0 ? (
                    <span key={name} className="text-over">
                      ; {missing} to buy
                    </span>
                  ) : null,
                )}
              </span>
              <span className="block text-[13px] text-soft">Limiting factor: {original.limit}</span>
            </button>
          ),
        }),
        ...CHOICE_FIGURE_IDS.map((id) => {
          const figure = CHOICE_FIGURES[id];
          return column.accessor((row) => figure.of(row) ?? Infinity, {
            id,
            sortFn: 'basic',
            sortDescFirst: figure.more,
            cell: ({ row: { original } }) => {
              const value = figure.of(original);
              if (id === 'outputMeanVolts') {
                const settled = timeDomains.get(original.key);
                return (
                  <span className="whitespace-nowrap">
                    <Quantity value={signedVolts(original.meanVolts, polarity)} unit="V" />
                    {settled ? (
                      <span className={`block text-xs ${settled.met || !original.met ? 'text-soft' : 'text-over'}`}>
                        time domain <Quantity value={signedVolts(settled.meanVolts, polarity)} unit="V" />
                      </span>
                    ) : null}
                  </span>
                );
              }
              if (id === 'smallestMargin')
                return (
                  <span className="inline-flex items-baseline gap-1 whitespace-nowrap">
                    <FitMark fit={fitOf(value)} />
                    <Quantity value={value} unit="%" digits={2} />
                  </span>
                );
              if (id === 'price' && value !== null) return <span className="figures">{value.toFixed(2)}</span>;
              if (value === null) return <span className="text-soft">–</span>;
              if (id === 'parts') return <span className="figures">{value}</span>;
              return <Quantity value={value} unit={figure.unit} digits={figure.unit === '%' ? 2 : 3} />;
            },
          });
        }),
      ]),
    [chosen, counting, polarity, timeDomains, onChoose],
  );
  return (
    <SortableTable
      rows={rows}
      columns={columns}
      headings={HEADINGS}
      rowId={({ key }) => key}
      lead="form"
      leadWidth="md:w-full"
      cellPadding="md:py-1.5"
    />
  );
}
