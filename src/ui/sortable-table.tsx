'use client';

import {
  createColumnHelper,
  createSortedRowModel,
  FlexRender,
  rowSortingFeature,
  sortFn_alphanumeric,
  sortFn_basic,
  tableFeatures,
  useTable,
  type ColumnDef,
  type Row,
} from '@tanstack/react-table';
import Ellipsis from 'lucide-react/icons/ellipsis';
import { DropdownMenu } from 'radix-ui';
import { memo, startTransition, useEffect, useState, type ReactNode } from 'react';
import { shallow } from 'zustand/shallow';
import { buttonStyle } from './button';

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric, basic: sortFn_basic },
});

/** Rows drawn in one go, about as many as a window shows: each holds up the server that serves them, or the page. */
const ROWS_A_GO = 16;

/** Makes the columns of a {@link SortableTable}. */
export const sortableColumns = <T extends object>() => createColumnHelper<typeof features, T>();

/** Rows sortable by every column; on a narrow screen each row becomes a card under its leading column. */
export function SortableTable<T extends object>({
  rows,
  columns,
  headings,
  rowId,
  lead,
  leadWidth,
  cellPadding,
  menu,
  sorted,
  onSort,
  atFirst = Infinity,
}: {
  rows: T[];
  /** By which column rows come sorted, and what asks for another order; without, they are sorted here. */
  sorted?: { by: string; falling: boolean };
  onSort?: (by: string, falling: boolean) => void;
  /** Rows drawn at first, and more each time more are asked for; all of them without. */
  atFirst?: number;
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- each column has a value type of its own
  columns: ColumnDef<typeof features, T, any>[];
  /** What each column is called, by its id. */
  headings: Record<string, string>;
  rowId: (row: T) => string;
  /** Id of the column that heads a row's card. */
  lead: string;
  leadWidth: string;
  cellPadding: string;
  /** What can be done with a row, at its end. */
  menu?: (row: T) => ReactNode;
}) {
  const [most, setMost] = useState(atFirst);
  const [drawn, setDrawn] = useState(ROWS_A_GO);
  const wanted = Math.min(most, rows.length);
  useEffect(() => {
    if (drawn < wanted) startTransition(() => setDrawn(drawn + ROWS_A_GO));
  }, [drawn, wanted]);
  const table = useTable({ features, columns, data: rows, getRowId: rowId });
  const orderOf = (column: { id: string; getIsSorted: () => false | 'asc' | 'desc' }) =>
    sorted ? sorted.by === column.id && (sorted.falling ? 'desc' : 'asc') : column.getIsSorted();
  const sortedRows = table.getRowModel().rows;
  return (
    <>
      <table className="mt-5 block w-full border-t border-rule md:table">
        <thead className="hidden md:table-header-group">
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id} className="border-b border-rule text-left">
              {group.headers.map((header) => {
                const order = orderOf(header.column);
                return (
                  <th
                    key={header.id}
                    aria-sort={order === 'asc' ? 'ascending' : order === 'desc' ? 'descending' : 'none'}
                    className="font-normal"
                  >
                    <button
                      type="button"
                      onClick={(event) =>
                        onSort
                          ? onSort(header.column.id, order !== 'desc')
                          : header.column.getToggleSortingHandler()?.(event)
                      }
                      className="py-2 pr-3 text-[13px] text-soft hover:text-ink"
                    >
                      {headings[header.column.id]}
                      <span aria-hidden="true">{order === 'asc' ? ' ↑' : order === 'desc' ? ' ↓' : ''}</span>
                    </button>
                  </th>
                );
              })}
              {menu ? (
                <th>
                  <span className="sr-only">Actions</span>
                </th>
              ) : null}
            </tr>
          ))}
        </thead>
        <tbody className="block md:table-row-group">
          {sortedRows.slice(0, Math.min(most, drawn)).map((row) => (
            <TableRow
              key={row.id}
              {...{ row, original: row.original, columns, headings, lead, leadWidth, cellPadding, menu }}
            />
          ))}
        </tbody>
      </table>
      {sortedRows.length > most ? (
        <p className="mt-3 text-[13px] text-soft">
          {most} of {sortedRows.length}.{' '}
          <button type="button" className="text-copper underline" onClick={() => setMost(most + atFirst)}>
            Show {Math.min(atFirst, sortedRows.length - most)} more
          </button>
        </p>
      ) : null}
    </>
  );
}

type TableRowProps<T extends object> = Pick<
  Parameters<typeof SortableTable<T>>[0],
  'columns' | 'headings' | 'lead' | 'leadWidth' | 'cellPadding' | 'menu'
> & { row: Row<typeof features, T>; /** What the row is of. */ original: T };

/** One row, drawn anew where what it is of is another: a table makes all its rows anew with every change. */
const TableRow = memo(
  function TableRow<T extends object>({ row, headings, lead, leadWidth, cellPadding, menu }: TableRowProps<T>) {
    return (
      <tr
        data-row={row.id}
        className={`relative grid grid-cols-2 gap-x-3 gap-y-1 border-b border-rule py-3 hover:bg-tint/50 md:table-row md:p-0 ${menu ? 'pr-10' : ''}`}
      >
        {row.getAllCells().map((cell) => (
          <td
            key={cell.id}
            className={`md:pr-3 md:align-middle ${cellPadding} ${cell.column.id === lead ? `order-first col-span-2 ${leadWidth}` : ''}`}
          >
            {cell.column.id === lead ? null : (
              <span className="block text-xs text-soft md:hidden">{headings[cell.column.id]}</span>
            )}
            <FlexRender cell={cell} />
          </td>
        ))}
        {menu ? <td className="absolute top-2 right-0 md:static md:w-10 md:text-right">{menu(row.original)}</td> : null}
      </tr>
    );
  },
  ({ row: _row, ...before }, { row: _later, ...after }) => shallow(before, after),
) as <T extends object>(props: TableRowProps<T>) => ReactNode;

/** What can be done with one row. */
export function RowMenu({ label, items }: { label: string; items: readonly { words: string; act: () => void }[] }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className={buttonStyle('quiet')} aria-label={label}>
        <Ellipsis className="size-4" aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className="z-30 min-w-36 rounded-md border border-rule bg-sheet p-1">
          {items.map((item) => (
            <DropdownMenu.Item
              key={item.words}
              onSelect={item.act}
              className="cursor-pointer rounded px-3 py-1.5 outline-none data-[highlighted]:bg-tint"
            >
              {item.words}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
