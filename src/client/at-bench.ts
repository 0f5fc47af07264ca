import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { runSchema, type DeadRun } from '@/core/dead/run';
import * as z from '@/core/zod';
import { Trouble } from './answers';
import { keepDischarge } from './discharges-api';

/** A run under way in this browser, by its design, and what of it the server has. */
const keptSchema = z.strictObject({ run: runSchema, sent: z.boolean() });
type Kept = z.output<typeof keptSchema>;

type AtBench = {
  runs: Record<string, Kept>;
  /** Takes a run as it stands now; it is kept here at once, and sent. */
  put: (designId: string, run: DeadRun) => void;
  /** Forgets a run here; what the server has of it stays there. */
  drop: (designId: string) => void;
};

/** Runs under way, kept in this browser over reload and closed tabs until the server has them. */
export const useAtBench = create<AtBench>()(
  persist(
    (set, get) => ({
      runs: {},
      put: (designId, run) => {
        set({ runs: { ...get().runs, [designId]: { run, sent: false } } });
        void sendRun(designId);
      },
      drop: (designId) => {
        set({ runs: Object.fromEntries(Object.entries(get().runs).filter(([id]) => id !== designId)) });
      },
    }),
    {
      name: 'eager-ladder-at-the-bench',
      partialize: ({ runs }) => ({ runs }),
      // What another version left there, or a hand changed, must not break the screen.
      merge: (stored, state) => {
        const kept = (stored as { runs?: Record<string, unknown> } | undefined)?.runs ?? {};
        const sound = Object.entries(kept).flatMap(([id, one]) => {
          const read = keptSchema.safeParse(one);
          return read.success ? [[id, read.data] as const] : [];
        });
        return { ...state, runs: Object.fromEntries(sound) };
      },
    },
  ),
);

const sending = new Set<string>();

/** Sends what of a design's run the server has not; a run that it refuses stays here alone. */
export async function sendRun(designId: string): Promise<void> {
  const kept = useAtBench.getState().runs[designId];
  if (!kept || kept.sent || sending.has(designId)) return;
  sending.add(designId);
  let again = false;
  try {
    await keepDischarge(designId, kept.run);
    const { runs } = useAtBench.getState();
    // Steps that were done meanwhile are sent next.
    if (runs[designId]?.run === kept.run)
      useAtBench.setState({ runs: { ...runs, [designId]: { run: kept.run, sent: true } } });
    else again = true;
  } catch (error) {
    if (error instanceof Error && 'faults' in error && !(error instanceof Trouble)) console.error(error.message);
  } finally {
    sending.delete(designId);
  }
  if (again) await sendRun(designId);
}
