'use client';

import { useSyncExternalStore } from 'react';

const QUERY = '(prefers-reduced-motion: reduce)';

function watch(changed: () => void): () => void {
  const list = window.matchMedia(QUERY);
  list.addEventListener('change', changed);
  return () => list.removeEventListener('change', changed);
}

/** Whether the system asks for less motion. */
export function useReducedMotion(): boolean {
  return useSyncExternalStore(
    watch,
    () => window.matchMedia(QUERY).matches,
    () => false,
  );
}
