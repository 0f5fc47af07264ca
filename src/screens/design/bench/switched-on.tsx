'use client';

import { formatDuration, intervalToDuration } from 'date-fns';
import { useEffect, useState } from 'react';
import { useSwitchedOn } from '@/client/bench-store';
import type { Session } from '@/core/bench/session';
import { buttonStyle } from '@/ui/button';

/** Since when the source is on: readings that follow carry how long that is. */
export function SwitchedOn({ session: { id } }: { session: Session }) {
  const { settings, change } = useSwitchedOn();
  const at = settings.sessionId === id ? settings.at : null;
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (at === null) return;
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [at]);
  if (at === null)
    return (
      <div>
        <button
          type="button"
          className={buttonStyle('plain')}
          onClick={() => {
            setNow(Date.now());
            change({ sessionId: id, at: new Date().toISOString() });
          }}
        >
          Switched on now
        </button>{' '}
        <span className="text-[13px] text-soft">readings then carry the time since</span>
      </div>
    );
  const start = Date.parse(at);
  const words = formatDuration(intervalToDuration({ start, end: Math.max(start + 1000, now) }));
  return (
    <div className="flex flex-wrap items-baseline gap-2 text-[13px]">
      <span data-bench="switched-on">On for {words}.</span>
      <button type="button" className={buttonStyle('plain')} onClick={() => change({ at: null })}>
        Switched off
      </button>
    </div>
  );
}
