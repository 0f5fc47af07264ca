import { toast } from 'sonner';
import { useEffect, useMemo } from 'react';
import { create } from 'zustand';
import type { Drawer, DrawerChange, DrawerOpening } from '@/core/drawer/drawer-messages';
import { backFrom, joinedTo, partChange, withChange, type PartChange } from '@/core/drawer/part-change';
import { Refusal, Trouble } from './answers';
import { changeDrawer, fetchDrawer, fetchNewerDrawer } from './drawer-api';
import type { Keeper } from './keeping';
import { patiently } from './patiently';
import { unsavedDrawer, type UnsavedDrawer } from './unsaved';

/** A change with what it is called, and an id by which the server knows it when it is sent again. */
type Step = PartChange & { id: string; what: string };

type DrawerState = {
  /** As it stands here, with what is not sent yet; null until all of it is known. */
  drawer: Drawer | null;
  /** The first of its parts, which a page was served with, until all are known. */
  first: Drawer | null;
  /** As the server last told it. */
  served: Drawer | null;
  /** Changes that are not known to have arrived, in their order. */
  waiting: Step[];
  /** Why they have not, where sending them failed. */
  trouble: string | null;
  past: Step[];
  future: Step[];
  /** Takes over what a page was served with, unless something later is known. */
  show: (drawer: Drawer) => void;
  /** Fetches all of it; parts among those known already stay the same objects. */
  load: () => Promise<void>;
  /** Shows its first parts, and fetches all. */
  loadFrom: (first: Drawer) => Promise<void>;
  /** All of it, fetched first where it is not known yet. */
  whole: () => Promise<Drawer>;
  /** Takes over what others have changed meanwhile; whether there was anything. */
  follow: () => Promise<boolean>;
  /**
   * Changes the drawer here and at the server. Where that cannot be reached the
   * change waits, kept in the browser, and is sent later.
   *
   * @throws Refusal for what the server refuses, or was changed elsewhere
   */
  change: (change: Partial<DrawerChange>, what: string) => Promise<void>;
  /** Undoes the last change, or does it again; says which it was, null where there is none. */
  undo: () => Promise<string | null>;
  redo: () => Promise<string | null>;
  /** Sends what waits. */
  send: () => Promise<void>;
  /** Makes changes that a page that is gone has left. */
  take: (steps: readonly Step[]) => Promise<void>;
  /** Whether what waits is kept in the browser. */
  isKept: () => boolean;
};

/** Times that a change is made anew from what stands, where other tabs keep changing other parts. */
const MOST_ATTEMPTS = 5;

/** After what is sent again that could not be, ms. */
const RETRY_MILLISECONDS = 4000;

const changedElsewhere = (names: readonly string[]) =>
  `${names.map((name) => `“${name}”`).join(', ')} ${names.length === 1 ? 'was' : 'were'} changed elsewhere meanwhile; the drawer shows what stands now`;

/** The drawer as a change that went through leaves it. */
function afterChange(served: Drawer, change: DrawerChange, revision: number): Drawer {
  const gone = new Set([...change.remove, ...change.put.map(({ id }) => id)]);
  const damaged = served.damaged.filter(({ id }) => !gone.has(id));
  return { ...served, revision, parts: withChange(served.parts, change), damaged };
}

/** The drawer as the server told it with what waits put into it, as far as they go together. */
function withWaiting(served: Drawer, waiting: readonly Step[]): Drawer {
  const parts = waiting.reduce<Drawer['parts']>((standing, step) => {
    const joined = joinedTo(standing, step);
    return joined.kind === 'joined' ? withChange(standing, joined.change) : standing;
  }, served.parts);
  const gone = new Set(waiting.flatMap(({ unread }) => unread));
  return { ...served, parts, damaged: served.damaged.filter(({ id }) => !gone.has(id)) };
}

/** The drawer as this page knows it, with its own steps to undo. One change waits for the one before. */
export const useDrawer = create<DrawerState>()((set, get) => {
  let keeper: Keeper<UnsavedDrawer> | null = null;
  let sending: Promise<void> | null = null;
  let retry: ReturnType<typeof setTimeout> | undefined;
  /** Whoever made a change and still waits for it, by its id. */
  const makers = new Map<string, (refusal: Refusal) => void>();

  const stand = (served: Drawer | null, waiting: Step[]) => {
    set({ served, waiting, drawer: served && withWaiting(served, waiting) });
    if (waiting.length > 0) (keeper ??= unsavedDrawer.keeper()).keep({ at: new Date().toISOString(), steps: waiting });
    else keeper?.forget();
  };
  const without = ({ id }: Step) => get().waiting.filter((step) => step.id !== id);

  /** Makes a change from the drawer as it is known; where others changed it meanwhile, from what stands. */
  const sendOne = async (step: Step): Promise<void> => {
    for (let attempt = 0; attempt < MOST_ATTEMPTS; attempt += 1) {
      const known = get().served ?? (await fetchDrawer([]));
      const joined = joinedTo(known.parts, step);
      if (joined.kind === 'overlap') throw new Refusal([{ path: '$', message: changedElsewhere(joined.names) }]);
      const { conflict, drawer, revision } = await changeDrawer({
        ...joined.change,
        changeId: step.id,
        baseRevision: known.revision,
      });
      const now = drawer ?? afterChange(known, joined.change, revision);
      const { served, waiting } = get();
      stand(served && served.revision > now.revision ? served : now, conflict ? waiting : without(step));
      if (!conflict) return;
    }
    throw new Trouble([{ path: '$', message: 'others keep changing the drawer' }]);
  };

  const sendAll = async (): Promise<void> => {
    clearTimeout(retry);
    for (let step = get().waiting[0]; step; step = get().waiting[0]) {
      try {
        await sendOne(step);
        set({ trouble: null });
      } catch (error) {
        if (!(error instanceof Refusal) || error instanceof Trouble) {
          retry = setTimeout(() => void send(), RETRY_MILLISECONDS);
          return set({ trouble: error instanceof Trouble ? error.message : 'the server cannot be reached' });
        }
        stand(get().served, without(step));
        set(({ past }) => ({ past: past.filter(({ id }) => id !== step.id), trouble: null }));
        const maker = makers.get(step.id);
        if (maker) maker(error);
        else toast.error(`${step.what} did not work: ${error.message}.`);
      }
    }
  };

  /** Sends what waits, one after the other. */
  const send = async (): Promise<void> => {
    while (sending) await sending;
    sending = sendAll();
    await sending;
    sending = null;
  };

  /** Makes a change here at once, and sends it; throws where it is refused before the first try of it is over. */
  const make = async (step: Step): Promise<void> => {
    let refusal: Refusal | null = null;
    makers.set(step.id, (error) => (refusal = error));
    stand(get().served, [...get().waiting, step]);
    await send();
    makers.delete(step.id);
    if (refusal) throw refusal;
  };
  const stepOf = (change: PartChange, what: string): Step => ({ ...change, what, id: crypto.randomUUID() });

  return {
    drawer: null,
    first: null,
    served: null,
    waiting: [],
    trouble: null,
    past: [],
    future: [],
    show: (served) => {
      if ((get().served?.revision ?? -1) <= served.revision) stand(served, get().waiting);
    },
    load: async () => get().show(await fetchDrawer((get().served ?? get().first)?.parts ?? [])),
    loadFrom: (first) => {
      set({ first });
      return patiently(get().load);
    },
    whole: async () => {
      if (!get().drawer) await get().load();
      return get().drawer!;
    },
    follow: async () => {
      const { served, waiting } = get();
      // What is being sent is told what stands anyway.
      if (!served || waiting.length > 0) return false;
      const newer = await fetchNewerDrawer(served).catch(() => null);
      if (!newer || get().served !== served || get().waiting.length > 0) return false;
      get().show(newer);
      return true;
    },
    change: async ({ put = [], remove = [] }, what) => {
      // What is changed is on screen, so among the first where not all is known.
      const { parts } = get().drawer ?? get().first ?? (await get().whole());
      const step = stepOf(partChange(put, remove, parts), what);
      if (backFrom(step)) set(({ past }) => ({ past: [...past, step], future: [] }));
      await make(step);
    },
    undo: async () => {
      const step = get().past.at(-1);
      const back = step && backFrom(step);
      if (!back) return null;
      set(({ past, future }) => ({ past: past.slice(0, -1), future: [step, ...future] }));
      try {
        await make(stepOf(back, step.what));
      } catch (error) {
        set(({ past, future }) => ({ past: [...past, step], future: future.filter((one) => one !== step) }));
        throw error;
      }
      return step.what;
    },
    redo: async () => {
      const [step] = get().future;
      if (!step) return null;
      const again = stepOf(step, step.what);
      set(({ past, future }) => ({ past: [...past, again], future: future.slice(1) }));
      await make(again);
      return step.what;
    },
    send,
    take: async (steps) => {
      for (const step of steps) await make(step);
    },
    isKept: () => keeper?.isKept() ?? false,
  };
});

/**
 * The drawer as it is known here: as the page was served with it, or later. A
 * page is served with the first parts alone where there are many; the rest is
 * fetched once it stands.
 *
 * @param text JSON of a {@link DrawerOpening}; our own server has checked it
 * @returns the drawer, and how many parts of it are still being fetched
 */
export function useStandingDrawer(text: string): { drawer: Drawer; toCome: number } {
  const { drawer, waiting, show, loadFrom } = useDrawer();
  const opening = useMemo(() => JSON.parse(text) as DrawerOpening, [text]);
  useEffect(() => {
    const known = useDrawer.getState().served;
    if (opening.whole) show(opening.drawer);
    else if (!known || known.revision < opening.drawer.revision) void loadFrom(opening.drawer);
  }, [opening, show, loadFrom]);
  const first = useMemo(() => withWaiting(opening.drawer, waiting), [opening, waiting]);
  const { parts, damaged } = opening.drawer;
  return drawer ? { drawer, toCome: 0 } : { drawer: first, toCome: opening.of - parts.length - damaged.length };
}
