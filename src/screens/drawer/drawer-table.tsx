'use client';

import { memo, useCallback, useMemo } from 'react';
import { inShort, mainValue, PART_NAMES } from '@/core/parts/part-fields';
import type { Part } from '@/core/parts/part-schema';
import type { PartUse } from '@/core/drawer/drawer-messages';
import type { Stock } from '@/core/drawer/parts-used';
import { FitMark } from '@/ui/fit-mark';
import { RowMenu, SortableTable, sortableColumns } from '@/ui/sortable-table';
import { CountCell } from './count-cell';

/** A part with what is left of it. */
export type StockedPart = Stock & { part: Part; usedBy: PartUse[] };

const column = sortableColumns<StockedPart>();

const HEADINGS: Record<string, string> = {
  kind: 'Kind',
  name: 'Part',
  value: 'Values',
  count: 'In stock',
  reserved: 'Reserved',
  price: 'Price each',
};

type Actions = {
  onChange: (part: Part, what: string) => void;
} & Record<'onEdit' | 'onDuplicate' | 'onRemove', (part: Part) => void>;

/** Rows drawn at first; a table of thousands takes seconds. */
const ROWS_AT_FIRST = 60;

/** The drawer's parts, sortable by every column, counts and prices changed in place; cards on a narrow screen. */
export const DrawerTable = memo(function DrawerTable({
  rows,
  onChange,
  onEdit,
  onDuplicate,
  onRemove,
}: { rows: StockedPart[] } & Actions) {
  const columns = useMemo(
    () =>
      column.columns([
        column.accessor((row) => PART_NAMES[row.part.kind], {
          id: 'kind',
          sortFn: 'alphanumeric',
          cell: ({ row }) => <span className="text-soft">{PART_NAMES[row.original.part.kind]}</span>,
        }),
        column.accessor((row) => row.part.name, {
          id: 'name',
          sortFn: 'alphanumeric',
          cell: ({ row }) => (
            <button
              type="button"
              data-part-name
              onClick={() => onEdit(row.original.part)}
              className="text-left font-medium break-words hover:text-copper hover:underline"
            >
              {row.original.part.name}
            </button>
          ),
        }),
        column.accessor((row) => mainValue(row.part) ?? -1, {
          id: 'value',
          sortFn: 'basic',
          cell: ({ row }) => <span className="figures whitespace-nowrap">{inShort(row.original.part)}</span>,
        }),
        column.accessor((row) => row.part.count, {
          id: 'count',
          sortFn: 'basic',
          cell: ({ row: { original } }) => (
            <CountCell
              label={`How many of ${original.part.name}`}
              field="count"
              part={original.part}
              onPart={(part) => onChange(part, `counting ${part.name}`)}
            />
          ),
        }),
        column.accessor((row) => row.reserved, {
          id: 'reserved',
          sortFn: 'basic',
          cell: ({ row }) => <Reserved row={row.original} />,
        }),
        column.accessor((row) => row.part.price ?? -1, {
          id: 'price',
          sortFn: 'basic',
          cell: ({ row: { original } }) => (
            <CountCell
              label={`Price of ${original.part.name}`}
              field="price"
              part={original.part}
              onPart={(part) => onChange(part, `pricing ${part.name}`)}
            />
          ),
        }),
      ]),
    [onChange, onEdit],
  );
  const menu = useCallback(
    ({ part }: StockedPart) => (
      <RowMenu
        label={`Actions for ${part.name}`}
        items={[
          { words: 'All fields', act: () => onEdit(part) },
          { words: 'Duplicate', act: () => onDuplicate(part) },
          { words: 'Take out', act: () => onRemove(part) },
        ]}
      />
    ),
    [onEdit, onDuplicate, onRemove],
  );
  return (
    <SortableTable
      rows={rows}
      columns={columns}
      headings={HEADINGS}
      atFirst={ROWS_AT_FIRST}
      rowId={({ part }) => part.id}
      lead="name"
      leadWidth="md:max-w-[20rem]"
      cellPadding="md:py-1.5"
      menu={menu}
    />
  );
});

/** What designs take of a part, and whether that many are there. */
function Reserved({ row: { reserved, free, usedBy } }: { row: StockedPart }) {
  if (reserved === 0) return <span className="text-soft">none</span>;
  const who = usedBy.map((use) => `${use.designName} takes ${use.count}`).join('; ');
  return (
    <span className="inline-flex items-baseline gap-1.5" title={who}>
      <span className="figures">{reserved}</span>
      <FitMark fit={free < 0 ? 'over' : 'fits'} />
      <span className="text-[13px] text-soft">{free < 0 ? `${-free} short` : `${free} free`}</span>
      <span className="sr-only">{who}</span>
    </span>
  );
}
