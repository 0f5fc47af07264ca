import Download from 'lucide-react/icons/download';
import type { RefObject } from 'react';
import { PART_NAMES } from '@/core/parts/part-fields';
import type { PartKind } from '@/core/parts/part-schema';
import { buttonStyle } from '@/ui/button';
import { ImportButton } from '@/ui/import-button';
import { Pick } from '@/ui/pick';
import { useListening } from '@/ui/use-listening';

/** Which parts are shown. */
export type DrawerFilter = { search: string; kind: PartKind | 'all' };

const KINDS: readonly { value: DrawerFilter['kind']; name: string }[] = [
  { value: 'all', name: 'All kinds' },
  ...(Object.keys(PART_NAMES) as PartKind[]).map((value) => ({ value, name: PART_NAMES[value] })),
];

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
  const listening = useListening();
  return (
    <div className="flex flex-wrap items-center gap-2.5">
      <h1 className="mr-auto text-2xl font-semibold tracking-tight">Drawer</h1>
      <input
        ref={searchInput}
        type="search"
        value={filter.search}
        onChange={(event) => onFilter({ ...filter, search: event.target.value })}
        readOnly={!listening}
        placeholder="Search parts and notes"
        aria-label="Search parts and notes"
        className="field h-[34px] w-full px-3 placeholder:text-soft sm:w-56"
      />
      <Pick
        label="Kind"
        value={filter.kind}
        options={KINDS}
        onValue={(kind) => onFilter({ ...filter, kind })}
        className="h-[34px]"
      />
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
