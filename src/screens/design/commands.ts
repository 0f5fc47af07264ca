import { toast } from 'sonner';
import { addedStages, type Counting } from '@/core/quantity/counting';
import { TOPOLOGY_KINDS } from '@/core/topology/topologies';
import type { ScreenCommand } from '@/ui/commands';
import { linksOf, type Link } from './chain/links';
import type { EditorStore } from './saving/editor-store';

/** The tab of each chart by its key. */
export const CHART_COMMANDS = [
  { name: 'Load line', keys: 'l', chart: 'load-line' },
  { name: 'Stages chart', keys: 's', chart: 'stages' },
  { name: 'Waveforms', keys: 'w', chart: 'waveforms' },
  { name: 'Charge-up', keys: 'c', chart: 'charge-up' },
  { name: 'Tolerance', keys: 't', chart: 'tolerance' },
  { name: 'Discharge', keys: 'd', chart: 'discharge' },
] as const;

/** Commands that change the design. */
export function editingCommands(
  store: EditorStore,
  apply: (path: string, value: unknown) => void,
  counting: Counting,
): readonly ScreenCommand[] {
  const stepStages = (by: number) => {
    const { stages, topology } = store.getState().design.ladder;
    const { stages: counted } = TOPOLOGY_KINDS[topology];
    if (counted === 'fixed') toast('This topology has one form: it has no stages to add.');
    else apply('$.ladder.stages', stages + (counted === 'whole' ? Math.sign(by) : by));
  };
  return [
    { name: 'Undo', keys: 'mod+z', run: store.undo },
    { name: 'Redo', keys: 'mod+shift+z,mod+y', run: store.redo },
    { name: `${addedStages(1, counting)} more`, keys: 'pageup', run: () => stepStages(1) },
    { name: `${addedStages(1, counting)} fewer`, keys: 'pagedown', run: () => stepStages(-1) },
    { name: `${addedStages(0.5, counting)} more`, keys: 'shift+pageup', run: () => stepStages(0.5) },
    { name: `${addedStages(0.5, counting)} fewer`, keys: 'shift+pagedown', run: () => stepStages(-0.5) },
  ];
}

/** The link of the chain after the open one, or before it; from none, the first or the last. */
export function linkBeside(store: EditorStore, open: Link | '', by: 1 | -1): Link {
  const links = linksOf(store.getState().design);
  const at = open === '' ? (by > 0 ? -1 : links.length) : links.indexOf(open);
  return links[(at + by + links.length) % links.length];
}
