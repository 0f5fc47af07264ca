'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { Refusal } from '@/client/answers';
import { fetchDesign, saveDesign } from '@/client/designs-api';
import { autosave } from './autosave';
import type { EditorStore } from './editor-store';

const reasonOf = (error: unknown) => (error instanceof Refusal ? error.message : 'the server cannot be reached');

/**
 * Keeps the design on screen saved: after edits, when the page is left, and
 * brought up to date when it comes back into sight.
 *
 * @returns a function that saves at once what is not saved yet
 */
export function useAutosave(store: EditorStore): () => Promise<void> {
  const router = useRouter();
  const [saver] = useState(() => autosave(store, { saveDesign, fetchDesign }, reasonOf));
  useEffect(() => saver.begin(), [saver]);

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      const { kind } = store.getState().save;
      if (kind === 'failed' || kind === 'conflict') event.preventDefault();
    };
    const lookForNewer = async () => {
      if (document.visibilityState !== 'visible') return;
      if (await saver.lookForNewer()) toast('Brought up to date with what another tab saved.');
    };
    void lookForNewer();
    window.addEventListener('pagehide', saver.saveOnLeaving);
    window.addEventListener('beforeunload', warn);
    document.addEventListener('visibilitychange', lookForNewer);
    return () => {
      window.removeEventListener('pagehide', saver.saveOnLeaving);
      window.removeEventListener('beforeunload', warn);
      document.removeEventListener('visibilitychange', lookForNewer);
    };
  }, [store, saver]);

  useEffect(
    () => () => {
      // Leaving for the shelf: save first, then let it show what was saved.
      void saver.saveNow().then(() => router.refresh());
    },
    [saver, router],
  );

  return saver.saveNow;
}
