'use client';

import { useRouter } from 'next/navigation';
import { useStore } from 'zustand';
import { createDesign } from '@/client/designs-api';
import { copyOf } from '@/core/design/copy-of';
import { buttonStyle } from '@/ui/button';
import { Panel } from '@/ui/dialog';
import { toast } from 'sonner';
import { DifferencesTable } from './differences-table';
import type { EditorStore } from './editor-store';

/** Another tab saved first: shows what differs and lets the user keep either, or both. */
export function ConflictDialog({ store, saveNow }: { store: EditorStore; saveNow: () => Promise<void> }) {
  const save = useStore(store, (state) => state.save);
  const design = useStore(store, (state) => state.design);
  const router = useRouter();
  if (save.kind !== 'conflict') return null;
  const { theirs } = save;

  const keepMine = () => {
    store.setState({ revision: theirs.revision, savedDesign: theirs.design, save: { kind: 'pending' } });
    void saveNow();
  };
  const keepTheirs = () => store.getState().adopt(theirs);
  const keepBoth = async () => {
    try {
      const copy = await createDesign(copyOf(design, 'from this tab'));
      store.getState().adopt(theirs);
      router.push(`/designs/${copy.id}`);
    } catch {
      toast.error('The copy could not be made: the server cannot be reached. Nothing is lost; try again.');
    }
  };

  return (
    <Panel
      open
      size="wide"
      // Closing without a choice would leave edits that can never be saved.
      onClose={() => undefined}
      title="Changed in another tab"
      description={`Revision ${theirs.revision} was saved elsewhere while you were editing here. Your edits are not lost: choose what to keep. Both stay in the history.`}
    >
      <DifferencesTable one={design} other={theirs.design} headings={['Here', 'There']} />
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <button type="button" className={buttonStyle('plain')} onClick={() => void keepBoth()}>
          Keep both, mine as a copy
        </button>
        <button type="button" className={buttonStyle('plain')} onClick={keepTheirs}>
          Keep theirs
        </button>
        <button type="button" className={buttonStyle('solid')} onClick={keepMine}>
          Keep mine
        </button>
      </div>
    </Panel>
  );
}
