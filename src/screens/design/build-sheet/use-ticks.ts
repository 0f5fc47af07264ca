'use client';

import { useEffect, useMemo } from 'react';
import { openTicks, takeTicks, ticksOf, useTicks } from '@/client/ticks-store';
import { earlierTicks } from '@/core/build/ticks';
import { useSame } from '@/ui/use-same';

/** Which steps of a revision's sheet are done, and how that is changed; fresh while the page is in sight. */
export function useSheetTicks(designId: string, revision: number) {
  useEffect(() => openTicks(designId), [designId]);
  const state = useTicks();
  // Asked for anew every few seconds, and mostly the same.
  const all = useSame(useMemo(() => (state.designId === designId ? ticksOf(state) : []), [state, designId]));
  const done = useMemo(
    () => new Map(all.flatMap((one) => (one.revision === revision ? [[one.step, one.doneAt] as const] : []))),
    [all, revision],
  );
  const now = () => new Date().toISOString();
  return {
    refused: state.refused,
    isWaiting: state.waiting[designId] !== undefined,
    earlier: useMemo(() => earlierTicks(all, revision), [all, revision]),
    doneAt: (step: string) => done.get(step) ?? null,
    onTick: (step: string, isDone: boolean) => takeTicks(designId, [{ revision, step, doneAt: isDone ? now() : null }]),
    /** Takes several as done here as well. */
    takeOver: (steps: readonly string[]) =>
      takeTicks(
        designId,
        steps.map((step) => ({ revision, step, doneAt: now() })),
      ),
  };
}
