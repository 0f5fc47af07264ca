import deepEqual from 'fast-deep-equal';
import { create } from 'zustand';
import type { Drawer, DrawerChange } from '@/core/drawer/drawer-messages';
import type { Part } from '@/core/parts/part-schema';
import { Refusal } from './answers';
import { changeDrawer, fetchDrawer } from './drawer-api';

type Step = { change: DrawerChange; back: DrawerChange; what: string };

type DrawerState = {
  /** Null until it has been fetched. */
  drawer: Drawer | null;
  past: Step[];
  future: Step[];
  /** Takes over what a page was served with, unless something later is known. */
  show: (drawer: Drawer) => void;
  load: () => Promise<void>;
  /** Changes the drawer at the server and shows what stands there then; throws what the server refuses. */
  change: (change: Partial<DrawerChange>, what: string) => Promise<void>;
  /** Undoes the last change, or does it again; says which it was, null where there is none. */
  undo: () => Promise<string | null>;
  redo: () => Promise<string | null>;
};

/** Ids that a change touches. */
const touched = ({ put, remove }: DrawerChange) => [...put.map(({ id }) => id), ...remove];

/** What undoes a change of these parts. */
function backFrom(change: DrawerChange, parts: readonly Part[]): DrawerChange {
  const standing = new Map(parts.map((part) => [part.id, part]));
  return {
    put: touched(change).flatMap((id) => standing.get(id) ?? []),
    remove: change.put.flatMap(({ id }) => (standing.has(id) ? [] : [id])),
  };
}

const partOf = ({ parts }: Drawer, id: string) => parts.find((part) => part.id === id);

/** Whether a drawer is as a change leaves it: an answer that got lost had done its work. */
function isDone({ put, remove }: DrawerChange, drawer: Drawer): boolean {
  return put.every((part) => deepEqual(partOf(drawer, part.id), part)) && remove.every((id) => !partOf(drawer, id));
}

/** Whether the parts that a change touches are the same in both. */
function sameWhereTouched(change: DrawerChange, one: Drawer, other: Drawer): boolean {
  return touched(change).every((id) => deepEqual(partOf(one, id), partOf(other, id)));
}

/** Times that a change is made anew from what stands, where other tabs keep changing other parts. */
const MOST_ATTEMPTS = 5;

/** The drawer as this page knows it, with its own steps to undo. One change waits for the one before. */
export const useDrawer = create<DrawerState>()((set, get) => {
  let last: Promise<unknown> = Promise.resolve();
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const mine = last.then(work);
    last = mine.catch(() => undefined);
    return mine;
  };

  /** Makes a change from the drawer as it is known; where others changed other parts meanwhile, from what stands. */
  const send = async (change: DrawerChange): Promise<void> => {
    for (let attempt = 0; attempt < MOST_ATTEMPTS; attempt += 1) {
      const known = get().drawer ?? (await fetchDrawer());
      const { conflict, drawer } = await changeDrawer({ ...change, baseRevision: known.revision });
      set({ drawer });
      if (!conflict || isDone(change, drawer)) return;
      if (!sameWhereTouched(change, known, drawer)) break;
    }
    throw new Refusal([
      { path: '$', message: 'the same part was changed elsewhere meanwhile; it is shown as it stands now' },
    ]);
  };

  return {
    drawer: null,
    past: [],
    future: [],
    show: (drawer) => set((state) => (state.drawer && state.drawer.revision > drawer.revision ? {} : { drawer })),
    load: async () => get().show(await fetchDrawer()),
    change: (asked, what) =>
      inTurn(async () => {
        const change = { put: [], remove: [], ...asked };
        const back = backFrom(change, get().drawer?.parts ?? []);
        await send(change);
        set(({ past }) => ({ past: [...past, { change, back, what }], future: [] }));
      }),
    undo: () =>
      inTurn(async () => {
        const step = get().past.at(-1);
        if (!step) return null;
        await send(step.back);
        set(({ past, future }) => ({ past: past.slice(0, -1), future: [step, ...future] }));
        return step.what;
      }),
    redo: () =>
      inTurn(async () => {
        const [step] = get().future;
        if (!step) return null;
        await send(step.change);
        set(({ past, future }) => ({ past: [...past, step], future: future.slice(1) }));
        return step.what;
      }),
  };
});
