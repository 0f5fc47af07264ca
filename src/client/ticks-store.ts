import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import * as z from '@/core/zod';

/** When each step of a sheet was done, by design and revision. */
const ticksSchema = z.record(z.string(), z.record(z.string(), z.string()));
type Ticks = z.output<typeof ticksSchema>;

/** The most sheets of which ticks are kept: then the oldest go. */
const MOST_SHEETS = 200;

export const sheetKey = (designId: string, revision: number): string => `${designId} ${revision}`;

/** Steps that were ticked off at the bench, kept in this browser with the design's revision. */
export const useTicks = create<{ ticks: Ticks; tick: (sheet: string, step: string, at: string | null) => void }>()(
  persist(
    (set, get) => ({
      ticks: {},
      tick: (sheet, step, at) => {
        const { [sheet]: own = {}, ...others } = get().ticks;
        const rest = Object.entries(own).filter(([key]) => key !== step);
        const kept = Object.entries(others).slice(-(MOST_SHEETS - 1));
        const now = Object.fromEntries(at === null ? rest : [...rest, [step, at]]);
        set({ ticks: { ...Object.fromEntries(kept), [sheet]: now } });
      },
    }),
    {
      name: 'eager-ladder-ticks',
      partialize: ({ ticks }) => ({ ticks }),
      // What another version left there, or a hand changed, must not break the screen.
      merge: (stored, state) => {
        const read = z.object({ ticks: ticksSchema }).safeParse(stored);
        return read.success ? { ...state, ticks: read.data.ticks } : state;
      },
    },
  ),
);
