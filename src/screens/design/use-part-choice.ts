'use client';

import { useCallback, useMemo, useState } from 'react';

const NO_TRACES: readonly string[] = [];

/** Which chart is open, which part is selected, and what is traced in the waveforms. */
export function usePartChoice() {
  const [tab, setTab] = useState('load-line');
  const [part, setPart] = useState<string | null>(null);
  const [traces, setTraces] = useState<readonly string[]>(NO_TRACES);
  const tracing = tab === 'waveforms';
  /** Puts a node or part into the waveforms, or takes it out. */
  const trace = useCallback(
    (id: string) => setTraces((now) => (now.includes(id) ? now.filter((one) => one !== id) : [...now, id])),
    [],
  );
  const choosePart = useCallback(
    (id: string | null) => {
      setPart(id);
      if (id !== null && tracing) trace(id);
    },
    [tracing, trace],
  );
  return useMemo(
    () => ({
      tab,
      setTab,
      part,
      choosePart,
      traces,
      setTraces,
      traced: tracing ? traces : NO_TRACES,
      trace: tracing ? trace : null,
    }),
    [tab, part, choosePart, traces, tracing, trace],
  );
}
