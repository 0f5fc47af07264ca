'use client';

import Download from 'lucide-react/icons/download';
import Redo from 'lucide-react/icons/redo-2';
import Undo from 'lucide-react/icons/undo-2';
import Upload from 'lucide-react/icons/upload';
import { useCallback, useEffect, useMemo, useRef, useState, type DragEvent } from 'react';
import { toast } from 'sonner';
import { attempt } from '@/client/attempt';
import { downloadDrawer, planDrawerFile } from '@/client/drawer-file';
import { useDrawer } from '@/client/drawer-store';
import type { DrawerPlan } from '@/core/drawer/drawer-rows';
import { inShort, PART_NAMES } from '@/core/parts/part-fields';
import type { DrawerChange, Part, PartKind } from '@/core/parts/part-schema';
import { stockOf, type Drawer } from '@/core/drawer/parts-used';
import { buttonStyle } from '@/ui/button';
import { useCommands } from '@/ui/commands';
import { TopBar } from '@/ui/top-bar';
import { AddLine } from './add-line';
import { DrawerTable, type StockedPart } from './drawer-table';
import { ImportDialog } from './import-dialog';
import { PartDialog } from './part-dialog';

const KINDS = Object.keys(PART_NAMES) as PartKind[];

/** The parts one owns or can buy: find, add, count, change, bring in and hand out. */
export function DrawerScreen({ drawer: served }: { drawer: Drawer }) {
  const { drawer: standing, change, undo, redo, past, future, show } = useDrawer();
  useEffect(() => show(served), [served, show]);
  const drawer = standing ?? served;
  const [search, setSearch] = useState('');
  const [kind, setKind] = useState<PartKind | 'all'>('all');
  const [editing, setEditing] = useState<Part | null>(null);
  const [importing, setImporting] = useState<{ file: string; plan: DrawerPlan } | null>(null);
  const fileInput = useRef<HTMLInputElement>(null);
  const searchInput = useRef<HTMLInputElement>(null);
  const lineInput = useRef<HTMLInputElement>(null);

  const rows = useMemo<StockedPart[]>(() => {
    const wanted = search.trim().toLowerCase();
    return drawer.parts
      .filter(
        (part) =>
          (kind === 'all' || part.kind === kind) &&
          (wanted === '' || `${part.name} ${part.note} ${inShort(part)}`.toLowerCase().includes(wanted)),
      )
      .map((part) => ({
        part,
        ...stockOf(part, drawer.uses),
        usedBy: drawer.uses.filter((use) => use.partId === part.id),
      }));
  }, [drawer, search, kind]);
  const short = drawer.parts.filter((part) => stockOf(part, drawer.uses).free < 0).length;

  const apply = useCallback(
    (asked: Partial<DrawerChange>, what: string) => attempt(what, () => change(asked, what)),
    [change],
  );
  const goBack = useCallback(
    () =>
      void attempt('Undoing', async () => {
        const what = await undo();
        if (what) toast(`Undone: ${what}.`);
      }),
    [undo],
  );
  const goOn = useCallback(() => void attempt('Redoing', redo), [redo]);

  const look = async (file: File) => {
    const read = await planDrawerFile(file, drawer.parts);
    if (read.ok) setImporting({ file: file.name, plan: read.plan });
    else toast.error(`${file.name}: ${read.reason}`);
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    const file = event.dataTransfer.files[0];
    if (file) void look(file);
  };

  useCommands(
    useMemo(
      () => [
        { name: 'Add a part', keys: 'n', run: () => lineInput.current?.focus() },
        { name: 'Search the drawer', keys: '/', run: () => searchInput.current?.focus() },
        { name: 'Import a CSV file', keys: 'i', run: () => fileInput.current?.click() },
        { name: 'Export as CSV', keys: 'e', run: () => downloadDrawer(useDrawer.getState().drawer?.parts ?? []) },
        { name: 'Undo', keys: 'mod+z', run: goBack },
        { name: 'Redo', keys: 'mod+shift+z,mod+y', run: goOn },
        { name: 'Print', run: () => window.print() },
      ],
      [goBack, goOn],
    ),
  );

  return (
    <div className="flex min-h-full flex-col" onDragOver={(event) => event.preventDefault()} onDrop={drop}>
      <TopBar here="drawer">
        <span className="flex">
          <button
            type="button"
            className={buttonStyle('quiet')}
            disabled={past.length === 0}
            onClick={goBack}
            aria-label="Undo"
          >
            <Undo className="size-4" aria-hidden="true" />
          </button>
          <button
            type="button"
            className={buttonStyle('quiet')}
            disabled={future.length === 0}
            onClick={goOn}
            aria-label="Redo"
          >
            <Redo className="size-4" aria-hidden="true" />
          </button>
        </span>
      </TopBar>
      <main className="mx-auto w-full max-w-6xl flex-1 px-3 py-6 sm:px-6">
        <div className="flex flex-wrap items-center gap-2.5">
          <h1 className="mr-auto text-2xl font-semibold tracking-tight">Drawer</h1>
          <input
            ref={searchInput}
            type="search"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
            placeholder="Search parts and notes"
            aria-label="Search parts and notes"
            className="w-full rounded border border-rule bg-sheet px-3 py-1.5 placeholder:text-soft sm:w-56"
          />
          <select
            value={kind}
            onChange={(event) => setKind(event.target.value as PartKind | 'all')}
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
          <button type="button" className={buttonStyle('plain')} onClick={() => fileInput.current?.click()}>
            <Upload className="size-4" aria-hidden="true" /> Import
          </button>
          <button
            type="button"
            className={buttonStyle('plain')}
            disabled={drawer.parts.length === 0}
            onClick={() => downloadDrawer(drawer.parts)}
          >
            <Download className="size-4" aria-hidden="true" /> Export
          </button>
          <input
            ref={fileInput}
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            aria-label="CSV file"
            className="sr-only"
            tabIndex={-1}
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = '';
              if (file) void look(file);
            }}
          />
        </div>
        <AddLine
          inputRef={lineInput}
          onAdd={(part) => apply({ put: [part] }, `adding ${part.name}`)}
          onMore={setEditing}
        />
        {short > 0 ? (
          <p className="mt-3 border-l-[3px] border-over pl-2.5 text-[13px]">
            {short === 1 ? 'One part is' : `${short} parts are`} short: designs on the shelf take more than there are.
          </p>
        ) : null}
        {rows.length > 0 ? (
          <DrawerTable
            rows={rows}
            onChange={(part, what) => void apply({ put: [part] }, what)}
            onEdit={setEditing}
            onDuplicate={(part) =>
              void apply(
                { put: [{ ...part, id: crypto.randomUUID(), name: `${part.name.slice(0, 70)}, copy` }] },
                `copying ${part.name}`,
              )
            }
            onRemove={(part) =>
              void apply({ remove: [part.id] }, `taking out ${part.name}`).then((done) => {
                if (done) toast(`“${part.name}” is out of the drawer.`, { action: { label: 'Undo', onClick: goBack } });
              })
            }
          />
        ) : (
          <p className="mt-16 text-center text-soft">
            {drawer.parts.length === 0
              ? 'The drawer is empty. Type a part above, or bring in a CSV file: drop it anywhere here.'
              : 'No part here matches. Try fewer letters or another kind.'}
          </p>
        )}
      </main>
      {editing ? (
        <PartDialog
          key={editing.id}
          part={editing}
          isNew={!drawer.parts.some(({ id }) => id === editing.id)}
          onClose={() => setEditing(null)}
          onSave={(part) => {
            setEditing(null);
            void apply({ put: [part] }, `changing ${part.name}`);
          }}
        />
      ) : null}
      {importing ? (
        <ImportDialog
          file={importing.file}
          plan={importing.plan}
          onClose={() => setImporting(null)}
          onImport={(parts) => {
            setImporting(null);
            void apply({ put: parts }, `importing ${importing.file}`).then((done) => {
              if (done)
                toast(`${parts.length} ${parts.length === 1 ? 'part' : 'parts'} taken in.`, {
                  action: { label: 'Undo', onClick: goBack },
                });
            });
          }}
        />
      ) : null}
    </div>
  );
}
