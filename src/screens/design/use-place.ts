'use client';

import { usePathname } from 'next/navigation';
import { useCallback } from 'react';
import { addressOf, placeInPath, type Place } from './places';

const DESIGN: Place = { kind: 'design' };

/** Which page of a design is open is kept in the address: it can be linked to, and the back button closes it. */
export function usePlace(id: string) {
  const place = placeInPath(usePathname().split('/').slice(3)) ?? DESIGN;
  const go = useCallback((to: Place) => window.history.pushState(null, '', addressOf(id, to)), [id]);
  /** The same without a step for the back button. */
  const turn = useCallback((to: Place) => window.history.replaceState(null, '', addressOf(id, to)), [id]);
  return { place, go, turn };
}
