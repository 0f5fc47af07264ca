import deepEqual from 'fast-deep-equal';
import type { fetchNewer, saveDesign } from '@/client/designs-api';
import type { StoredDesign } from '@/core/design/design-messages';
import { mergeDesigns } from '@/core/design/merge';
import type { EditorState, EditorStore } from './editor-store';

/** How long nothing may change before what is on screen is saved, and after a failure until it is tried again, ms. */
export const QUIET_MILLISECONDS = 600;
export const RETRY_MILLISECONDS = 4000;

type Server = { saveDesign: typeof saveDesign; fetchNewer: typeof fetchNewer };

/** What to tell of a request that failed, and when what another saved was joined with what was typed here. */
type Telling = { reasonOf: (error: unknown) => string; onJoined?: () => void };

export type Autosave = {
  /** Saves at once what is not saved yet. */
  saveNow: () => Promise<void>;
  /** Saves after edits from now on, until the function it gives is called. */
  begin: () => () => void;
  /** Sends what is not saved in a request that outlives the page. */
  saveOnLeaving: () => void;
  /** Takes over what was saved elsewhere meanwhile, where nothing here would be lost; whether it did. */
  lookForNewer: () => Promise<boolean>;
};

/**
 * Saves a design a moment after each edit, one request at a time, and again
 * when a request failed. A later revision of somebody else's is joined with
 * what was changed here; where both changed the same, saving stops until the
 * user has chosen.
 */
export function autosave(store: EditorStore, server: Server, { reasonOf, onJoined }: Telling): Autosave {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let sending: Promise<void> | null = null;

  /** Where another has saved meanwhile. */
  const meet = (theirs: StoredDesign) => {
    const { savedDesign, design, join, setSave } = store.getState();
    const merge = mergeDesigns(savedDesign, design, theirs.design);
    if (merge.kind === 'overlap') return setSave({ kind: 'conflict', theirs });
    join(theirs, merge.design);
    onJoined?.();
  };

  const request = async ({ id, revision, design }: EditorState) => {
    const { setSave, noteSaved } = store.getState();
    try {
      const { conflict, stored } = await server.saveDesign(id, revision, design);
      // An answer that got lost leaves our own design standing as the later revision.
      if (!conflict || deepEqual(stored.design, design)) noteSaved(stored, design);
      else meet(stored);
    } catch (error) {
      setSave({ kind: 'failed', reason: reasonOf(error) });
    }
  };

  const saveNow = async (): Promise<void> => {
    clearTimeout(timer);
    while (sending) await sending;
    const state = store.getState();
    // After a failure nobody knows what arrived: then even an unchanged design is sent, to be sure.
    const settled = state.design === state.savedDesign && state.save.kind !== 'failed';
    if (settled || state.save.kind === 'conflict') return;
    state.setSave({ kind: 'saving' });
    sending = request(state);
    await sending;
    sending = null;
  };

  const schedule = (milliseconds: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void saveNow(), milliseconds);
  };

  const noteEdit = (state: EditorState) => {
    if (state.design !== state.savedDesign) {
      if (state.save.kind === 'saved') state.setSave({ kind: 'pending' });
      schedule(QUIET_MILLISECONDS);
      return;
    }
    // Undone to what is saved: nothing to send, unless a request with the other state is on its way.
    clearTimeout(timer);
    if (state.save.kind === 'pending') state.setSave({ kind: 'saved' });
    if (state.save.kind === 'failed') schedule(RETRY_MILLISECONDS);
  };

  return {
    saveNow,
    begin: () =>
      store.subscribe((state, before) => {
        if (state.design !== before.design && state.save.kind !== 'conflict') noteEdit(state);
        else if (state.save !== before.save) {
          if (state.save.kind === 'failed') schedule(RETRY_MILLISECONDS);
          if (state.save.kind === 'pending' && before.save.kind !== 'saved') schedule(QUIET_MILLISECONDS);
        }
      }),
    saveOnLeaving: () => {
      const { id, revision, design, savedDesign, save } = store.getState();
      if (design === savedDesign || save.kind === 'conflict') return;
      void server.saveDesign(id, revision, design, true).catch(() => undefined);
    },
    lookForNewer: async () => {
      const { id, revision } = store.getState();
      const standing = await server.fetchNewer(id, revision).catch(() => null);
      const state = store.getState();
      const untouched = state.revision === revision && state.design === state.savedDesign;
      if (!standing || standing.revision <= revision || !untouched) return false;
      state.adopt(standing);
      return true;
    },
  };
}
