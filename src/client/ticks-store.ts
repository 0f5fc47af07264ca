import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { changedTicks, tickChangesSchema, type Tick, type TickChange } from '@/core/build/ticks';
import * as z from '@/core/zod';
import { Refusal, Trouble } from './answers';
import { keepFresh } from './keep-fresh';
import { fetchTicks, keepTicks } from './ticks-api';

/** How often what others have done is asked for, and what waits is sent anew, ms. */
const AGAIN_MILLISECONDS = 5000;

type Ticks = {
  /** Of which design the rest is. */
  designId: string | null;
  /** What the server has; null until it has said so. */
  kept: Tick[] | null;
  /** What it has not, by design: over a reload, a closed tab, a cut line. */
  waiting: Record<string, TickChange[]>;
  /** Why the server does not take what waits; null where it is not asked, or away. */
  refused: string | null;
};

const waitingSchema = z.record(z.string(), tickChangesSchema);

/** Steps of build sheets that are done, of the design on screen. */
export const useTicks = create<Ticks>()(
  persist((): Ticks => ({ designId: null, kept: null, waiting: {}, refused: null }), {
    name: 'eager-ladder-ticks-waiting',
    partialize: ({ waiting }) => ({ waiting }),
    // What another version left there, or a hand changed, must not break the screen.
    merge: (stored, state) => {
      const read = z.object({ waiting: waitingSchema }).safeParse(stored);
      return read.success ? { ...state, waiting: read.data.waiting } : state;
    },
  }),
);

/** What is done of the design on screen, what waits included. */
export const ticksOf = ({ designId, kept, waiting }: Ticks): Tick[] =>
  changedTicks(kept ?? [], (designId && waiting[designId]) || []);

/** How often something was taken here. */
let taken = 0;

/** Takes steps as done or not: kept in this browser at once, and sent. */
export function takeTicks(designId: string, changes: readonly TickChange[]): void {
  taken += 1;
  const { waiting } = useTicks.getState();
  useTicks.setState({ waiting: { ...waiting, [designId]: [...(waiting[designId] ?? []), ...changes] } });
  void sendTicks(designId);
}

/** Gives up what the server refuses. */
export function dropTicks(designId: string): void {
  const others = Object.entries(useTicks.getState().waiting).filter(([id]) => id !== designId);
  useTicks.setState({ waiting: Object.fromEntries(others), refused: null });
}

let sending: Promise<void> | null = null;

/** Sends what waits; what was changed meanwhile next. */
function sendTicks(designId: string): Promise<void> {
  sending ??= send(designId).finally(() => (sending = null));
  return sending;
}

async function send(designId: string): Promise<void> {
  for (;;) {
    const changes = useTicks.getState().waiting[designId] ?? [];
    if (changes.length === 0) return;
    try {
      await keepTicks(designId, changes);
    } catch (error) {
      if (error instanceof Refusal && !(error instanceof Trouble)) useTicks.setState({ refused: error.message });
      return;
    }
    useTicks.setState((state) => {
      const { [designId]: now = [], ...others } = state.waiting;
      const left = now.slice(changes.length);
      return {
        kept: state.designId === designId ? changedTicks(state.kept ?? [], changes) : state.kept,
        waiting: left.length > 0 ? { ...others, [designId]: left } : others,
        refused: null,
      };
    });
  }
}

/** Opens what is done of a design and keeps it fresh while the page is in sight; gives what ends that. */
export function openTicks(designId: string): () => void {
  let over = false;
  if (useTicks.getState().designId !== designId) useTicks.setState({ designId, kept: null, refused: null });
  const refresh = async () => {
    await sendTicks(designId);
    const before = taken;
    const kept = await fetchTicks(designId).catch(() => null);
    // An answer to what was asked before a change does not have it: the next will.
    if (kept && !over && taken === before && useTicks.getState().designId === designId) useTicks.setState({ kept });
  };
  const end = keepFresh(refresh, AGAIN_MILLISECONDS);
  return () => {
    over = true;
    end();
  };
}
