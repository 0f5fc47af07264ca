'use client';

import { memo } from 'react';
import { useStore } from 'zustand';
import type { EditorStore } from './saving/editor-store';
import { useListening } from '@/ui/use-listening';

/** Free words about the design, saved with it. */
export const Notes = memo(function Notes({ store }: { store: EditorStore }) {
  const listening = useListening();
  const notes = useStore(store, (state) => state.design.notes);
  return (
    <div className="mt-3 pl-5">
      <label htmlFor="notes" className="font-semibold">
        Notes
      </label>
      <textarea
        id="notes"
        value={notes}
        readOnly={!listening}
        maxLength={20_000}
        rows={4}
        onChange={(event) => store.getState().edit('$.notes', event.target.value)}
        className="mt-1 block w-full field resize-y px-2 py-1.5 text-[13.5px]"
      />
    </div>
  );
});
