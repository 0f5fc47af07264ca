import { createStore, del, entries, set, type UseStore } from 'idb-keyval';
import type * as z from '@/core/zod';

/** Whoever keeps something holds a lock while he stands, which ends with his page however that ends. */
const LOCKS = 'eager-ladder-editor/';

/** Keys of the editors that stand, in any tab; none where the browser cannot tell. */
async function standing(): Promise<ReadonlySet<string>> {
  if (typeof navigator === 'undefined' || !navigator.locks) return new Set();
  const { held = [] } = await navigator.locks.query();
  return new Set(held.flatMap(({ name }) => (name?.startsWith(LOCKS) ? [name.slice(LOCKS.length)] : [])));
}

/** Keeps what one editor has not saved, the latest of it, for as long as it is not forgotten. */
export type Keeper<T> = {
  keep: (unsaved: T) => void;
  forget: () => void;
  /** Whether what was last to be kept could be. */
  isKept: () => boolean;
  /** Waits until all that was asked for is done. */
  settled: () => Promise<void>;
  /** The editor is gone: what it leaves can be offered. */
  leave: () => void;
};

/** What an editor that is gone has left. */
export type Left<T> = T & { key: string };

/**
 * Keeps in the browser, over the end of a page, what its editors have not saved.
 *
 * @param name of the browser's database for it
 * @param schema what is kept; what it refuses is passed over
 */
export function keepingOf<T extends { at: string }>(name: string, schema: z.ZodType<T>) {
  let opened: UseStore | null = null;
  const store = (): UseStore => (opened ??= createStore(name, 'kept'));
  return {
    keeper: (): Keeper<T> => {
      const key = crypto.randomUUID();
      let release = () => {};
      if (typeof navigator !== 'undefined' && navigator.locks)
        void navigator.locks.request(`${LOCKS}${key}`, () => new Promise<void>((resolve) => (release = resolve)));
      let wanted: T | null = null;
      let written: T | null = null;
      let kept = true;
      let done = Promise.resolve();
      const write = async () => {
        // Keystrokes that came while one was written are written once, as the last of them left it.
        if (written === wanted) return;
        const latest = wanted;
        try {
          await (latest === null ? del(key, store()) : set(key, latest, store()));
          kept = true;
        } catch {
          kept = false;
        }
        written = latest;
      };
      const want = (unsaved: T | null) => {
        wanted = unsaved;
        done = done.then(write);
      };
      return {
        keep: want,
        forget: () => want(null),
        isKept: () => kept,
        settled: () => done,
        leave: () => release(),
      };
    },

    /** What editors that are gone have left, the latest first. */
    findLeft: async (): Promise<Left<T>[]> => {
      try {
        const alive = await standing();
        const found = (await entries<string, unknown>(store())).flatMap(([key, value]) => {
          const read = schema.safeParse(value);
          return read.success && !alive.has(key) ? [{ ...read.data, key }] : [];
        });
        return found.sort((a, b) => b.at.localeCompare(a.at));
      } catch {
        // A browser that keeps nothing has nothing left.
        return [];
      }
    },

    dropLeft: async ({ key }: { key: string }): Promise<void> => {
      await del(key, store()).catch(() => undefined);
    },
  };
}
