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
} from '@tanstack/react-table';
import { formatDistanceToNow } from 'date-fns';
import Ellipsis from 'lucide-react/icons/ellipsis';
import Link from 'next/link';
import { DropdownMenu } from 'radix-ui';
import type { Design } from '@/core/design/design-schema';
import { signedVolts } from '@/core/predict/prediction';
import type { ShelfRow } from '@/core/predict/shelf-row';
import { fitOf } from '@/core/stress/margin';
import { buttonStyle } from '@/ui/button';
import { FitMark } from '@/ui/fit-mark';
import { Quantity } from '@/ui/quantity';

export type ShelvedDesign = ShelfRow & { id: string; design: Design; savedAt: string; archived: boolean };

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric, basic: sortFn_basic },
});
const column = createColumnHelper<typeof features, ShelvedDesign>();

const columns = column.columns([
  column.accessor('name', {
    header: 'Design',
    sortFn: 'alphanumeric',
    cell: ({ row }) => (
      <Link href={`/designs/${row.original.id}`} className="font-medium break-words hover:text-copper hover:underline">
        {row.original.name}
      </Link>
    ),
  }),
  column.accessor((row) => row.targetVolts ?? -1, {
    id: 'target',
    header: 'Target',
    sortFn: 'basic',
    cell: ({ row }) =>
      row.original.targetVolts === null ? (
        <span className="text-soft">none set</span>
      ) : (
        <>
          <Volts value={row.original.targetVolts} polarity={row.original.polarity} />
          {row.original.targetAmps ? (
            <span className="text-soft">
              {' '}
              at <Quantity value={row.original.targetAmps} unit="A" />
            </span>
          ) : null}
        </>
      ),
  }),
  column.accessor((row) => row.reachedVolts ?? -1, {
    id: 'reached',
    header: 'Reached',
    sortFn: 'basic',
    cell: ({ row }) => <Reached row={row.original} />,
  }),
  column.accessor((row) => row.smallestMargin ?? Infinity, {
    id: 'margin',
    header: 'Smallest margin',
    sortFn: 'basic',
    cell: ({ row }) => {
      const fit = fitOf(row.original.smallestMargin);
      return (
        <span className="inline-flex items-center gap-1.5">
          <FitMark fit={fit} />
          {row.original.smallestMargin === null ? null : (
            <Quantity value={row.original.smallestMargin} unit="%" digits={2} />
          )}
          <span className="text-soft">{fit}</span>
        </span>
      );
    },
  }),
  column.accessor('savedAt', {
    header: 'Saved',
    sortFn: 'basic',
    cell: ({ row }) => (
      <time dateTime={row.original.savedAt} className="whitespace-nowrap text-soft" suppressHydrationWarning>
        {formatDistanceToNow(new Date(row.original.savedAt), { addSuffix: true })}
      </time>
    ),
  }),
]);

const HEADINGS: Record<string, string> = {
  name: 'Design',
  target: 'Target',
  reached: 'Reached',
  margin: 'Smallest margin',
  savedAt: 'Saved',
};

type Actions = Record<'onRename' | 'onDuplicate' | 'onArchive' | 'onExport', (row: ShelvedDesign) => void>;

/** The shelf's rows, sortable by every column; on a narrow screen each row becomes a card. */
export function ShelfTable({ rows, ...actions }: { rows: ShelvedDesign[] } & Actions) {
  const table = useTable({ features, columns, data: rows, getRowId: (row: ShelvedDesign) => row.id });
  return (
    <table className="mt-5 block w-full border-t border-rule md:table">
      <thead className="hidden md:table-header-group">
        {table.getHeaderGroups().map((group) => (
          <tr key={group.id} className="border-b border-rule text-left">
            {group.headers.map((header) => {
              const sorted = header.column.getIsSorted();
              return (
                <th
                  key={header.id}
                  aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : 'none'}
                  className="font-normal"
                >
                  <button
                    type="button"
                    onClick={header.column.getToggleSortingHandler()}
                    className="py-2 pr-3 text-[13px] text-soft hover:text-ink"
                  >
                    {HEADINGS[header.column.id]}
                    <span aria-hidden="true">{sorted === 'asc' ? ' ↑' : sorted === 'desc' ? ' ↓' : ''}</span>
                  </button>
                </th>
              );
            })}
            <th>
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        ))}
      </thead>
      <tbody className="block md:table-row-group">
        {table.getRowModel().rows.map((row) => (
          <tr
            key={row.id}
            className="relative grid grid-cols-2 gap-x-3 gap-y-1 border-b border-rule py-3 pr-10 hover:bg-tint/50 md:table-row md:p-0"
          >
            {row.getAllCells().map((cell) => (
              <td
                key={cell.id}
                className={`md:py-2.5 md:pr-3 md:align-middle ${cell.column.id === 'name' ? 'col-span-2 md:max-w-[22rem]' : ''}`}
              >
                {cell.column.id === 'name' ? null : (
                  <span className="block text-xs text-soft md:hidden">{HEADINGS[cell.column.id]}</span>
                )}
                <FlexRender cell={cell} />
              </td>
            ))}
            <td className="absolute top-2 right-0 md:static md:w-10 md:text-right">
              <RowMenu row={row.original} {...actions} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Volts({ value, polarity }: { value: number; polarity: ShelfRow['polarity'] }) {
  return <Quantity value={signedVolts(value, polarity)} unit="V" />;
}

function Reached({ row }: { row: ShelvedDesign }) {
  if (row.reachedVolts === null) return <span className="text-over">past the closed form</span>;
  return (
    <span className="whitespace-nowrap">
      <ReachGauge row={row} />
      <Volts value={row.reachedVolts} polarity={row.polarity} />
      {row.targetMet === null ? null : (
        <span className={row.targetMet ? 'text-fits' : 'text-over'}>
          {row.targetMet ? ' meets it' : ' falls short'}
        </span>
      )}
    </span>
  );
}

/** How far towards its target a design reaches: a bar filled to the output, the target as a line across. */
function ReachGauge({ row }: { row: ShelvedDesign }) {
  if (row.targetVolts === null || row.reachedVolts === null) return null;
  const width = 56;
  const targetAt = 0.8 * width;
  const filled = Math.min(width, (row.reachedVolts / row.targetVolts) * targetAt);
  return (
    <svg viewBox={`0 0 ${width} 12`} className="mr-2.5 inline-block h-3 w-14 align-[-1px]" aria-hidden="true">
      <rect y="4.500" width={width} height="3" rx="1.500" fill="var(--rule)" />
      <rect y="4.500" width={filled} height="3" rx="1.500" fill={row.targetMet ? 'var(--fits)' : 'var(--over)'} />
      <path d={`M${targetAt} 1v10`} stroke="var(--ink)" strokeWidth="1.300" />
    </svg>
  );
}

function RowMenu({ row, onRename, onDuplicate, onArchive, onExport }: { row: ShelvedDesign } & Actions) {
  const items = [
    { words: 'Rename', act: onRename },
    { words: 'Duplicate', act: onDuplicate },
    { words: 'Export', act: onExport },
    { words: row.archived ? 'Restore' : 'Archive', act: onArchive },
  ];
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className={buttonStyle('quiet')} aria-label={`Actions for ${row.name}`}>
        <Ellipsis className="size-4" aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className="z-30 min-w-36 rounded-md border border-rule bg-sheet p-1">
          {items.map((item) => (
            <DropdownMenu.Item
              key={item.words}
              onSelect={() => item.act(row)}
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
