'use client';

import { memo } from 'react';
import { buttonStyle } from '@/ui/button';
import { BENCH_PAGES, type BenchPage } from './transformer-bench/pages';

/** What belongs to a design, each with its own address. */
export const PagesOfDesign = memo(function PagesOfDesign({
  bench,
  onDesign,
  onBench,
}: {
  /** Whether that is the page on screen. */
  bench: boolean;
  onDesign: () => void;
  onBench: (page: BenchPage) => void;
}) {
  const style = `${buttonStyle('quiet')} aria-[current=page]:bg-tint aria-[current=page]:text-ink`;
  return (
    <nav aria-label="Pages of the design" className="no-print flex gap-1">
      <button type="button" aria-current={bench ? undefined : 'page'} className={style} onClick={onDesign}>
        Design
      </button>
      <button
        type="button"
        aria-current={bench ? 'page' : undefined}
        className={style}
        onClick={() => onBench(BENCH_PAGES[0].key)}
      >
        Transformer
      </button>
    </nav>
  );
});
