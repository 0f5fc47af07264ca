'use client';

import deepEqual from 'fast-deep-equal';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { Refusal } from '@/client/answers';
import { fetchDesign, saveDesign } from '@/client/designs-api';
import type { EditorStore } from './editor-store';

const QUIET_MILLISECONDS = 600;
const RETRY_MILLISECONDS = 4000;

/**
 * Saves a design a moment after each edit, one request at a time, and again
 * when a request failed. A later revision of somebody else's stops saving
 * until the user has chosen.
 *
 * @returns a function that saves at once what is not saved yet
 */
export function useAutosave(store: EditorStore): () => Promise<void> {
  const router = useRouter();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const sending = useRef<Promise<void> | null>(null);

  const send = useCallback(async (): Promise<void> => {
    clearTimeout(timer.current);
    while (sending.current) await sending.current;
    const { id, design, savedDesign, revision, save, setSave, noteSaved } = store.getState();
    // After a failure nobody knows what arrived: then even an unchanged design is sent, to be sure.
    const settled = design === savedDesign && save.kind !== 'failed';
    if (settled || save.kind === 'conflict') return;
    setSave({ kind: 'saving' });
    const request = (async () => {
      try {
        const { conflict, stored } = await saveDesign(id, revision, design);
        // An answer that got lost leaves our own design standing as the later revision.
        if (!conflict || deepEqual(stored.design, design)) noteSaved(stored, design);
        else setSave({ kind: 'conflict', theirs: stored });
      } catch (error) {
        setSave({ kind: 'failed', reason: error instanceof Refusal ? error.message : 'the server cannot be reached' });
      }
    })();
    sending.current = request;
    await request;
    sending.current = null;
  }, [store]);

  useEffect(() => {
    const schedule = (milliseconds: number) => {
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void send(), milliseconds);
    };
    return store.subscribe((state, before) => {
      if (state.design !== before.design && state.save.kind !== 'conflict') {
        if (state.design === state.savedDesign) {
          // Undone to what is saved: nothing to send, unless a request with the other state is on its way.
          clearTimeout(timer.current);
          if (state.save.kind === 'pending') state.setSave({ kind: 'saved' });
          if (state.save.kind === 'failed') schedule(RETRY_MILLISECONDS);
          return;
        }
        if (state.save.kind === 'saved') state.setSave({ kind: 'pending' });
        schedule(QUIET_MILLISECONDS);
      } else if (state.save !== before.save) {
        if (state.save.kind === 'failed') schedule(RETRY_MILLISECONDS);
        if (state.save.kind === 'pending' && before.save.kind !== 'saved') schedule(QUIET_MILLISECONDS);
      }
    });
  }, [store, send]);

  useEffect(() => {
    const unsaved = () => {
      const state = store.getState();
      return state.design !== state.savedDesign && state.save.kind !== 'conflict' ? state : null;
    };
    const leaving = () => {
      const state = unsaved();
      if (state) void saveDesign(state.id, state.revision, state.design, true).catch(() => undefined);
    };
    const warn = (event: BeforeUnloadEvent) => {
      const { kind } = store.getState().save;
      if (kind === 'failed' || kind === 'conflict') event.preventDefault();
    };
    const lookForNewer = async () => {
      if (document.visibilityState !== 'visible') return;
      const { id, revision } = store.getState();
      const standing = await fetchDesign(id).catch(() => null);
      const state = store.getState();
      if (
        !standing ||
        standing.revision <= revision ||
        state.revision !== revision ||
        state.design !== state.savedDesign
      )
        return;
      state.adopt(standing);
      toast('Brought up to date with what another tab saved.');
    };
    void lookForNewer();
    window.addEventListener('pagehide', leaving);
    window.addEventListener('beforeunload', warn);
    document.addEventListener('visibilitychange', lookForNewer);
    return () => {
      window.removeEventListener('pagehide', leaving);
      window.removeEventListener('beforeunload', warn);
      document.removeEventListener('visibilitychange', lookForNewer);
    };
  }, [store]);

  useEffect(
    () => () => {
      // Leaving for the shelf: save first, then let it show what was saved.
      void send().then(() => router.refresh());
    },
    [send, router],
  );

  return send;
}
