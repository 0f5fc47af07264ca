'use client';

import { useEffect } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** Sizes of the panes around the Climb, pixels; limits leave the Climb room at the widths they are used at. */
export const PANES = {
  chain: { usual: 296, least: 240, most: 520 },
  verdict: { usual: 316, least: 260, most: 560 },
  charts: { usual: 230, least: 150, most: 520 },
} as const;
export type Pane = keyof typeof PANES;

type PaneSizes = { sizes: Record<Pane, number>; setSize: (pane: Pane, size: number) => void };

const USUAL: Record<Pane, number> = {
  chain: PANES.chain.usual,
  verdict: PANES.verdict.usual,
  charts: PANES.charts.usual,
};

const usePanes = create<PaneSizes>()(
  persist(
    (set) => ({
      sizes: USUAL,
      setSize: (pane, size) => set(({ sizes }) => ({ sizes: { ...sizes, [pane]: size } })),
    }),
    {
      name: 'eager-ladder-panes',
      partialize: ({ sizes }) => ({ sizes }),
      // What a hand or another version left there must not break the screen.
      merge: (stored, state) => {
        const kept = (stored as { sizes?: Partial<Record<Pane, unknown>> } | undefined)?.sizes ?? {};
        const size = (pane: Pane) => {
          const value = kept[pane];
          const { usual, least, most } = PANES[pane];
          return typeof value === 'number' && value >= least && value <= most ? value : usual;
        };
        return { ...state, sizes: { chain: size('chain'), verdict: size('verdict'), charts: size('charts') } };
      },
      // The server knows nothing of it: read once the page stands.
      skipHydration: true,
    },
  ),
);

/** How wide and high the panes are, kept in this browser. */
export function usePaneSizes(): PaneSizes {
  useEffect(() => {
    if (!usePanes.persist.hasHydrated()) void usePanes.persist.rehydrate();
  }, []);
  return usePanes();
}
