'use client';

import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Design } from '@/core/design/design-schema';
import type { Prediction } from '@/core/predict/prediction';

/** A picture as the closed form draws it, and as the time domain does once that is there. */
export type Pictured = { closedForm: Prediction; settled: Prediction | null };

/**
 * Keeps what stood on screen before a change that was applied as a whole, for
 * as long as nothing else is changed: drawn the same way as what is there now,
 * so that only the change shows.
 *
 * @param design the one that is drawn
 * @param pictured as it is drawn
 */
export function useBefore(
  design: Design,
  pictured: Pictured,
): {
  ghost: { prediction: Prediction; onHide: () => void } | null;
  /** To be called after a change, with the design that it led to. */
  remember: (after: Design) => void;
} {
  const [kept, setKept] = useState<{ before: Pictured; after: Design } | null>(null);
  const latest = useRef(pictured);
  useEffect(() => {
    latest.current = pictured;
  });
  const remember = useCallback((after: Design) => setKept({ before: latest.current, after }), []);
  const onHide = useCallback(() => setKept(null), []);
  const before = kept?.after === design ? kept.before : null;
  const prediction = before && (pictured.settled ? (before.settled ?? before.closedForm) : before.closedForm);
  const ghost = useMemo(() => (prediction ? { prediction, onHide } : null), [prediction, onHide]);
  return { ghost, remember };
}
