'use client';

import { useEffect } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { COUNTINGS, COUNTING_NAMES, type Counting } from '@/core/quantity/counting';
import { Choice } from './choice';
import type { ScreenCommand } from './commands';

type CountingSetting = { counting: Counting; setCounting: (counting: Counting) => void };

const useSetting = create<CountingSetting>()(
  persist((set) => ({ counting: 'two-of-each', setCounting: (counting) => set({ counting }) }), {
    name: 'eager-ladder-counting',
    partialize: ({ counting }) => ({ counting }),
    merge: (stored, state) => {
      const kept = (stored as { counting?: unknown } | undefined)?.counting;
      return { ...state, counting: COUNTINGS.find((one) => one === kept) ?? state.counting };
    },
    // The server knows nothing of it: read once the page stands.
    skipHydration: true,
  }),
);

/** How this reader counts stages, kept in this browser. */
export function useCounting(): CountingSetting {
  useEffect(() => {
    if (!useSetting.persist.hasHydrated()) void useSetting.persist.rehydrate();
  }, []);
  return useSetting();
}

/** Chooses how stages are counted, on every screen. */
export function CountingChoice() {
  const { counting, setCounting } = useCounting();
  return (
    <div className="grid grid-cols-[minmax(4.5rem,1fr)_minmax(0,12rem)] items-center gap-x-2">
      <span className="text-[13.5px] text-soft">A stage is</span>
      <Choice
        label="What a stage is, of capacitors and diodes"
        value={counting}
        options={COUNTINGS.map((value) => ({ value, name: COUNTING_NAMES[value] }))}
        onValue={setCounting}
      />
    </div>
  );
}

/** The same by the palette. */
export function countingCommand(counting: Counting, setCounting: CountingSetting['setCounting']): ScreenCommand {
  return counting === 'two-of-each'
    ? { name: 'Count a stage as one capacitor and one diode', run: () => setCounting('one-of-each') }
    : { name: 'Count a stage as two capacitors and two diodes', run: () => setCounting('two-of-each') };
}
