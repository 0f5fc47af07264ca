import Download from 'lucide-react/icons/download';
import type { RefObject } from 'react';
import { PART_NAMES } from '@/core/parts/part-fields';
import type { PartKind } from '@/core/parts/part-schema';
import { buttonStyle } from '@/ui/button';
import { ImportButton } from '@/ui/import-button';

const KINDS = Object.keys(PART_NAMES) as PartKind[];

/** Which parts are shown. */
export type DrawerFilter = { search: string; kind: PartKind | 'all' };

/** The head of the drawer: find, bring in, hand out. */
export function DrawerBar({
  filter,
  onFilter,
  searchInput,
  fileInput,
  onFile,
  onExport,
}: {
  filter: DrawerFilter;
  onFilter: (filter: DrawerFilter) => void;
  searchInput: RefObject<HTMLInputElement | null>;
  fileInput: RefObject<HTMLInputElement | null>;
  onFile: (file: File) => void;
  /** Null where there is nothing to hand out. */
  onExport: (() => void) | null;
}) {
  return (
    <div className="flex flex-wrap items-center gap-2.5">
      <h1 className="mr-auto text-2xl font-semibold tracking-tight">Drawer</h1>
      <input
        ref={searchInput}
        type="search"
        value={filter.search}
        onChange={(event) => onFilter({ ...filter, search: event.target.value })}
        placeholder="Search parts and notes"
        aria-label="Search parts and notes"
        className="w-full rounded border border-rule bg-sheet px-3 py-1.5 placeholder:text-soft sm:w-56"
      />
      <select
        value={filter.kind}
        onChange={(event) => onFilter({ ...filter, kind: event.target.value as PartKind | 'all' })}
        aria-label="Kind"
        className="rounded border border-rule bg-sheet px-2 py-1.5"
      >
        <option value="all">All kinds</option>
        {KINDS.map((value) => (
          <option key={value} value={value}>
            {PART_NAMES[value]}
          </option>
        ))}
      </select>
      <ImportButton label="CSV file" accept=".csv,.txt,text/csv,text/plain" inputRef={fileInput} onFile={onFile} />
      <button
        type="button"
        className={buttonStyle('plain')}
        disabled={onExport === null}
        onClick={onExport ?? undefined}
      >
        <Download className="size-4" aria-hidden="true" /> Export
      </button>
    </div>
  );
}
