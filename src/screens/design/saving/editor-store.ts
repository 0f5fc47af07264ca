import deepEqual from 'fast-deep-equal';
import { temporal } from 'zundo';
import { createStore } from 'zustand';
import type { StoredDesign } from '@/core/design/design-messages';
import { editDesign } from '@/core/drawer/edit-design';
import { formatWhatIsRight } from '@/core/schema/fields';
import type { Design } from '@/core/design/design-schema';
import { readDesign } from '@/core/design/read-design';

/** Where the design on screen stands towards the database. */
type SaveState =
  | { kind: 'saved' }
  | { kind: 'pending' }
  | { kind: 'saving' }
  | { kind: 'failed'; reason: string }
  | { kind: 'conflict'; theirs: StoredDesign };

export type EditorState = {
  id: string;
  design: Design;
  /** The revision this design was made from. */
  revision: number;
  savedAt: string;
  /** The design as that revision holds it. */
  savedDesign: Design;
  save: SaveState;
  /** Sets one field; answers what is wrong with the value, or null when it took. */
  edit: (path: string, value: unknown) => string | null;
  /** Puts another whole design in place, as one step that can be undone. */
  replace: (design: Design) => void;
  /** Takes over what the database holds, with nothing left to save. */
  adopt: (stored: StoredDesign) => void;
  /** Goes on from another's revision with what was changed here joined to it. */
  join: (theirs: StoredDesign, joined: Design) => void;
  /** Notes a save that went through, and whether edits came after it. */
  noteSaved: (stored: StoredDesign, sent: Design) => void;
  setSave: (save: SaveState) => void;
};

/** Keystrokes in one field within this time are one step to undo. */
const ONE_STEP_MILLISECONDS = 1500;
const MOST_STEPS = 500;

export type EditorStore = ReturnType<typeof createEditorStore>;

export function createEditorStore(stored: StoredDesign) {
  let lastPath = '';
  let lastAt = 0;
  /** Whether the coming change belongs to the same step as the one before. */
  let joins = false;

  const store = createStore<EditorState>()(
    temporal(
      (set, get) => {
        const step = (path: string) => {
          const now = Date.now();
          joins = path !== '' && path === lastPath && now - lastAt < ONE_STEP_MILLISECONDS;
          lastPath = path;
          lastAt = now;
        };
        return {
          id: stored.id,
          design: stored.design,
          revision: stored.revision,
          savedAt: stored.savedAt,
          savedDesign: stored.design,
          save: { kind: 'saved' },
          edit: (path, value) => {
            const reading = readDesign(editDesign(get().design, { path, value }));
            if (!reading.ok) {
              const fault = reading.faults.find((candidate) => candidate.path.startsWith(path)) ?? reading.faults[0];
              return formatWhatIsRight(fault.message);
            }
            step(path);
            const { savedDesign } = get();
            // Back where the last save left off: the same object, so that there is nothing to save.
            set({ design: deepEqual(reading.design, savedDesign) ? savedDesign : reading.design });
            return null;
          },
          replace: (design) => {
            step('');
            set({ design });
          },
          adopt: (theirs) => {
            step('');
            set({
              design: theirs.design,
              savedDesign: theirs.design,
              revision: theirs.revision,
              savedAt: theirs.savedAt,
              save: { kind: 'saved' },
            });
          },
          join: (theirs, joined) => {
            step('');
            const design = deepEqual(joined, theirs.design) ? theirs.design : joined;
            set({
              design,
              savedDesign: theirs.design,
              revision: theirs.revision,
              savedAt: theirs.savedAt,
              save: design === theirs.design ? { kind: 'saved' } : { kind: 'pending' },
            });
          },
          noteSaved: (saved, sent) =>
            set((state) => ({
              revision: saved.revision,
              savedAt: saved.savedAt,
              savedDesign: sent,
              save: state.design === sent ? { kind: 'saved' } : { kind: 'pending' },
            })),
          setSave: (save) => set({ save }),
        };
      },
      {
        limit: MOST_STEPS,
        partialize: ({ design }) => ({ design }),
        equality: (past, present) => past.design === present.design,
        handleSet:
          (record) =>
          (...change: unknown[]) => {
            // zundo hands over more than its type of `record` names; all of it must reach it.
            if (!joins) (record as (...change: unknown[]) => void)(...change);
          },
      },
    ),
  );
  const endStep = () => {
    lastPath = '';
    joins = false;
  };
  return Object.assign(store, {
    undo: () => {
      endStep();
      store.temporal.getState().undo();
    },
    redo: () => {
      endStep();
      store.temporal.getState().redo();
    },
  });
}
