'use client';

import { useSearchParams } from 'next/navigation';
import { useCallback } from 'react';
import { benchPage, type BenchPage } from './transformer-bench';

/** Which page of the bench is open is kept in the address: it can be linked to, and the back button closes it. */
export function useBenchInAddress() {
  const bench = benchPage(useSearchParams().get('bench'));
  const go = useCallback((page: BenchPage | null, how: 'pushState' | 'replaceState') => {
    const address = new URL(window.location.href);
    if (page) address.searchParams.set('bench', page);
    else address.searchParams.delete('bench');
    window.history[how](null, '', address);
  }, []);
  const openBench = useCallback((page: BenchPage) => go(page, 'pushState'), [go]);
  const turnBench = useCallback((page: BenchPage) => go(page, 'replaceState'), [go]);
  const closeBench = useCallback(() => go(null, 'replaceState'), [go]);
  return { bench, openBench, turnBench, closeBench };
}
