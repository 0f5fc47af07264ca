'use client';

import { useCallback, useSyncExternalStore } from 'react';

/** Whether a media query holds; not while the page is made by the server. */
function useMedia(query: string): boolean {
  const watch = useCallback(
    (changed: () => void) => {
      const list = window.matchMedia(query);
      list.addEventListener('change', changed);
      return () => list.removeEventListener('change', changed);
    },
    [query],
  );
  return useSyncExternalStore(
    watch,
    () => window.matchMedia(query).matches,
    () => false,
  );
}

/** Whether the system asks for less motion. */
export const useReducedMotion = (): boolean => useMedia('(prefers-reduced-motion: reduce)');

/** Whether a finger points here, for which the system's own lists are better than ours. */
export const useTouch = (): boolean => useMedia('(pointer: coarse)');
