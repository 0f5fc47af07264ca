import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { askSchema, type Ask } from '@/core/choose/requirements';
import { withField } from '@/core/design/change-design';
import { sayWhatIsRight } from '@/core/schema/fields';

type AskState = {
  ask: Ask;
  /** Sets one field; answers what is wrong with it, or null. */
  edit: (path: string, value: unknown) => string | null;
  /** Whether what the browser kept has been read. */
  known: boolean;
  /** The design whose target was taken over last. */
  aimedAt: string | null;
  /** Reads what the browser kept, and takes the target of a design over where that is a new one. */
  wake: (from: { id: string; target: Ask['target'] | null } | null) => Promise<void>;
};

const FIRST = askSchema.parse({ target: { volts: 10_000, amps: 20e-6 } });

/** What is asked of a ladder: kept in this browser, so that nothing is lost on the way to the drawer and back. */
export const useAsk = create<AskState>()(
  persist(
    (set, get) => ({
      ask: FIRST,
      known: false,
      aimedAt: null,
      edit: (path, value) => {
        const keys = path.split('.').slice(1);
        const read = askSchema.safeParse(withField(get().ask, keys, value), { reportInput: true });
        if (read.success) {
          set({ ask: read.data });
          return null;
        }
        return sayWhatIsRight(read.error.issues[0].message);
      },
      wake: async (from) => {
        if (!get().known) await useAsk.persist.rehydrate();
        const { ask, aimedAt } = get();
        const target = from !== null && from.id !== aimedAt ? from.target : null;
        set({ known: true, aimedAt: from?.id ?? null, ask: target ? { ...ask, target } : ask });
      },
    }),
    {
      name: 'eager-ladder-ask',
      partialize: ({ ask, aimedAt }) => ({ ask, aimedAt }),
      // What another version left there, or a hand changed, must not break the screen.
      merge: (stored, state) => {
        const { ask, aimedAt } = (stored ?? {}) as { ask?: unknown; aimedAt?: unknown };
        const read = askSchema.safeParse(ask);
        return read.success
          ? { ...state, ask: read.data, aimedAt: typeof aimedAt === 'string' ? aimedAt : null }
          : state;
      },
      skipHydration: true,
    },
  ),
);
