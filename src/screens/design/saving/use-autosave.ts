'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { Refusal } from '@/client/answers';
import { fetchNewer, saveDesign } from '@/client/designs-api';
import type { Keeper } from '@/client/keeping';
import { unsavedDesigns, type UnsavedDesign } from '@/client/unsaved';
import { autosave } from './autosave';
import type { EditorState, EditorStore } from './editor-store';

/** How often a page in sight asks whether another browser has saved, ms. */
const LOOK_MILLISECONDS = 5000;

const reasonOf = (error: unknown) => (error instanceof Refusal ? error.message : 'the server cannot be reached');

/** Says to other tabs of this browser that a design has been saved. */
const SAVED_CHANNEL = 'eager-ladder-saved';
type SavedMessage = { id: string; revision: number };

/** Keeps in the browser what is typed until it is saved. */
function keepUnsaved({ id, design, savedDesign, revision }: EditorState, keeper: Keeper<UnsavedDesign>): void {
  if (design === savedDesign) keeper.forget();
  else keeper.keep({ designId: id, at: new Date().toISOString(), base: { revision, design: savedDesign }, design });
}

/**
 * Keeps the design on screen saved: after edits, when the page is left, and
 * brought up to date with what is saved elsewhere. What is typed is kept in the
 * browser from the keystroke on until it is saved.
 *
 * @returns a function that saves at once what is not saved yet, and what keeps the rest
 */
export function useAutosave(store: EditorStore): { saveNow: () => Promise<void>; isKept: () => boolean } {
  const router = useRouter();
  const [saver] = useState(() =>
    autosave(
      store,
      { saveDesign, fetchNewer },
      { reasonOf, onJoined: () => toast('Another tab saved other fields: both changes are in.') },
    ),
  );
  const [{ saveNow, isKept, hold }] = useState(() => {
    let keeper: Keeper<UnsavedDesign> | null = null;
    return {
      saveNow: saver.saveNow,
      isKept: () => keeper?.isKept() ?? false,
      /** Holds what is typed until the function that it gives is called, which lets go of it once that is saved. */
      hold: () => {
        const mine = unsavedDesigns.keeper();
        keeper = mine;
        const end = store.subscribe((state, before) => {
          if (state.design !== before.design || state.savedDesign !== before.savedDesign) keepUnsaved(state, mine);
        });
        return async () => {
          end();
          keepUnsaved(store.getState(), mine);
          await mine.settled();
          mine.leave();
        };
      },
    };
  });
  useEffect(() => saver.begin(), [saver]);

  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      const { kind } = store.getState().save;
      if ((kind === 'failed' || kind === 'conflict') && !isKept()) event.preventDefault();
    };
    const lookForNewer = async () => {
      if (document.visibilityState !== 'visible') return;
      if (await saver.lookForNewer()) toast('Brought up to date with what was saved elsewhere.');
    };
    void lookForNewer();
    const channel = new BroadcastChannel(SAVED_CHANNEL);
    channel.onmessage = ({ data }: MessageEvent<SavedMessage>) => {
      const { id, revision } = store.getState();
      if (data.id === id && data.revision > revision) void lookForNewer();
    };
    const end = store.subscribe(({ id, revision }, before) => {
      if (revision !== before.revision) channel.postMessage({ id, revision } satisfies SavedMessage);
    });
    const timer = setInterval(() => void lookForNewer(), LOOK_MILLISECONDS);
    window.addEventListener('pagehide', saver.saveOnLeaving);
    window.addEventListener('beforeunload', warn);
    document.addEventListener('visibilitychange', lookForNewer);
    return () => {
      end();
      clearInterval(timer);
      channel.close();
      window.removeEventListener('pagehide', saver.saveOnLeaving);
      window.removeEventListener('beforeunload', warn);
      document.removeEventListener('visibilitychange', lookForNewer);
    };
  }, [store, saver, isKept]);

  useEffect(() => {
    const letGo = hold();
    return () => {
      // Leaving for the shelf: save first, then let it show what was saved.
      void saver.saveNow().then(async () => {
        await letGo();
        const { save, design } = store.getState();
        if (save.kind === 'failed' || save.kind === 'conflict')
          toast.error(
            `${design.name} is not saved. What was typed is kept in this browser: open the design to take it.`,
          );
        router.refresh();
      });
    };
  }, [saver, router, store, hold]);

  return { saveNow, isKept };
}
