import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { formatWhatIsRight } from '@/core/schema/fields';
import type * as z from '@/core/zod';

type KeptSettings<T> = {
  settings: T;
  /** Sets some of them; answers what is wrong with one, or null. */
  change: (changes: Partial<T>) => string | null;
};

/** Settings of the workshop and not of a design, kept in this browser under a name; with the schema's defaults at first. */
export const keptSettings = <S extends z.ZodObject>(name: string, schema: S) =>
  create<KeptSettings<z.output<S>>>()(
    persist(
      (set, get) => ({
        settings: schema.parse({}),
        change: (changes) => {
          const read = schema.safeParse({ ...get().settings, ...changes }, { reportInput: true });
          if (!read.success) return formatWhatIsRight(read.error.issues[0].message);
          set({ settings: read.data });
          return null;
        },
      }),
      {
        name,
        partialize: ({ settings }) => ({ settings }),
        // What another version left there, or a hand changed, must not break the screen.
        merge: (stored, state) => {
          const [kept] = Object.values(stored ?? {});
          const read = schema.safeParse(kept);
          return read.success ? { ...state, settings: read.data } : state;
        },
      },
    ),
  );
