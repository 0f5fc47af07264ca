'use client';

import { formatDistanceToNow } from 'date-fns';
import Link from 'next/link';
import type { Design } from '@/core/design/design-schema';
import { signedVolts } from '@/core/quantity/polarity';
import { formatFaults, type Fault } from '@/core/schema/faults';
import { FIGURES } from '@/core/predict/figures';
import { buildWords, type ShelfRow } from '@/core/predict/shelf-row';
import { fitOf } from '@/core/quantity/margin';
import { SmallClimb } from '@/climb/small-climb';
import { FitMark } from '@/ui/fit-mark';
import { Quantity } from '@/ui/quantity';
import { RowMenu, SortableTable, sortableColumns } from '@/ui/sortable-table';
import { useCounting } from '@/ui/use-counting';

type Common = { id: string; name: string; savedAt: string; archived: boolean };
export type SoundRow = Common & ShelfRow & { damaged: false; design: Design };
/** A design whose document cannot be read: it keeps its place, and takes nothing else down. */
type DamagedRow = Common & { damaged: true; faults: Fault[] };
export type ShelvedDesign = SoundRow | DamagedRow;

/** What a column sorts by where the row has it. */
const sortedBy = (of: (row: SoundRow) => number) => (row: ShelvedDesign) => (row.damaged ? -2 : of(row));

const column = sortableColumns<ShelvedDesign>();

const columns = column.columns([
  column.accessor('name', {
    header: 'Design',
    sortFn: 'alphanumeric',
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
          {row.original.damaged ? null : <Build design={row.original.design} />}
        </span>
      </span>
    ),
  }),
  column.accessor(
    sortedBy((row) => row.targetVolts ?? -1),
    {
      id: 'target',
      header: 'Target',
      sortFn: 'basic',
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
    },
  ),
  column.accessor(
    sortedBy((row) => row.reachedVolts ?? -1),
    {
      id: 'reached',
      header: 'Reached',
      sortFn: 'basic',
      cell: ({ row }) => (row.original.damaged ? <Damaged row={row.original} /> : <Reached row={row.original} />),
    },
  ),
  column.accessor(
    sortedBy((row) => row.smallestMargin ?? Infinity),
    {
      id: 'margin',
      header: FIGURES.smallestMargin.label,
      sortFn: 'basic',
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
    },
  ),
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
  margin: FIGURES.smallestMargin.label,
  savedAt: 'Saved',
};

type Actions = Record<'onRename' | 'onDuplicate' | 'onExport', (row: SoundRow) => void> &
  Record<'onArchive' | 'onExportRaw', (row: ShelvedDesign) => void>;

/** The shelf's designs, sortable by every column. */
export function ShelfTable({ rows, ...act }: { rows: ShelvedDesign[] } & Actions) {
  return (
    <SortableTable
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
}

function Build({ design }: { design: Design }) {
  const { counting } = useCounting();
  return <span className="block text-[13px] text-soft">{buildWords(design, counting)}</span>;
}

function Volts({ value, polarity }: { value: number; polarity: ShelfRow['polarity'] }) {
  return <Quantity value={signedVolts(value, polarity)} unit="V" />;
}

function Damaged({ row: { faults } }: { row: DamagedRow }) {
  return (
    <span className="inline-block max-w-72 text-[13px] break-words text-over" title={formatFaults(faults)}>
      cannot be read: {faults[0].path} {faults[0].message}
      {faults.length > 1 ? `, and ${faults.length - 1} more` : ''}
    </span>
  );
}

function Reached({ row }: { row: SoundRow }) {
  if (row.reachedVolts === null) return <span className="text-over">past the closed form</span>;
  return (
    <span className="whitespace-nowrap">
      <ReachGauge row={row} />
      <Volts value={row.reachedVolts} polarity={row.alternating ? 'positive' : row.polarity} />
      {row.alternating ? ' RMS' : ''}
      {row.targetMet === null ? null : (
        <span className={row.targetMet ? 'text-fits' : 'text-over'}>
          {row.targetMet ? ' meets it' : ' falls short'}
        </span>
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
      <rect y="4.500" width={filled} height="3" rx="1.500" fill={row.targetMet ? 'var(--fits)' : 'var(--over)'} />
      <path d={`M${targetAt} 1v10`} stroke="var(--ink)" strokeWidth="1.300" />
    </svg>
  );
}
