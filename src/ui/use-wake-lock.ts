'use client';

import { useEffect } from 'react';

/** Keeps the screen awake while a component is on it, where the browser allows. */
export function useWakeLock(): void {
  useEffect(() => {
    if (!('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let over = false;
    const take = () => {
      if (document.visibilityState !== 'visible') return;
      navigator.wakeLock.request('screen').then(
        (held) => {
          if (over) void held.release();
          else lock = held;
        },
        // A battery that runs low, or a page that is not secure: the screen goes dark as it always does.
        () => {},
      );
    };
    take();
    // The browser lets go of it with a page out of sight.
    document.addEventListener('visibilitychange', take);
    return () => {
      over = true;
      document.removeEventListener('visibilitychange', take);
      void lock?.release();
    };
  }, []);
}
