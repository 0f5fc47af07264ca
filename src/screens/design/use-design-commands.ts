'use client';

import { useRouter } from 'next/navigation';
import { useMemo, type Dispatch, type SetStateAction } from 'react';
import type { Player } from '@/climb/player';
import { attempt } from '@/client/attempt';
import { downloadDesign } from '@/client/design-file';
import { createDesign } from '@/client/designs-api';
import { copyOf } from '@/core/design/copy-of';
import { useCommands, type ScreenCommand } from '@/ui/commands';
import type { Link } from './chain/links';
import { countingCommand, useCounting } from '@/ui/use-counting';
import { CHART_COMMANDS, editingCommands, linkBeside } from './commands';
import type { EditorStore } from './saving/editor-store';
import type { Place } from './places';

/** What commands reach of the screen; each the same function from render to render. */
type Reach = {
  store: EditorStore;
  id: string;
  apply: (path: string, value: unknown) => void;
  setLink: Dispatch<SetStateAction<Link | ''>>;
  setTab: (tab: string) => void;
  setDialog: (dialog: 'changes' | 'history') => void;
  go: (place: Place) => void;
  player: Player;
};

/** Offers the commands of the design screen to its keys and to the palette. */
export function useDesignCommands({ store, id, apply, setLink, setTab, setDialog, go, player }: Reach): void {
  const router = useRouter();
  const { counting, setCounting } = useCounting();
  const commands = useMemo<ScreenCommand[]>(
    () => [
      ...editingCommands(store, apply, counting),
      countingCommand(counting, setCounting),
      { name: 'Next link of the chain', keys: 'j', run: () => setLink((now) => linkBeside(store, now, 1)) },
      { name: 'Previous link of the chain', keys: 'u', run: () => setLink((now) => linkBeside(store, now, -1)) },
      ...CHART_COMMANDS.map(({ chart, ...command }) => ({ ...command, run: () => setTab(chart) })),
      {
        name: 'Play or pause the Climb',
        keys: 'p',
        run: () => (player.getState().playing ? player.getState().pause() : player.getState().play()),
      },
      { name: 'To the next diode that starts or stops', keys: 'x', run: () => player.getState().step(1) },
      { name: 'Back to the diode before', keys: 'z', run: () => player.getState().step(-1) },
      { name: 'Back to the steady picture', keys: 'escape', run: () => player.getState().close() },
      { name: 'What each change would do', keys: 'q', run: () => setDialog('changes') },
      { name: 'Choose what to build', keys: 'f', run: () => router.push(`/choose?design=${id}`) },
      { name: 'Transformer bench', keys: 'b', run: () => go({ kind: 'transformer', page: 'ratio' }) },
      { name: 'Pin finder', run: () => go({ kind: 'transformer', page: 'pins' }) },
      { name: 'Build sheet', keys: 'k', run: () => go({ kind: 'build-sheet' }) },
      { name: 'Bench', keys: 'r', run: () => go({ kind: 'bench' }) },
      { name: 'Make it dead', keys: 'm', run: () => go({ kind: 'dead', atBench: false }) },
      { name: 'Compare with another design', run: () => router.push(`/compare?one=${id}`) },
      { name: 'History', keys: 'h', run: () => setDialog('history') },
      { name: 'Export as a file', keys: 'e', run: () => downloadDesign(store.getState().design) },
      { name: 'Duplicate this design', run: () => void duplicate(store, router.push) },
      { name: 'A look at a tripler', run: () => router.push('/look') },
      { name: 'Find the fault, a trainer', run: () => router.push('/train') },
      { name: 'Back to the shelf', run: () => router.push('/') },
      { name: 'Print', run: () => window.print() },
    ],
    [apply, counting, go, id, player, router, setDialog, setCounting, setLink, setTab, store],
  );
  useCommands(commands);
}

/** Puts a copy of the design on the shelf and opens it. */
function duplicate(store: EditorStore, open: (address: string) => void): Promise<boolean> {
  return attempt('Duplicating', async () => {
    const { design } = store.getState();
    const copy = await createDesign(copyOf(design));
    open(`/designs/${copy.id}`);
  });
}
