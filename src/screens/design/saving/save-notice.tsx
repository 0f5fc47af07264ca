'use client';

import { format } from 'date-fns';
import { useStore } from 'zustand';
import { SaveTrouble } from '@/ui/save-trouble';
import type { EditorStore } from './editor-store';

/** The state of autosave in a few words. */
export function SaveNotice({ store }: { store: EditorStore }) {
  const save = useStore(store, (state) => state.save);
  const revision = useStore(store, (state) => state.revision);
  const savedAt = useStore(store, (state) => state.savedAt);
  switch (save.kind) {
    case 'saved':
      return (
        <span
          role="status"
          className="truncate text-[13px] text-soft"
          title={format(new Date(savedAt), 'd MMM yyyy, HH:mm')}
          suppressHydrationWarning
        >
          <span className="sm:hidden">Saved</span>
          <span className="hidden sm:inline">Revision {revision}, saved</span>
        </span>
      );
    case 'pending':
    case 'saving':
      return (
        <span role="status" className="text-[13px] text-soft">
          Saving…
        </span>
      );
    case 'failed':
      return (
        <span role="status" className="truncate text-[13px] text-over">
          Not saved
        </span>
      );
    case 'conflict':
      return (
        <span role="status" className="truncate text-[13px] text-over">
          Not saved: changed in another tab
        </span>
      );
  }
}

/** What a save that failed means. */
export function FailedSave({ store, ...asked }: { store: EditorStore; isKept: () => boolean; onRetry: () => void }) {
  const save = useStore(store, (state) => state.save);
  return save.kind === 'failed' ? <SaveTrouble reason={save.reason} {...asked} /> : null;
}
