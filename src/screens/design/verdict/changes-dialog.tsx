'use client';

import { FIGURES } from '@/core/predict/figures';
import type { RankedChange } from '@/core/choose/rank-changes';
import { fitOf } from '@/core/quantity/margin';
import { Panel } from '@/ui/dialog';
import { FitMark } from '@/ui/fit-mark';
import { Quantity } from '@/ui/quantity';
import type { RankedChanges } from '../use-ranked-changes';
import { SortableTable, sortableColumns } from '@/ui/sortable-table';

const column = sortableColumns<RankedChange>();

/** A change with its sign in front. */
function Signed({ value, unit }: { value: number | null; unit: 'V' | 'J' }) {
  if (value === null) return <span className="text-soft">no figure</span>;
  return <Quantity value={value} unit={unit} plus />;
}

const columns = column.columns([
  column.accessor('label', {
    sortFn: 'alphanumeric',
    cell: ({ row: { original } }) => (
      <>
        <span className="font-medium">{original.label}</span>
        {original.newStop ? <span className="block text-[13px] text-over">Stop: {original.newStop}</span> : null}
      </>
    ),
  }),
  column.accessor((row) => row.gainVolts ?? -Infinity, {
    id: 'gain',
    sortFn: 'basic',
    cell: ({ row }) => <Signed value={row.original.gainVolts} unit="V" />,
  }),
  column.accessor((row) => row.rippleChangeVolts ?? Infinity, {
    id: 'ripple',
    sortFn: 'basic',
    cell: ({ row }) => <Signed value={row.original.rippleChangeVolts} unit="V" />,
  }),
  column.accessor('energyChangeJoules', {
    id: 'energy',
    sortFn: 'basic',
    cell: ({ row }) => <Signed value={row.original.energyChangeJoules} unit="J" />,
  }),
  column.accessor((row) => row.smallestMargin ?? Infinity, {
    id: 'margin',
    sortFn: 'basic',
    cell: ({ row: { original } }) => (
      <span className="inline-flex items-baseline gap-1.5">
        <FitMark fit={fitOf(original.smallestMargin)} />
        {original.smallestMargin === null ? (
          <span className="text-soft">unrated</span>
        ) : (
          <Quantity value={original.smallestMargin} unit="%" digits={2} />
        )}
      </span>
    ),
  }),
]);

const HEADINGS = {
  label: 'Change',
  gain: FIGURES.outputMeanVolts.label,
  ripple: FIGURES.rippleVolts.label,
  energy: FIGURES.storedJoules.label,
  margin: 'Smallest margin after',
};

/** Single changes ranked by what they do, each applied with one click. */
export function ChangesDialog({
  ranked: { changes, current, failed },
  onApply,
  onClose,
}: {
  ranked: RankedChanges;
  onApply: (path: string, value: unknown) => void;
  onClose: () => void;
}) {
  return (
    <Panel
      open
      onClose={onClose}
      size="bench"
      title="What each single change would do"
      description="By the closed form, everything else as it is. This stays open to try several; undo takes each back."
    >
      {failed ? (
        <p role="alert" className="text-over">
          They could not be calculated. Close this and try again.
        </p>
      ) : changes === null ? (
        <p role="status" className="text-soft">
          Calculating…
        </p>
      ) : (
        <div className={current ? '' : 'opacity-60'}>
          <SortableTable
            rows={changes}
            columns={columns}
            headings={HEADINGS}
            rowId={({ label }) => label}
            lead="label"
            leadWidth="md:max-w-[20rem]"
            cellPadding="md:py-1.5"
            menu={({ label, path, value }) => (
              <button
                type="button"
                className="font-medium text-copper hover:underline"
                aria-label={`Apply: ${label}`}
                onClick={() => onApply(path, value)}
              >
                Apply
              </button>
            )}
          />
        </div>
      )}
    </Panel>
  );
}
