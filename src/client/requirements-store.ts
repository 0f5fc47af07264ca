import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { requirementsSchema, type Requirements } from '@/core/choose/requirements';
import type { Design } from '@/core/design/design-schema';
import { withField } from '@/core/design/change-design';
import { formatWhatIsRight } from '@/core/schema/fields';

type RequirementsState = {
  requirements: Requirements;
  /** Sets one field; answers what is wrong with it, or null. */
  edit: (path: string, value: unknown) => string | null;
  /** Whether what the browser kept has been read. */
  known: boolean;
  /** The design whose target was taken over last. */
  aimedAt: string | null;
  /** Reads what the browser kept, and takes the target of a design over where that is a new one. */
  wake: (from: { id: string; design: Design } | null) => Promise<void>;
};

const FIRST = requirementsSchema.parse({ target: { volts: 10_000, amps: 20e-6 } });

/** Requirements of a ladder: kept in this browser, so that nothing is lost on the way to the drawer and back. */
export const useRequirements = create<RequirementsState>()(
  persist(
    (set, get) => ({
      requirements: FIRST,
      known: false,
      aimedAt: null,
      edit: (path, value) => {
        const keys = path.split('.').slice(1);
        const read = requirementsSchema.safeParse(withField(get().requirements, keys, value), { reportInput: true });
        if (read.success) {
          set({ requirements: read.data });
          return null;
        }
        return formatWhatIsRight(read.error.issues[0].message);
      },
      wake: async (from) => {
        if (!get().known) await useRequirements.persist.rehydrate();
        const { requirements, aimedAt } = get();
        const target = from !== null && from.id !== aimedAt ? from.design.target : null;
        set({
          known: true,
          aimedAt: from?.id ?? null,
          requirements: target
            ? { ...requirements, target: { ...target, polarity: from!.design.ladder.polarity } }
            : requirements,
        });
      },
    }),
    {
      name: 'eager-ladder-requirements',
      partialize: ({ requirements, aimedAt }) => ({ requirements, aimedAt }),
      // What another version left there, or a hand changed, must not break the screen.
      merge: (stored, state) => {
        const { requirements, aimedAt } = (stored ?? {}) as { requirements?: unknown; aimedAt?: unknown };
        const read = requirementsSchema.safeParse(requirements);
        return read.success
          ? { ...state, requirements: read.data, aimedAt: typeof aimedAt === 'string' ? aimedAt : null }
          : state;
      },
      skipHydration: true,
    },
  ),
);
