'use client';

import deepEqual from 'fast-deep-equal';
import Plus from 'lucide-react/icons/plus';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { startTransition, useCallback, useEffect, useMemo, useRef, useState, type DragEvent } from 'react';
import { rawDocumentHref } from '@/client/designs-api';
import { newDesign } from '@/core/design/new-design';
import { readDesignText } from '@/core/design/read-design';
import { SHELF_PAGE, shelfAddress, type ShelfPage, type ShelfQuery, type SoundRow } from '@/core/predict/shelf-query';
import type { Fault } from '@/core/schema/faults';
import { buttonStyle } from '@/ui/button';
import { useCommands } from '@/ui/commands';
import { ImportButton } from '@/ui/import-button';
import { QuantityField } from '@/ui/quantity-field';
import { TopBar } from '@/ui/top-bar';
import { BadFile, NameDialog } from './dialogs';
import { KeptUnsaved } from './kept-unsaved';
import { useShelfChanges } from './use-shelf-changes';
import { ShelfTable, type ShelfActions } from './shelf-table';
import { countingCommand, useCounting } from '@/ui/use-counting';
import { useListening } from '@/ui/use-listening';

type Asking = { kind: 'new' } | { kind: 'rename'; row: SoundRow } | { kind: 'bad-file'; file: string; faults: Fault[] };

/** What is asked for, but for its order and length: a table of other designs is begun anew, its first rows at once. */
const askedOf = ({ search, from, to, archived }: ShelfQuery) => JSON.stringify([search, from, to, archived]);

/** After the last keystroke, ms. */
const TYPED_MILLISECONDS = 120;

/** What is asked of the shelf stands in its address, and is sought where the designs are. */
function useQuery(query: ShelfQuery) {
  const router = useRouter();
  const latest = useRef(query);
  useEffect(() => {
    latest.current = query;
  }, [query]);
  return useCallback(
    (change: Partial<ShelfQuery>) => {
      // More of what was shown before is not what is wanted of something else.
      latest.current = { ...latest.current, shown: SHELF_PAGE, ...change };
      startTransition(() => router.replace(shelfAddress(latest.current), { scroll: false }));
    },
    [router],
  );
}

/** All designs: find, open, start, copy, rename, put away, bring back, import and export. */
export function Shelf({
  query,
  page: text,
}: {
  query: ShelfQuery;
  /** As JSON: a tree of many values is served far slower than a text. */
  page: string;
}) {
  const page = useMemo(() => JSON.parse(text) as ShelfPage, [text]);
  /** What is typed is shown at once, and asked for a moment later. */
  const [typed, setTyped] = useState({ search: query.search, from: query.from, to: query.to });
  const type = (change: Partial<typeof typed>) => setTyped((now) => ({ ...now, ...change }));
  const [asking, setAsking] = useState<Asking | null>(null);
  const dropAsking = useRef(() => {});
  const fileInput = useRef<HTMLInputElement>(null);
  const searchInput = useRef<HTMLInputElement>(null);
  const ask = useQuery(query);
  const archived = query.archived === 'yes';
  const showArchive = useCallback((shown: boolean) => ask({ archived: shown ? 'yes' : undefined }), [ask]);
  useEffect(() => {
    const { search, from, to } = query;
    if (deepEqual(typed, { search, from, to })) return;
    const timer = setTimeout(() => ask(typed), TYPED_MILLISECONDS);
    // Whoever has gone on to a design meanwhile is not to be fetched back.
    dropAsking.current = () => clearTimeout(timer);
    return dropAsking.current;
  }, [typed, query, ask]);

  const { counting, setCounting } = useCounting();
  const router = useRouter();
  const changes = useShelfChanges();
  const { create, rename } = changes;
  const actions = useMemo(
    (): ShelfActions => ({
      onSort: (sort, order) => ask({ sort, order }),
      onRename: (row) => setAsking({ kind: 'rename', row }),
      onDuplicate: (row) => void changes.duplicate(row),
      onArchive: (row) => void changes.archive(row, !row.archived),
      onExport: (row) => void changes.handOver(row),
      onExportRaw: (row) => window.location.assign(rawDocumentHref(row.id)),
    }),
    [ask, changes],
  );

  const importFile = async (file: File) => {
    const reading = readDesignText(await file.text());
    if (reading.ok) await create(reading.design);
    else setAsking({ kind: 'bad-file', file: file.name, faults: reading.faults });
  };

  const drop = (event: DragEvent) => {
    event.preventDefault();
    const file = event.dataTransfer.files[0];
    if (file) void importFile(file);
  };

  useCommands(
    useMemo(
      () => [
        { name: 'New design', keys: 'n', run: () => setAsking({ kind: 'new' }) },
        { name: 'Import a design file', keys: 'i', run: () => fileInput.current?.click() },
        { name: 'Search the shelf', keys: '/', run: () => searchInput.current?.focus() },
        { name: 'Whole workshop, out and in', run: () => router.push('/workshop') },
        { name: 'Show or hide the archive', keys: 'a', run: () => showArchive(!archived) },
        countingCommand(counting, setCounting),
      ],
      [counting, setCounting, archived, showArchive, router],
    ),
  );

  const listening = useListening();
  return (
    <div
      className="flex min-h-full flex-col"
      onClickCapture={(event) => {
        const opensHere = !event.ctrlKey && !event.metaKey && !event.shiftKey;
        if (opensHere && (event.target as Element).closest('a')) dropAsking.current();
      }}
      onDragOver={(event) => event.preventDefault()}
      onDrop={drop}
    >
      <TopBar here="shelf" />
      <main className="mx-auto w-full max-w-6xl flex-1 px-3 py-6 sm:px-6">
        <div className="flex flex-wrap items-center gap-2.5">
          <h1 className="mr-auto text-2xl font-semibold tracking-tight">{archived ? 'Archive' : 'Shelf'}</h1>
          <input
            ref={searchInput}
            type="search"
            value={typed.search}
            onChange={(event) => type({ search: event.target.value })}
            readOnly={!listening}
            placeholder="Search names and notes"
            aria-label="Search names and notes"
            className="field h-[34px] w-full px-3 placeholder:text-soft sm:w-60"
          />
          <ImportButton
            label="Design file"
            accept=".json,application/json"
            inputRef={fileInput}
            onFile={(file) => void importFile(file)}
          />
          <button type="button" className={buttonStyle('solid')} onClick={() => setAsking({ kind: 'new' })}>
            <Plus className="size-4" aria-hidden="true" /> New design
          </button>
        </div>

        <KeptUnsaved />
        {page.standing + page.archived > 1 ? <TargetRange range={typed} onRange={type} /> : null}

        {page.rows.length > 0 ? (
          <ShelfTable key={askedOf(query)} rows={page.rows} query={query} {...actions} />
        ) : (
          <EmptyShelf
            search={query.search}
            ranged={query.from !== undefined || query.to !== undefined}
            onAnyTarget={() => type({ from: undefined, to: undefined })}
            archived={archived}
            onNew={() => setAsking({ kind: 'new' })}
          />
        )}

        {page.found > page.rows.length ? (
          <p className="mt-3 text-[13px] text-soft">
            {page.rows.length} of {page.found} designs.{' '}
            <button
              type="button"
              className="text-copper underline"
              onClick={() => ask({ shown: query.shown + SHELF_PAGE })}
            >
              Show {Math.min(SHELF_PAGE, page.found - page.rows.length)} more
            </button>
          </p>
        ) : null}

        <p className="mt-4 text-[13px] text-soft">
          New to ladders?{' '}
          <Link href="/look" className="text-copper underline">
            A look at a tripler
          </Link>{' '}
          asks six questions and plays the answers;{' '}
          <Link href="/train" className="text-copper underline">
            Find the fault
          </Link>{' '}
          hides one in a ladder. Everything here leaves and comes back as one file:{' '}
          <Link href="/workshop" className="text-copper underline">
            Whole workshop
          </Link>
          .
        </p>

        {archived || page.archived > 0 ? (
          <button type="button" className={`${buttonStyle('quiet')} mt-4`} onClick={() => showArchive(!archived)}>
            {archived ? 'Back to the shelf' : `Archive (${page.archived})`}
          </button>
        ) : null}
      </main>

      <Asked
        asking={asking}
        onClose={() => setAsking(null)}
        onCreate={(name) => void create(newDesign(name))}
        onRename={(row, name) => void rename(row, name)}
      />
    </div>
  );
}

/** What the shelf asks or tells in a dialog. */
function Asked({
  asking,
  onClose,
  onCreate,
  onRename,
}: {
  asking: Asking | null;
  onClose: () => void;
  onCreate: (name: string) => void;
  onRename: (row: SoundRow, name: string) => void;
}) {
  const renamed = asking?.kind === 'rename' ? asking.row : null;
  const bad = asking?.kind === 'bad-file' ? asking : null;
  return (
    <>
      <NameDialog
        key={renamed?.id ?? 'new'}
        open={asking?.kind === 'new' || renamed !== null}
        title={renamed ? 'Rename' : 'New design'}
        verb={renamed ? 'Rename' : 'Create'}
        initial={renamed?.name ?? ''}
        onClose={onClose}
        onName={(name) => {
          onClose();
          if (renamed) onRename(renamed, name);
          else onCreate(name);
        }}
      />
      <BadFile file={bad?.file ?? ''} faults={bad?.faults ?? []} open={bad !== null} onClose={onClose} />
    </>
  );
}

/** Only designs whose target lies in a range. */
function TargetRange({
  range,
  onRange,
}: {
  range: Pick<ShelfQuery, 'from' | 'to'>;
  onRange: (range: Pick<ShelfQuery, 'from' | 'to'>) => void;
}) {
  const limit = (name: 'from' | 'to') => (value: number | null) => {
    if (value === 0) return 'A voltage above zero.';
    // Magnitudes: a sign tells only the polarity.
    onRange({ [name]: value === null ? undefined : Math.abs(value) });
    return null;
  };
  return (
    <div className="mt-3 flex flex-wrap items-baseline gap-x-4 text-[13px]" role="group" aria-label="Targets shown">
      <QuantityField
        label="Target from"
        unit="V"
        optional
        placeholder="any"
        value={range.from ?? null}
        onValue={limit('from')}
      />
      <QuantityField label="to" unit="V" optional placeholder="any" value={range.to ?? null} onValue={limit('to')} />
    </div>
  );
}

function EmptyShelf({
  search,
  ranged,
  onAnyTarget,
  archived,
  onNew,
}: {
  search: string;
  /** Whether only some targets are shown. */
  ranged: boolean;
  onAnyTarget: () => void;
  archived: boolean;
  onNew: () => void;
}) {
  if (ranged)
    return (
      <p className="mt-16 text-center text-soft">
        No design here has a target in that range{search.trim() === '' ? '' : ' and that name'}.{' '}
        <button type="button" className="text-copper underline" onClick={onAnyTarget}>
          Show any target
        </button>
      </p>
    );
  if (search.trim() !== '')
    return (
      <p className="mt-16 text-center text-soft">
        Nothing here is called “{search.trim()}”. Try fewer letters{archived ? '' : ', or look in the archive'}.
      </p>
    );
  if (archived) return <p className="mt-16 text-center text-soft">The archive is empty.</p>;
  return (
    <div className="mx-auto mt-16 max-w-md text-center">
      <h2 className="text-lg font-semibold">The shelf is empty</h2>
      <p className="mt-1 mb-4 text-soft">
        Start from the voltage and frequency at the foot of your ladder, or bring in a *.ladder.json file: drop it
        anywhere here.
      </p>
      <button type="button" className={buttonStyle('solid')} onClick={onNew}>
        Start a design
      </button>
    </div>
  );
}
