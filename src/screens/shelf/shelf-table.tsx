'use client';

import { format, formatDistanceToNow } from 'date-fns';
import Link from 'next/link';
import { memo } from 'react';
import { signedVolts } from '@/core/quantity/polarity';
import { formatFaults } from '@/core/schema/faults';
import { FIGURES } from '@/core/predict/figures';
import type {
  DamagedRow,
  LastMeasured,
  ShelfQuery,
  ShelfSort,
  ShelvedDesign,
  SoundRow,
} from '@/core/predict/shelf-query';
import { buildWords, type ShelfRow } from '@/core/predict/shelf-row';
import { fitOf } from '@/core/quantity/margin';
import { SmallClimb } from '@/climb/small-climb';
import { FitMark } from '@/ui/fit-mark';
import { Quantity } from '@/ui/quantity';
import { RowMenu, SortableTable, sortableColumns } from '@/ui/sortable-table';
import { useCounting } from '@/ui/use-counting';

const column = sortableColumns<ShelvedDesign>();

const columns = column.columns([
  column.display({
    id: 'name',
    header: 'Design',
    cell: ({ row }) => (
      <span className="flex items-center gap-3">
        {row.original.damaged || !row.original.climb ? (
          <span className="hidden w-[46px] shrink-0 md:block" />
        ) : (
          <SmallClimb {...row.original.climb} />
        )}
        <span className="min-w-0">
          <Link
            href={`/designs/${row.original.id}`}
            className="font-medium break-words hover:text-copper hover:underline"
          >
            {row.original.name}
          </Link>
          {row.original.damaged ? null : <Build row={row.original} />}
          {row.original.measured ? <Measured measured={row.original.measured} /> : null}
        </span>
      </span>
    ),
  }),
  column.display({
    id: 'target',
    header: 'Target',
    cell: ({ row }) =>
      row.original.damaged ? null : row.original.targetVolts === null ? (
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
  column.display({
    id: 'reached',
    header: 'Reached',
    cell: ({ row }) => (row.original.damaged ? <Damaged row={row.original} /> : <Reached row={row.original} />),
  }),
  column.display({
    id: 'margin',
    header: FIGURES.smallestMargin.label,
    cell: ({ row }) => {
      if (row.original.damaged) return null;
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
  column.display({
    id: 'savedAt',
    header: 'Saved',
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
  margin: FIGURES.smallestMargin.label,
  savedAt: 'Saved',
};

export type ShelfActions = Record<'onRename' | 'onDuplicate' | 'onExport', (row: SoundRow) => void> &
  Record<'onArchive' | 'onExportRaw', (row: ShelvedDesign) => void> & {
    onSort: (sort: ShelfSort, order: ShelfQuery['order']) => void;
  };

/** The shelf's designs, sortable by every column. */
export const ShelfTable = memo(function ShelfTable({
  rows,
  query,
  onSort,
  ...act
}: {
  rows: ShelvedDesign[];
  query: ShelfQuery;
} & ShelfActions) {
  return (
    <SortableTable
      sorted={{ by: query.sort, falling: query.order === 'falling' }}
      // Names are looked through from the first on, figures from the greatest down.
      onSort={(by, falling) =>
        onSort(by as ShelfSort, falling && !(by === 'name' && query.sort !== 'name') ? 'falling' : 'rising')
      }
      rows={rows}
      columns={columns}
      headings={HEADINGS}
      rowId={(row) => row.id}
      lead="name"
      leadWidth="md:max-w-[26rem]"
      cellPadding="md:py-2.5"
      menu={(row) => (
        <RowMenu
          label={`Actions for ${row.name}`}
          items={[
            ...(row.damaged
              ? [{ words: 'Export as stored', act: () => act.onExportRaw(row) }]
              : [
                  { words: 'Rename', act: () => act.onRename(row) },
                  { words: 'Duplicate', act: () => act.onDuplicate(row) },
                  { words: 'Export', act: () => act.onExport(row) },
                ]),
            { words: row.archived ? 'Restore' : 'Archive', act: () => act.onArchive(row) },
          ]}
        />
      )}
    />
  );
});

/** When it was last measured, and how that agreed. */
function Measured({ measured: { at, agrees, doubtful, off } }: { measured: LastMeasured }) {
  const words = [agrees && `${agrees} agree`, doubtful && `${doubtful} doubtful`, off && `${off} off`].filter(Boolean);
  return (
    <span className="block text-xs text-soft" data-measured suppressHydrationWarning>
      <FitMark fit={off > 0 ? 'over' : doubtful > 0 ? 'close' : agrees > 0 ? 'fits' : 'unrated'} /> measured{' '}
      {format(new Date(at), 'd MMM yyyy')}
      {words.length > 0 ? `: ${words.join(', ')}` : ''}
    </span>
  );
}

function Build({ row }: { row: SoundRow }) {
  const { counting } = useCounting();
  return <span className="block text-[13px] text-soft">{buildWords(row, counting)}</span>;
}

function Volts({ value, polarity }: { value: number; polarity: ShelfRow['polarity'] }) {
  return <Quantity value={signedVolts(value, polarity)} unit="V" />;
}

function Damaged({ row: { faults, faultCount } }: { row: DamagedRow }) {
  return (
    <span className="inline-block max-w-72 text-[13px] break-words text-over" title={formatFaults(faults)}>
      cannot be read: {faults[0].path} {faults[0].message}
      {faultCount > 1 ? `, and ${faultCount - 1} more` : ''}
    </span>
  );
}

const OUTCOMES = {
  met: 'meets it',
  volts: 'falls short',
  amps: 'too little current',
  ripple: 'too much ripple',
} as const;

function Reached({ row }: { row: SoundRow }) {
  if (row.reachedVolts === null) return <span className="text-over">past the closed form</span>;
  return (
    <span className="whitespace-nowrap">
      <ReachGauge row={row} />
      <Volts value={row.reachedVolts} polarity={row.alternating ? 'positive' : row.polarity} />
      {row.alternating ? ' RMS' : ''}
      {row.targetVolts === null ? null : (
        <span className={row.missed === null ? 'text-fits' : 'text-over'}> {OUTCOMES[row.missed ?? 'met']}</span>
      )}
    </span>
  );
}

/** How far towards its target a design reaches: a bar filled to the output, the target as a line across. */
function ReachGauge({ row }: { row: SoundRow }) {
  if (row.targetVolts === null || row.reachedVolts === null) return null;
  const width = 56;
  const targetAt = 0.8 * width;
  const filled = Math.min(width, (row.reachedVolts / row.targetVolts) * targetAt);
  return (
    <svg viewBox={`0 0 ${width} 12`} className="mr-2.5 inline-block h-3 w-14 align-[-1px]" aria-hidden="true">
      <rect y="4.500" width={width} height="3" rx="1.500" fill="var(--rule)" />
      <rect y="4.500" width={filled} height="3" rx="1.500" fill={row.missed === null ? 'var(--fits)' : 'var(--over)'} />
      <path d={`M${targetAt} 1v10`} stroke="var(--ink)" strokeWidth="1.300" />
    </svg>
  );
}
