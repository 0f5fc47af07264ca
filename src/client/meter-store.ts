import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { formatWhatIsRight } from '@/core/schema/fields';
import { meterSchema, type Meter } from '@/core/drive/meter-sense';

type MeterState = { meter: Meter; change: (changes: Partial<Meter>) => string | null };

/** The meter on one's own bench: kept in this browser, since it belongs to the workshop and not to a design. */
export const useMeter = create<MeterState>()(
  persist(
    (set, get) => ({
      meter: meterSchema.parse({}),
      change: (changes) => {
        const read = meterSchema.safeParse({ ...get().meter, ...changes }, { reportInput: true });
        if (read.success) {
          set({ meter: read.data });
          return null;
        }
        return formatWhatIsRight(read.error.issues[0].message);
      },
    }),
    {
      name: 'eager-ladder-meter',
      partialize: ({ meter }) => ({ meter }),
      // What another version left there, or a hand changed, must not break the screen.
      merge: (stored, state) => {
        const read = meterSchema.safeParse((stored as { meter?: unknown } | null)?.meter);
        return read.success ? { ...state, meter: read.data } : state;
      },
    },
  ),
);
