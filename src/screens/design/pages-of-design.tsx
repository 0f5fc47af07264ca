'use client';

import { memo } from 'react';
import { buttonStyle } from '@/ui/button';
import { BENCH_PAGES } from './transformer-bench/pages';
import type { Place } from './places';

const PAGES: readonly { name: string; place: Place }[] = [
  { name: 'Design', place: { kind: 'design' } },
  { name: 'Transformer', place: { kind: 'transformer', page: BENCH_PAGES[0].key } },
  { name: 'Build sheet', place: { kind: 'build-sheet' } },
  { name: 'Bench', place: { kind: 'bench' } },
  { name: 'Make it dead', place: { kind: 'dead', atBench: false } },
];

/** What belongs to a design, each with its own address. */
export const PagesOfDesign = memo(function PagesOfDesign({
  at,
  onGo,
}: {
  /** What is on screen. */
  at: Place['kind'];
  onGo: (place: Place) => void;
}) {
  const style = `${buttonStyle('quiet')} aria-[current=page]:bg-tint aria-[current=page]:text-ink`;
  return (
    <nav aria-label="Pages of the design" className="no-print contents">
      {PAGES.map(({ name, place }) => (
        <button
          key={name}
          type="button"
          aria-current={place.kind === at ? 'page' : undefined}
          className={style}
          onClick={() => onGo(place)}
        >
          {name}
        </button>
      ))}
    </nav>
  );
});
