'use client';

import { usePathname } from 'next/navigation';
import { useCallback } from 'react';
import { benchAddress, benchInPath, type BenchPage } from './pages';

/** Which page of the bench is open is kept in the address: it can be linked to, and the back button closes it. */
export function useBenchInAddress(id: string) {
  const bench = benchInPath(usePathname().split('/').slice(3));
  const openBench = useCallback((page: BenchPage) => window.history.pushState(null, '', benchAddress(id, page)), [id]);
  const turnBench = useCallback(
    (page: BenchPage) => window.history.replaceState(null, '', benchAddress(id, page)),
    [id],
  );
  const closeBench = useCallback(() => window.history.pushState(null, '', `/designs/${id}`), [id]);
  return { bench, openBench, turnBench, closeBench };
}
