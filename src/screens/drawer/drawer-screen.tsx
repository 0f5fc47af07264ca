'use client';

import deepEqual from 'fast-deep-equal';
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState, type DragEvent } from 'react';
import { toast } from 'sonner';
import { attempt } from '@/client/attempt';
import { downloadDrawer, planDrawerFile } from '@/client/drawer-file';
import { useDrawer, useStandingDrawer } from '@/client/drawer-store';
import type { DrawerPlan } from '@/core/drawer/drawer-rows';
import { stocksOf } from '@/core/drawer/parts-used';
import { inShort } from '@/core/parts/part-fields';
import type { Part } from '@/core/parts/part-schema';
import { formatCount } from '@/core/quantity/format-quantity';
import { useCommands } from '@/ui/commands';
import { TopBar } from '@/ui/top-bar';
import { UndoButtons } from '@/ui/undo-buttons';
import { slicer } from '@/worker/in-slices';
import { AddLine } from './add-line';
import { DamagedParts } from './damaged-parts';
import { DrawerBar, type DrawerFilter } from './drawer-bar';
import { DrawerTable, type StockedPart } from './drawer-table';
import { ImportDialog } from './import-dialog';
import { ReadingDialog, type FileBeingRead } from './reading-dialog';
import { PartDialog } from './part-dialog';
import { UnsavedChanges } from './unsaved-changes';
import { useFollowing } from './use-following';
import { useDrawerEditing } from './use-drawer-editing';

/** A shorter file is read before anybody could look how far it is. */
const LONG_FILE_ROWS = 300;

const stockedParts = new WeakMap<Part, StockedPart>();
/** The same object for a part of which there is as much left as before, so that its row is not drawn anew. */
function stockedAs(part: Part, stock: Omit<StockedPart, 'part'>): StockedPart {
  const [before, now] = [stockedParts.get(part), { part, ...stock }];
  if (before && deepEqual(before, now)) return before;
  stockedParts.set(part, now);
  return now;
}

/** Where a search looks in a part; made once for each. */
const sought = new WeakMap<Part, string>();
function soughtIn(part: Part): string {
  const known = sought.get(part) ?? `${part.name} ${part.note} ${inShort(part)}`.toLowerCase();
  sought.set(part, known);
  return known;
}

/** Makes what searches look in before the first one, which would have to wait for it. */
function* makingSought(parts: readonly Part[]): Generator<null> {
  for (const part of parts) {
    soughtIn(part);
    yield null;
  }
}

/** Rows that a filter lets through. */
function filtered(rows: readonly StockedPart[], { search, kind }: DrawerFilter): StockedPart[] {
  const wanted = search.trim().toLowerCase();
  return rows.filter(
    ({ part }) => (kind === 'all' || part.kind === kind) && (wanted === '' || soughtIn(part).includes(wanted)),
  );
}

/** The parts one owns or can buy: find, add, count, change, bring in and hand out. */
export function DrawerScreen({ opening }: { /** As JSON. */ opening: string }) {
  const { past, future, whole } = useDrawer();
  const { drawer, toCome } = useStandingDrawer(opening);
  useFollowing();
  const { put, copy, takeOut, takeOutUnread, takeIn, goBack, goOn } = useDrawerEditing();
  const [filter, setFilter] = useState<DrawerFilter>({ search: '', kind: 'all' });
  const [editing, setEditing] = useState<Part | null>(null);
  const [importing, setImporting] = useState<{ file: string; plan: DrawerPlan } | null>(null);
  const [reading, setReading] = useState<FileBeingRead | null>(null);
  const fileInput = useRef<HTMLInputElement>(null);
  const searchInput = useRef<HTMLInputElement>(null);
  const lineInput = useRef<HTMLInputElement>(null);
  const stocked = useMemo(() => {
    const stocks = stocksOf(drawer.parts, drawer.uses);
    return drawer.parts.map((part) => stockedAs(part, stocks.get(part.id)!));
  }, [drawer]);
  useEffect(() => {
    const slices = slicer(['sought']);
    void slices.run('sought', makingSought(drawer.parts), () => {});
    return () => slices.cancel('sought');
  }, [drawer.parts]);
  // The field follows the keystroke at once, the table a moment later.
  const laterFilter = useDeferredValue(filter);
  const rows = useMemo(() => filtered(stocked, laterFilter), [stocked, laterFilter]);

  const readFile = (file: File) =>
    attempt(`Reading ${file.name}`, async () => {
      const { parts } = await whole();
      const { read, cancel } = planDrawerFile(file, parts, (done, of) =>
        setReading((now) => now && { ...now, done, of }),
      );
      setReading({ file: file.name, done: 0, of: 0, cancel });
      const found = await read.finally(() => setReading(null));
      if (found?.ok) setImporting({ file: file.name, plan: found.plan });
      else if (found) toast.error(`${file.name}: ${found.reason}`);
    });
  const exportAll = useCallback(
    () => void attempt('Exporting', async () => downloadDrawer((await whole()).parts)),
    [whole],
  );
  const drop = (event: DragEvent) => {
    event.preventDefault();
    const file = event.dataTransfer.files[0];
    if (file) void readFile(file);
  };

  useCommands(
    useMemo(
      () => [
        { name: 'Add a part', keys: 'n', run: () => lineInput.current?.focus() },
        { name: 'Search the drawer', keys: '/', run: () => searchInput.current?.focus() },
        { name: 'Import a CSV file', keys: 'i', run: () => fileInput.current?.click() },
        { name: 'Export as CSV', keys: 'e', run: exportAll },
        { name: 'Undo', keys: 'mod+z', run: goBack },
        { name: 'Redo', keys: 'mod+shift+z,mod+y', run: goOn },
        { name: 'Print', run: () => window.print() },
      ],
      [exportAll, goBack, goOn],
    ),
  );

  return (
    <div className="flex min-h-full flex-col" onDragOver={(event) => event.preventDefault()} onDrop={drop}>
      <TopBar here="drawer">
        <UndoButtons canUndo={past.length > 0} canRedo={future.length > 0} onUndo={goBack} onRedo={goOn} />
      </TopBar>
      <UnsavedChanges />
      <main className="mx-auto w-full max-w-6xl flex-1 px-3 py-6 sm:px-6">
        <DrawerBar
          filter={filter}
          onFilter={setFilter}
          searchInput={searchInput}
          fileInput={fileInput}
          onFile={(file) => void readFile(file)}
          onExport={drawer.parts.length > 0 ? exportAll : null}
        />
        <AddLine inputRef={lineInput} onAdd={(part) => put(part, `adding ${part.name}`)} onMore={setEditing} />
        {toCome > 0 ? (
          <p role="status" className="mt-3 text-[13px] text-soft">
            Reading {formatCount(toCome)} more parts…
          </p>
        ) : (
          <Shortages stocked={stocked} unreadDesigns={drawer.unreadDesigns} />
        )}
        <DamagedParts damaged={drawer.damaged} onRemove={takeOutUnread} />
        {rows.length > 0 ? (
          <DrawerTable rows={rows} onChange={put} onEdit={setEditing} onDuplicate={copy} onRemove={takeOut} />
        ) : (
          <p className="mt-16 text-center text-soft">
            {drawer.parts.length === 0
              ? 'The drawer is empty. Type a part above, or bring in a CSV file: drop it anywhere here.'
              : toCome > 0
                ? 'None of the parts read so far matches.'
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
            void put(part, `changing ${part.name}`);
          }}
        />
      ) : null}
      {reading && reading.of > LONG_FILE_ROWS ? <ReadingDialog {...reading} /> : null}
      {importing ? (
        <ImportDialog
          file={importing.file}
          plan={importing.plan}
          onClose={() => setImporting(null)}
          onImport={(parts) => {
            setImporting(null);
            void takeIn(parts, importing.file);
          }}
        />
      ) : null}
    </div>
  );
}

/** Parts of which there are fewer than designs take, and designs whose parts are not counted. */
function Shortages({ stocked, unreadDesigns }: { stocked: readonly StockedPart[]; unreadDesigns: number }) {
  const short = stocked.filter(({ free }) => free < 0).length;
  return (
    <>
      {short > 0 ? (
        <p className="mt-3 border-l-[3px] border-over pl-2.5 text-[13px]">
          {short === 1 ? 'One part is' : `${short} parts are`} short: designs on the shelf take more than there are.
        </p>
      ) : null}
      {unreadDesigns > 0 ? (
        <p className="mt-3 border-l-[3px] border-close pl-2.5 text-[13px]">
          {unreadDesigns === 1 ? 'One design' : `${unreadDesigns} designs`} on the shelf cannot be read: parts that{' '}
          {unreadDesigns === 1 ? 'it takes' : 'they take'} are not counted here.
        </p>
      ) : null}
    </>
  );
}
