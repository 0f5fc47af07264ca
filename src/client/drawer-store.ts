import { create } from 'zustand';
import type { DrawerChange, Part } from '@/core/parts/part-schema';
import type { Drawer } from '@/core/drawer/parts-used';
import { changeDrawer, fetchDrawer } from './drawer-api';

type Step = { change: DrawerChange; back: DrawerChange; what: string };

type DrawerState = {
  /** Null until it has been fetched. */
  drawer: Drawer | null;
  past: Step[];
  future: Step[];
  /** Takes over what a page was served with. */
  show: (drawer: Drawer) => void;
  load: () => Promise<void>;
  /** Changes the drawer at the server and shows what stands there then; throws what the server refuses. */
  change: (change: Partial<DrawerChange>, what: string) => Promise<void>;
  undo: () => Promise<string | null>;
  redo: () => Promise<string | null>;
};

/** What undoes a change of these parts. */
function backFrom({ put, remove }: DrawerChange, parts: readonly Part[]): DrawerChange {
  const standing = new Map(parts.map((part) => [part.id, part]));
  const touched = [...put.map((part) => part.id), ...remove];
  return {
    put: touched.flatMap((id) => standing.get(id) ?? []),
    remove: put.flatMap(({ id }) => (standing.has(id) ? [] : [id])),
  };
}

/** The drawer as this page knows it, with its own steps to undo. */
export const useDrawer = create<DrawerState>()((set, get) => ({
  drawer: null,
  past: [],
  future: [],
  show: (drawer) => set({ drawer }),
  load: async () => set({ drawer: await fetchDrawer() }),
  change: async (asked, what) => {
    const change = { put: [], remove: [], ...asked };
    const back = backFrom(change, get().drawer?.parts ?? []);
    const drawer = await changeDrawer(change);
    set(({ past }) => ({ drawer, past: [...past, { change, back, what }], future: [] }));
  },
  undo: async () => {
    const step = get().past.at(-1);
    if (!step) return null;
    const drawer = await changeDrawer(step.back);
    set(({ past, future }) => ({ drawer, past: past.slice(0, -1), future: [step, ...future] }));
    return step.what;
  },
  redo: async () => {
    const [step] = get().future;
    if (!step) return null;
    const drawer = await changeDrawer(step.change);
    set(({ past, future }) => ({ drawer, past: [...past, step], future: future.slice(1) }));
    return step.what;
  },
}));
