'use client';

import { Tabs } from 'radix-ui';
import { useCallback } from 'react';
import { toast } from 'sonner';
import { withField } from '@/core/design/change-design';
import { windingSchema } from '@/core/design/winding-schema';
import { benchOf } from '@/core/winding/bench';
import { Panel } from '@/ui/dialog';
import type { Editing } from '../chain/editing';
import type { BenchEditing } from './bench-editing';
import { CorePage } from './core-page';
import { PinsPage } from './pins-page';
import { RatioPage } from './ratio-page';
import { ResonancePage } from './resonance-page';
import { SecondaryPage } from './secondary-page';

const PAGES = [
  { key: 'ratio', name: 'Ratio', Page: RatioPage },
  { key: 'resonance', name: 'Resonance', Page: ResonancePage },
  { key: 'core', name: 'Core and primary', Page: CorePage },
  { key: 'secondary', name: 'Secondary', Page: SecondaryPage },
  { key: 'pins', name: 'Pins', Page: PinsPage },
] as const;
export type BenchPage = (typeof PAGES)[number]['key'];

/** The page a link leads to, or null where it names none. */
export function benchPage(name: string | null): BenchPage | null {
  return PAGES.find(({ key }) => key === name)?.key ?? null;
}

const EMPTY_SHEET = windingSchema.parse({});

/** What one measures and winds at the bench, kept with the design; results go into the design when taken. */
export function TransformerBench({
  store,
  design,
  prediction,
  page,
  onPage,
  onClose,
}: Editing & { page: BenchPage; onPage: (page: BenchPage) => void; onClose: () => void }) {
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
    <Panel open onClose={onClose} title="Transformer bench" size="bench">
      <Tabs.Root value={page} onValueChange={(next) => onPage(next as BenchPage)}>
        <Tabs.List
          aria-label="Pages of the bench"
          className="-mt-1 flex gap-5 overflow-x-auto border-b border-rule whitespace-nowrap"
        >
          {PAGES.map(({ key, name }) => (
            <Tabs.Trigger
              key={key}
              value={key}
              className="-mb-px border-b-2 border-transparent focus-visible:outline-offset-[-2px] py-1.5 text-soft hover:text-ink data-[state=active]:border-copper data-[state=active]:text-ink"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {PAGES.map(({ key, Page }) => (
          <Tabs.Content key={key} value={key} className="min-h-[27rem] pt-4">
            <Page bench={bench} />
          </Tabs.Content>
        ))}
      </Tabs.Root>
    </Panel>
  );
}
