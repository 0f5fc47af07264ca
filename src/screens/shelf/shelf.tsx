'use client';

import Plus from 'lucide-react/icons/plus';
import Link from 'next/link';
import { useMemo, useRef, useState, type DragEvent } from 'react';
import { rawDocumentHref } from '@/client/designs-api';
import { downloadDesign } from '@/client/design-file';
import { copyOf } from '@/core/design/copy-of';
import { newDesign } from '@/core/design/new-design';
import { readDesignText } from '@/core/design/read-design';
import type { Fault } from '@/core/schema/faults';
import { buttonStyle } from '@/ui/button';
import { useCommands } from '@/ui/commands';
import { ImportButton } from '@/ui/import-button';
import { QuantityField } from '@/ui/quantity-field';
import { TopBar } from '@/ui/top-bar';
import { BadFile, NameDialog } from './dialogs';
import { KeptUnsaved } from './kept-unsaved';
import { useShelfChanges } from './use-shelf-changes';
import { ShelfTable, type ShelvedDesign, type SoundRow } from './shelf-table';
import { buildWords } from '@/core/predict/shelf-row';
import { countingCommand, useCounting } from '@/ui/use-counting';
import { useListening } from '@/ui/use-listening';

type Asking = { kind: 'new' } | { kind: 'rename'; row: SoundRow } | { kind: 'bad-file'; file: string; faults: Fault[] };

/** Targets looked for, V; null is no limit. */
type Range = { from: number | null; to: number | null };
const ANY_TARGET: Range = { from: null, to: null };

/** Whether a target lies within a range; without a target only within no limits. */
const isWithin = (volts: number | null, { from, to }: Range) =>
  (from === null && to === null) || (volts !== null && volts >= (from ?? 0) && volts <= (to ?? Infinity));

/** All designs: find, open, start, copy, rename, put away, bring back, import and export. */
export function Shelf({ designs }: { designs: ShelvedDesign[] }) {
  const [search, setSearch] = useState('');
  const [archived, setShowArchived] = useState(false);
  const [asking, setAsking] = useState<Asking | null>(null);
  const [range, setRange] = useState<Range>(ANY_TARGET);
  const fileInput = useRef<HTMLInputElement>(null);
  const searchInput = useRef<HTMLInputElement>(null);

  const { counting, setCounting } = useCounting();
  const shown = useMemo(() => {
    const wanted = search.trim().toLowerCase();
    return designs.filter(
      (row) =>
        row.archived === archived &&
        (wanted === '' ||
          `${row.name} ${row.damaged ? '' : `${buildWords(row.design, counting)} ${row.design.notes}`}`
            .toLowerCase()
            .includes(wanted)) &&
        isWithin(row.damaged ? null : row.targetVolts, range),
    );
  }, [designs, search, archived, range, counting]);
  const archivedCount = designs.filter((row) => row.archived).length;

  const { create, archive, rename } = useShelfChanges();

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
        { name: 'Show or hide the archive', keys: 'a', run: () => setShowArchived((now) => !now) },
        countingCommand(counting, setCounting),
      ],
      [counting, setCounting],
    ),
  );

  const listening = useListening();
  return (
    <div className="flex min-h-full flex-col" onDragOver={(event) => event.preventDefault()} onDrop={drop}>
      <TopBar here="shelf" />
      <main className="mx-auto w-full max-w-6xl flex-1 px-3 py-6 sm:px-6">
        <div className="flex flex-wrap items-center gap-2.5">
          <h1 className="mr-auto text-2xl font-semibold tracking-tight">{archived ? 'Archive' : 'Shelf'}</h1>
          <input
            ref={searchInput}
            type="search"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
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

        <KeptUnsaved designs={designs} />
        {designs.length > 1 ? <TargetRange range={range} onRange={setRange} /> : null}

        {shown.length > 0 ? (
          <ShelfTable
            rows={shown}
            onRename={(row) => setAsking({ kind: 'rename', row })}
            onDuplicate={(row) => void create(copyOf(row.design))}
            onArchive={(row) => void archive(row, !row.archived)}
            onExport={(row) => downloadDesign(row.design)}
            onExportRaw={(row) => window.location.assign(rawDocumentHref(row.id))}
          />
        ) : (
          <EmptyShelf
            search={search}
            ranged={range.from !== null || range.to !== null}
            onAnyTarget={() => setRange(ANY_TARGET)}
            archived={archived}
            onNew={() => setAsking({ kind: 'new' })}
          />
        )}

        <p className="mt-4 text-[13px] text-soft">
          New to ladders?{' '}
          <Link href="/look" className="text-copper underline">
            A look at a tripler
          </Link>{' '}
          asks six questions and plays the answers.
        </p>

        {archived || archivedCount > 0 ? (
          <button type="button" className={`${buttonStyle('quiet')} mt-4`} onClick={() => setShowArchived(!archived)}>
            {archived ? 'Back to the shelf' : `Archive (${archivedCount})`}
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
function TargetRange({ range, onRange }: { range: Range; onRange: (range: Range) => void }) {
  const limit = (name: keyof Range) => (value: number | null) => {
    if (value === 0) return 'A voltage above zero.';
    // Magnitudes: a sign tells only the polarity.
    onRange({ ...range, [name]: value === null ? null : Math.abs(value) });
    return null;
  };
  return (
    <div className="mt-3 flex flex-wrap items-baseline gap-x-4 text-[13px]" role="group" aria-label="Targets shown">
      <QuantityField
        label="Target from"
        unit="V"
        optional
        placeholder="any"
        value={range.from}
        onValue={limit('from')}
      />
      <QuantityField label="to" unit="V" optional placeholder="any" value={range.to} onValue={limit('to')} />
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
