'use client';

import { Tabs } from 'radix-ui';
import { useCallback, type ComponentType } from 'react';
import { toast } from 'sonner';
import { withField } from '@/core/design/change-design';
import { windingSchema } from '@/core/design/winding-schema';
import { benchOf } from '@/core/winding/bench';
import type { Editing } from '../chain/editing';
import type { BenchEditing } from './bench-editing';
import { BENCH_PAGES, type BenchPage } from './pages';
import { CorePage } from './core-page';
import { PinsPage } from './pins-page';
import { RatioPage } from './ratio-page';
import { ResonancePage } from './resonance-page';
import { SecondaryPage } from './secondary-page';

const PAGES: Record<BenchPage, ComponentType<{ bench: BenchEditing }>> = {
  ratio: RatioPage,
  resonance: ResonancePage,
  core: CorePage,
  secondary: SecondaryPage,
  pins: PinsPage,
};

const EMPTY_SHEET = windingSchema.parse({});

/** What one measures and winds at the bench, kept with the design; results go into the design when taken. */
export function TransformerBench({
  store,
  design,
  prediction,
  page,
  onPage,
}: Editing & { page: BenchPage; onPage: (page: BenchPage) => void }) {
  const winding = design.winding ?? EMPTY_SHEET;
  const set = useCallback<BenchEditing['set']>(
    (path, value) => {
      const { design: now, edit } = store.getState();
      return now.winding
        ? edit(`$.winding.${path}`, value)
        : edit('$.winding', withField(EMPTY_SHEET, path.split('.'), value));
    },
    [store],
  );
  const take = useCallback<BenchEditing['take']>(
    (path, value, what) => {
      const fault = store.getState().edit(path, value);
      if (fault) toast.error(fault);
      else toast(`${what} taken into the design.`, { action: { label: 'Undo', onClick: store.undo } });
    },
    [store],
  );
  const bench: BenchEditing = {
    store,
    design,
    prediction,
    winding,
    set,
    take,
    around: benchOf(design, prediction),
  };
  return (
    <section aria-labelledby="bench-title" className="mx-auto w-full max-w-5xl px-4 py-4 sm:px-6">
      <h2 id="bench-title" className="text-base font-semibold">
        Transformer bench
      </h2>
      <Tabs.Root value={page} onValueChange={(next) => onPage(next as BenchPage)} className="mt-2">
        <Tabs.List
          aria-label="Pages of the bench"
          className="flex gap-5 overflow-x-auto border-b border-rule whitespace-nowrap"
        >
          {BENCH_PAGES.map(({ key, name }) => (
            <Tabs.Trigger
              key={key}
              value={key}
              className="-mb-px border-b-2 border-transparent focus-visible:outline-offset-[-2px] py-1.5 text-soft hover:text-ink data-[state=active]:border-copper data-[state=active]:text-ink"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {BENCH_PAGES.map(({ key }) => [key, PAGES[key]] as const).map(([key, Page]) => (
          <Tabs.Content key={key} value={key} className="min-h-[27rem] pt-4">
            <Page bench={bench} />
          </Tabs.Content>
        ))}
      </Tabs.Root>
    </section>
  );
}
